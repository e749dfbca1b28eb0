import { type Actor, type NameOf, readActor } from '@ladder/core';
import { type Connection, sql } from '../db/sql.ts';

const ID = /[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}/g;

/** Names of every person, team, customer and contact whose id stands anywhere in what is to be shown. */
export async function loadNames(
  connection: Connection,
  ...shown: readonly unknown[]
): Promise<Readonly<Record<string, string>>> {
  const ids = [...new Set(JSON.stringify(shown).match(ID) ?? [])];
  if (ids.length === 0) return {};
  const rows = await sql<{ id: string; name: string }>(
    connection,
    `with wanted as (select jsonb_array_elements_text(:ids::jsonb)::uuid as id)
     select id, name from people join wanted using (id) union all select id, name from teams join wanted using (id)
     union all select id, name from customers join wanted using (id) union all select id, name from contacts join wanted using (id)
     union all select i.id, p.name || '’s import' from imports i join wanted using (id) join people p on p.id = i.by_id`,
    { ids },
  );
  return Object.fromEntries(rows.map(({ id, name }) => [id, name]));
}

/** Looks names up by the id of a person or party, or by what acted. */
export const nameLookup =
  (names: Readonly<Record<string, string>>): NameOf =>
  (id) => {
    const { kind, id: own } = readActor(id as Actor);
    return kind === 'process' ? 'the process' : names[own];
  };
