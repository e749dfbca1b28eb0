import type { facts, TypeOf } from '@ladder/contract';
import {
  BUILT_IN_FIELDS,
  type Catalogue,
  FIRST_DAY,
  type Field,
  type FieldHolder,
  foldText,
  formulaFields,
  LAST_DAY,
} from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { type Context, inCommand } from '../context.ts';
import { FieldEntity } from '../db/entities/field.ts';
import { DEFAULT_LIMIT, readCursor, toPage } from '../http/pages.ts';
import { newKey } from '../ids.ts';
import { invalid, notFound, Problem } from '../problems/problem.ts';
import { recalculateParties } from './calculatedParties.ts';
import { presentCatalogue } from './catalogue.ts';

export async function listFields(context: Context, query: { after?: string; limit?: number }): Promise<unknown> {
  const [limit, cursor] = [query.limit ?? DEFAULT_LIMIT, readCursor(query.after, ['number'])];
  const all = [...(await presentCatalogue(context.dataSource)).values()].map((field, place) => ({ field, place }));
  const rows = all.filter(({ place }) => place > (cursor?.[0] ?? -1)).slice(0, limit + 1);
  return toPage(
    rows,
    limit,
    ({ place }) => [place],
    ({ field }) => field,
  );
}

/** Adds a field. Its type and unit are for good: another one means another field (S30). */
export async function addField(tx: EntityManager, input: TypeOf<typeof facts.newField>): Promise<Field> {
  return makeField(tx, { ...input, id: newKey() }, '');
}

/** The same under an id that something names already; what is wrong is told under a pointer. */
export async function makeField(tx: EntityManager, field: Field, above: string): Promise<Field> {
  const problems = fieldProblems(field, await presentCatalogue(tx));
  if (problems.length > 0)
    throw invalid(
      problems.map(({ pointer, detail }) => ({
        pointer: `${above}${pointer}`,
        detail: above === '' ? detail : `${field.name}: ${detail}`,
      })),
    );
  const fields = tx.getRepository(FieldEntity);
  await fields.insert({
    id: field.id,
    holder: field.holder,
    type: field.type,
    name: field.name,
    nameFold: foldText(field.name),
    definition: field,
    searchable: false,
    firstUsedAt: null,
    place: ((await fields.maximum('place')) ?? 0) + 1,
  });
  if (field.type === 'calculated' && field.holder !== 'deal') await recalculateParties(tx, field.holder);
  return field;
}

function fieldProblems(field: Field, catalogue: Catalogue): { pointer: string; detail: string }[] {
  const problems: { pointer: string; detail: string }[] = [];
  const isChoice = field.type === 'choice' || field.type === 'choices';
  const sameName = [...catalogue.values()].some(
    ({ holder, name, id }) => id !== field.id && holder === field.holder && foldText(name) === foldText(field.name),
  );
  if (sameName) problems.push({ pointer: '/name', detail: `There is already a field called “${field.name}”.` });
  if (isChoice && !field.choices?.length) problems.push({ pointer: '/choices', detail: 'Give at least one choice.' });
  if (!isChoice && field.choices) problems.push({ pointer: '/choices', detail: 'Only a choice field has choices.' });
  if (new Set(field.choices?.map(({ id }) => id)).size < (field.choices?.length ?? 0))
    problems.push({ pointer: '/choices', detail: 'Two choices have the same id.' });
  if ((field.type === 'calculated') !== (field.formula !== undefined))
    problems.push({ pointer: '/formula', detail: 'A calculated number, and nothing else, has a formula.' });
  if (field.min !== undefined && field.max !== undefined && field.min > field.max)
    problems.push({ pointer: '/max', detail: 'The upper bound is below the lower one.' });
  const { firstDay = FIRST_DAY, lastDay = LAST_DAY } = field;
  if (field.type !== 'date' && (field.firstDay !== undefined || field.lastDay !== undefined))
    problems.push({
      pointer: field.firstDay === undefined ? '/lastDay' : '/firstDay',
      detail: 'Only a date has days as bounds.',
    });
  else if (firstDay > lastDay)
    problems.push({
      pointer: field.lastDay === undefined ? '/firstDay' : '/lastDay',
      detail: `Nothing lies between ${firstDay} and ${lastDay}.`,
    });
  const strange = (field.formula ? formulaFields(field.formula) : []).find(
    (id) => !isReckonable(catalogue.get(id), field.holder),
  );
  if (strange !== undefined)
    problems.push({
      pointer: '/formula',
      detail: `“${catalogue.get(strange)?.name ?? strange}” is not a number or money field of a ${field.holder}.`,
    });
  return problems;
}

/** A formula is worked out over the values of one record, so it reads numbers and amounts of that record alone. */
const isReckonable = (field: Field | undefined, holder: FieldHolder): boolean =>
  field?.holder === holder && ['number', 'money', 'calculated'].includes(field.type);

/** Changes a field's name, help, bounds or choices. A choice that is left out is withdrawn, never lost (S26, S30). */
export async function changeField(
  context: Context,
  id: string,
  change: TypeOf<typeof facts.fieldChange>,
): Promise<Field> {
  return inCommand(context, async (tx) => {
    const fields = tx.getRepository(FieldEntity);
    const row = await fields.findOne({ where: { id }, lock: { mode: 'pessimistic_write' } });
    if (!row)
      throw BUILT_IN_FIELDS.some((field) => field.id === id)
        ? new Problem(409, 'A built-in field stays as it is.')
        : notFound('field');
    const field = changedField(row.definition, change);
    const problems = fieldProblems(field, await presentCatalogue(tx));
    if (problems.length > 0) throw invalid(problems);
    await fields.update({ id }, { name: field.name, nameFold: foldText(field.name), definition: field });
    return field;
  });
}

function changedField(field: Field, { min, max, choices, ...change }: TypeOf<typeof facts.fieldChange>): Field {
  const kept = field.choices
    ?.filter(({ id }) => !choices?.some((choice) => choice.id === id))
    .map((choice) => ({ ...choice, withdrawn: true }));
  return {
    ...field,
    ...change,
    ...(min === undefined ? {} : { min: min ?? undefined }),
    ...(max === undefined ? {} : { max: max ?? undefined }),
    ...(choices ? { choices: [...choices, ...(kept ?? [])] } : {}),
  } as Field;
}
