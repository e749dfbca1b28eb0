import type { messages as contract, InputProblem, TypeOf } from '@ladder/contract';
import { type DealId, isHeaderText, isMailAddress, type MessageState, unfilledFields } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { requireChange } from '../access/dealAccess.ts';
import type { Context } from '../context.ts';
import { MessageEntity, type MessageRow } from '../db/entities/message.ts';
import { at } from '../db/sql.ts';
import { openDeal, openWholeDeal } from '../deals/runCommand.ts';
import { DEFAULT_LIMIT, readCursor, toPage } from '../http/pages.ts';
import { newId } from '../ids.ts';
import { invalid, notFound, Problem } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import { draftOf } from './drafting.ts';
import { toMime } from './mime.ts';
import { type FoundMessage, findDealMessages, findMessage, findMessages, findTemplate } from './repository.ts';

type View = TypeOf<typeof contract.message>;
type Written = TypeOf<typeof contract.written>;
type Draft = TypeOf<typeof contract.draft>;

interface OfDeal {
  readonly deal: DealId;
  readonly message: string;
}

const toView = ({ place: _place, nextTryAt, madeAt, sentAt, ...row }: FoundMessage): View => ({
  ...row,
  nextTryAt: nextTryAt?.toISOString() ?? null,
  madeAt: madeAt.toISOString(),
  sentAt: sentAt?.toISOString() ?? null,
});

/** The whole outbox, the latest first. */
export async function listMessages(
  context: Context,
  query: { readonly after?: string; readonly limit?: number; readonly state?: MessageState },
): Promise<unknown> {
  const [limit, cursor] = [query.limit ?? DEFAULT_LIMIT, readCursor(query.after, ['number'])];
  const asked = {
    limit: limit + 1,
    ...(query.state ? { state: query.state } : {}),
    ...(cursor ? { before: cursor[0] } : {}),
  };
  const rows = await findMessages(context.dataSource, asked);
  return toPage(rows, limit, ({ place }) => [Number(place)], toView);
}

export async function listDealMessages(context: Context, person: Person, deal: DealId): Promise<{ items: View[] }> {
  await openDeal(context.dataSource, person, deal, []);
  return { items: (await findDealMessages(context.dataSource, deal)).map(toView) };
}

/** What a template makes of a deal as it is. */
export async function draftMessage(context: Context, person: Person, id: DealId, template: string): Promise<Draft> {
  const { deal, setting } = await openWholeDeal(context.dataSource, person, id);
  const found = await findTemplate(context.dataSource, template);
  if (!found) throw notFound('template');
  return draftOf(context.dataSource, deal, setting, found);
}

/** A message that someone wrote or went over: it is sent as it stands. */
export async function addMessage(
  { clock }: Context,
  tx: EntityManager,
  person: Person,
  deal: DealId,
  written: Written,
): Promise<View> {
  await requireOwnDeal(tx, person, deal);
  requireSendable(written);
  const now = clock.now();
  const id = newId(now);
  const whose = { dealId: deal, madeAt: at(now), madeBy: person.id };
  await tx.getRepository(MessageEntity).insert({ id, ...whose, ...queued(written, person, now) });
  return present(tx, { deal, message: id });
}

export async function confirmMessage(
  { clock }: Context,
  tx: EntityManager,
  person: Person,
  of: OfDeal,
  written: Written,
): Promise<View> {
  await requireOwnDeal(tx, person, of.deal);
  requireSendable(written);
  await lockIn(tx, of, ['to_confirm'], 'This message is not to be confirmed any more.');
  await tx.getRepository(MessageEntity).update({ id: of.message }, queued(written, person, clock.now()));
  return present(tx, of);
}

export async function dropMessage(tx: EntityManager, person: Person, of: OfDeal): Promise<View> {
  await requireOwnDeal(tx, person, of.deal);
  const droppable: readonly MessageState[] = ['to_confirm', 'queued', 'failed', 'given_up'];
  await lockIn(tx, of, droppable, 'This message was sent already.');
  await tx.getRepository(MessageEntity).update({ id: of.message }, { state: 'dropped', nextTryAt: null, toMake: null });
  return present(tx, of);
}

/** A message as a file that any mail program reads. */
export async function messageFile(context: Context, person: Person, { deal, message }: OfDeal): Promise<Buffer> {
  await openDeal(context.dataSource, person, deal, []);
  const found = await findMessage(context.dataSource, deal, message);
  if (!found) throw notFound('message');
  const { to, ...rest } = found;
  return toMime({ ...rest, toName: to.name, toAddress: to.address }, context.mailer.from);
}

const queued = ({ name, address, subject, body }: Written, person: Person, now: number): Partial<MessageRow> => ({
  state: 'queued',
  toName: name,
  toAddress: address,
  subject,
  body,
  problem: null,
  toMake: null,
  nextTryAt: at(now),
  confirmedAt: at(now),
  confirmedBy: person.id,
});

async function requireOwnDeal(tx: EntityManager, person: Person, id: DealId): Promise<void> {
  const { deal } = await openDeal(tx, person, id, []);
  requireChange(person, deal as never);
}

const holesIn = (text: string, pointer: string): readonly InputProblem[] =>
  unfilledFields(text).map((field) => ({
    pointer,
    detail: `Write what stands for {${field}}: the deal does not tell it.`,
  }));

/** Nothing that could end a header, one address alone, and no hole. */
function requireSendable({ name, address, subject, body }: Written): void {
  const problems = [
    ...holesIn(subject, '/subject'),
    ...holesIn(body, '/body'),
    ...(isMailAddress(address) ? [] : [{ pointer: '/address', detail: 'One mail address, such as ada@example.org.' }]),
    ...(isHeaderText(name) ? [] : [{ pointer: '/name', detail: 'A name is one line.' }]),
    ...(isHeaderText(subject) ? [] : [{ pointer: '/subject', detail: 'A subject is one line.' }]),
  ];
  if (problems.length > 0) throw invalid(problems, 422);
}

async function lockIn(
  tx: EntityManager,
  { deal, message: id }: OfDeal,
  states: readonly MessageState[],
  refusal: string,
): Promise<void> {
  const row = await tx
    .getRepository(MessageEntity)
    .findOne({ where: { id, dealId: deal }, lock: { mode: 'pessimistic_write' } });
  if (!row) throw notFound('message');
  if (!states.includes(row.state)) throw new Problem(409, refusal);
}

async function present(tx: EntityManager, { deal, message }: OfDeal): Promise<View> {
  const found = await findMessage(tx, deal, message);
  if (!found) throw notFound('message');
  return toView(found);
}
