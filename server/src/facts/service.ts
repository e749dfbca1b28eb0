import type { facts, TypeOf } from '@ladder/contract';
import { BUILT_IN_FIELDS, canonicalText, type Field, fieldProblems, foldText } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { type Context, inCommand } from '../context.ts';
import { FieldEntity, type FieldRow } from '../db/entities/field.ts';
import { newKey } from '../ids.ts';
import { invalid, notFound, Problem } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import { type Setter, setterOf } from '../settingsLog/settingsLog.ts';
import { recalculateParties } from './calculatedParties.ts';
import { presentCatalogue } from './catalogue.ts';
import { logField } from './fieldLog.ts';
import { pageOfFields } from './pageOfFields.ts';
import { isFilled, lockCatalogue } from './repository.ts';

export const listFields = async (context: Context, query: { after?: string; limit?: number }): Promise<unknown> =>
  pageOfFields(await presentCatalogue(context.dataSource), query);

/** Adds a field. Its type and unit are for good: another one means another field (S30). */
export const addField = (tx: EntityManager, input: TypeOf<typeof facts.newField>, setter: Setter): Promise<Field> =>
  makeField(tx, { ...input, id: newKey() }, '', setter);

/** The same under an id that something names already; what is wrong is told under a pointer. */
export async function makeField(tx: EntityManager, field: Field, above: string, setter: Setter): Promise<Field> {
  await lockCatalogue(tx);
  const catalogue = await presentCatalogue(tx);
  const problems = fieldProblems(field, catalogue);
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
  await logField(tx, null, field, catalogue, setter);
  if (field.type === 'calculated' && field.holder !== 'deal') await recalculateParties(tx, field.holder);
  return field;
}

type FieldChange = TypeOf<typeof facts.fieldChange>;

/**
 * Changes a field as it was seen. Its type and unit are for good once it is used (S30). A choice that is left out is
 * withdrawn, never lost (S26).
 */
export async function changeField(
  context: Context,
  person: Person,
  id: string,
  { saw, ...change }: FieldChange,
): Promise<Field> {
  return inCommand(context, async (tx) => {
    const row = await lockField(tx, id);
    requireSeen(row.definition, saw, change);
    const field = changedField(row.definition, change);
    if (field.type !== row.definition.type || field.unit !== row.definition.unit) await requireUnused(tx, row);
    return rewriteField(tx, row.definition, field, setterOf(context, person));
  });
}

/** A field of the administrator's and the catalogue that it stands in, both held until the transaction ends. */
export async function lockField(tx: EntityManager, id: string): Promise<FieldRow> {
  await lockCatalogue(tx);
  const row = await tx.getRepository(FieldEntity).findOneBy({ id });
  if (row) return row;
  throw BUILT_IN_FIELDS.some((field) => field.id === id)
    ? new Problem(409, 'A built-in field stays as it is.')
    : notFound('field');
}

/** Writes a field's definition in place of the one before, logged before and after; throws where something is wrong with it. */
export async function rewriteField(tx: EntityManager, before: Field, field: Field, setter: Setter): Promise<Field> {
  const catalogue = await presentCatalogue(tx);
  const problems = fieldProblems(field, catalogue);
  if (problems.length > 0) throw invalid([...problems]);
  const { id, name, type } = field;
  await tx.getRepository(FieldEntity).update({ id }, { name, nameFold: foldText(name), type, definition: field });
  await logField(tx, before, field, catalogue, setter);
  return field;
}

/** What was seen of the parts that are changed has to be so still. */
function requireSeen(field: Field, saw: FieldChange['saw'], change: Omit<FieldChange, 'saw'>): void {
  const parts = Object.keys(change) as (keyof typeof change)[];
  const stale = parts.filter((part) => canonicalText(saw[part] ?? null) !== canonicalText(field[part] ?? null));
  if (stale.length > 0)
    throw new Problem(409, 'Somebody else changed this field since you opened it.', {
      errors: stale.map((part) => ({
        pointer: `/${part}`,
        detail: 'This was changed meanwhile. Close, and open the field again to see how it is now.',
      })),
    });
}

/** Throws where the field was published, or holds anything: what it means is for good then. */
async function requireUnused(tx: EntityManager, { definition, firstUsedAt }: FieldRow): Promise<void> {
  if (firstUsedAt === null && !(await isFilled(tx, definition))) return;
  throw invalid(
    [
      {
        pointer: '/type',
        detail: `${definition.name} is in use, so its type and unit stay. Make another field, list that in the process instead, and import its values.`,
      },
    ],
    422,
  );
}

function changedField(field: Field, { choices, ...change }: Omit<FieldChange, 'saw'>): Field {
  const isChoice = ['choice', 'choices'].includes(change.type ?? field.type);
  const kept = field.choices
    ?.filter(({ id }) => !choices?.some((choice) => choice.id === id))
    .map((choice) => ({ ...choice, withdrawn: true }));
  const written = { ...field, ...change, ...(choices ? { choices: [...choices, ...(kept ?? [])] } : {}) };
  // Nothing stands for a part that is taken away, and what only another type has goes with the type.
  return Object.fromEntries(
    Object.entries(written).filter(
      ([part, value]) => value !== null && value !== undefined && (part !== 'choices' || isChoice),
    ),
  ) as unknown as Field;
}
