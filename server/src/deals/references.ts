import type { InputProblem } from '@ladder/contract';
import type { Catalogue, FieldType, Values } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import type { Person } from '../session/person.ts';
import { findReferences } from './repository/names.ts';

const TABLES: Partial<Record<FieldType, string>> = {
  person: 'people',
  team: 'teams',
  customer: 'customers',
  contact: 'contacts',
};
const ID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

/** Values that name a person, team, customer or contact that does not exist, or is not the person's to see; `pointerTo` says where each was written. */
export async function checkReferences(
  tx: EntityManager,
  person: Person,
  catalogue: Catalogue,
  values: Values,
  pointerTo: (field: string) => string,
): Promise<readonly InputProblem[]> {
  const named = Object.entries(values).flatMap(([field, value]) => {
    const table = TABLES[catalogue.get(field)?.type ?? 'text'];
    return table && typeof value === 'string' ? [{ field, table, id: value }] : [];
  });
  if (named.length === 0) return [];
  const ids = named.map(({ id }) => id).filter((id) => ID.test(id));
  const rows = await findReferences(tx, person, ids);
  const known = new Set(rows.map(({ id, table }) => `${table} ${id}`));
  return named
    .filter(({ table, id }) => !known.has(`${table} ${id}`))
    .map(({ field }) => ({
      pointer: pointerTo(field),
      detail: `This ${catalogue.get(field)?.name.toLowerCase()} does not exist.`,
    }));
}
