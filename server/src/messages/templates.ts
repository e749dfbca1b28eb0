import type { messages as contract, InputProblem, TypeOf } from '@ladder/contract';
import { type Catalogue, describeTemplateProblem, foldText, isHeaderText, templateProblems } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import type { Context } from '../context.ts';
import { MessageTemplateEntity } from '../db/entities/messageTemplate.ts';
import { ProcessEntity } from '../db/entities/process.ts';
import { at } from '../db/sql.ts';
import { presentCatalogue } from '../facts/catalogue.ts';
import { DEFAULT_LIMIT, readCursor, toPage } from '../http/pages.ts';
import { newId } from '../ids.ts';
import { invalid, notFound } from '../problems/problem.ts';
import { logSetting, type Setter } from '../settingsLog/settingsLog.ts';
import { type FoundTemplate, findTemplate, findTemplates } from './repository.ts';

type Body = TypeOf<typeof contract.newTemplate>;
type View = TypeOf<typeof contract.template>;

const toView = ({ name_fold: _fold, ...template }: FoundTemplate): View => template;

export async function listTemplates(
  context: Context,
  query: { readonly after?: string; readonly limit?: number },
): Promise<unknown> {
  const [limit, cursor] = [query.limit ?? DEFAULT_LIMIT, readCursor(query.after, ['text'])];
  const rows = await findTemplates(context.dataSource, limit + 1, cursor?.[0]);
  return toPage(rows, limit, ({ name_fold }) => [name_fold], toView);
}

export async function addTemplate(tx: EntityManager, body: Body, setter: Setter): Promise<View> {
  await requireGood(tx, body, null);
  const id = newId(setter.now);
  await tx.getRepository(MessageTemplateEntity).insert({ id, ...columnsOf(body), withdrawnAt: null });
  await log(tx, null, body, setter);
  return present(tx, id);
}

export async function changeTemplate(tx: EntityManager, id: string, body: Body, setter: Setter): Promise<View> {
  const before = await requireOffered(tx, id);
  await requireGood(tx, body, id);
  await tx.getRepository(MessageTemplateEntity).update({ id }, columnsOf(body));
  await log(tx, before, body, setter);
  return present(tx, id);
}

/** A template that is offered no longer stays for the messages that were made of it. */
export async function removeTemplate(tx: EntityManager, id: string, setter: Setter): Promise<void> {
  await requireOffered(tx, id);
  await tx.getRepository(MessageTemplateEntity).update({ id }, { withdrawnAt: at(setter.now) });
}

async function requireOffered(tx: EntityManager, id: string): Promise<FoundTemplate> {
  const row = await tx
    .getRepository(MessageTemplateEntity)
    .findOne({ where: { id }, lock: { mode: 'pessimistic_write' } });
  const template = row?.withdrawnAt === null ? await findTemplate(tx, id) : null;
  if (!template) throw notFound('template');
  return template;
}

async function present(tx: EntityManager, id: string): Promise<View> {
  const template = await findTemplate(tx, id);
  if (!template) throw notFound('template');
  return toView(template);
}

const columnsOf = ({ name, process, to, subject, body }: Body) => ({
  name: name.trim(),
  nameFold: foldText(name.trim()),
  processId: process,
  toWho: to.who,
  toField: to.who === 'contact' ? to.field : null,
  subject,
  body,
});

/** What is wrong with a template is told as it is written, not as it is used. */
async function requireGood(tx: EntityManager, template: Body, self: string | null): Promise<void> {
  const catalogue = await presentCatalogue(tx);
  const problems = [
    ...textProblems(template.subject, '/subject', catalogue),
    ...(isHeaderText(template.subject) ? [] : [{ pointer: '/subject', detail: 'A subject is one line.' }]),
    ...textProblems(template.body, '/body', catalogue),
    ...addressProblems(template, catalogue),
    ...(template.process === null || (await tx.getRepository(ProcessEntity).existsBy({ id: template.process }))
      ? []
      : [{ pointer: '/process', detail: 'There is no such process.' }]),
  ];
  if (problems.length > 0) throw invalid(problems, 422);
  const named = await tx
    .getRepository(MessageTemplateEntity)
    .createQueryBuilder('t')
    .where('t.name_fold = :fold and t.withdrawn_at is null', { fold: foldText(template.name.trim()) })
    .getOne();
  if (named && named.id !== self)
    throw invalid([{ pointer: '/name', detail: `There is already a template called “${template.name.trim()}”.` }], 409);
}

const textProblems = (text: string, pointer: string, catalogue: Catalogue): readonly InputProblem[] =>
  templateProblems(text, catalogue).map((problem) => ({ pointer, detail: describeTemplateProblem(problem) }));

function addressProblems({ to }: Body, catalogue: Catalogue): readonly InputProblem[] {
  if (to.who === 'owner') return [];
  const field = catalogue.get(to.field ?? '');
  return field?.holder === 'contact' && field.type === 'text'
    ? []
    : [{ pointer: '/to/field', detail: 'Choose the text field of contacts that holds their mail address.' }];
}

function log(
  tx: EntityManager,
  before: Pick<Body, 'name' | 'subject' | 'body'> | null,
  after: Pick<Body, 'name' | 'subject' | 'body'>,
  setter: Setter,
): Promise<void> {
  const told = ({ name, subject, body }: Pick<Body, 'name' | 'subject' | 'body'>) => ({ name, subject, body });
  const change = { what: 'template', subject: after.name, before: before && told(before), after: told(after) } as const;
  return logSetting(tx, change, setter);
}
