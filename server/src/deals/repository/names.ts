import type { ProcessDocument } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { visibleParties } from '../../access/repository.ts';
import { kept } from '../../db/keepingClient.ts';
import { asArray, type Connection, sql } from '../../db/sql.ts';
import type { Person } from '../../session/person.ts';

export const ID = /[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}/g;

const idsIn = (shown: unknown): readonly string[] => JSON.stringify(shown)?.match(ID) ?? [];

const idsOfDocuments = new WeakMap<ProcessDocument, readonly string[]>();

/** Those of a document, which never changes and is shown with each of its deals. */
function idsOf(document: ProcessDocument): readonly string[] {
  const ids = idsOfDocuments.get(document) ?? idsIn(document);
  idsOfDocuments.set(document, ids);
  return ids;
}

/** Names of every person, team, customer and contact whose id stands anywhere in documents or in what else is to be shown. */
export async function loadNames(
  connection: Connection,
  documents: readonly ProcessDocument[],
  ...shown: readonly unknown[]
): Promise<Readonly<Record<string, string>>> {
  const ids = [...new Set([...documents.flatMap(idsOf), ...idsIn(shown)])];
  if (ids.length === 0) return {};
  const rows = await sql<{ id: string; name: string }>(
    connection,
    kept(`with wanted as (select jsonb_array_elements_text(:ids::jsonb)::uuid as id)
     select id, name from people join wanted using (id) union all select id, name from teams join wanted using (id)
     union all select id, name from customers join wanted using (id) union all select id, name from contacts join wanted using (id)
     union all select id, name from document_kinds join wanted using (id)
     union all select i.id, p.name || '’s import' from imports i join wanted using (id) join people p on p.id = i.by_id`),
    { ids },
  );
  return Object.fromEntries(rows.map(({ id, name }) => [id, name]));
}

/** Which of these ids are people, teams, or customers and contacts that the person may see, each with its table. */
export function findReferences(
  tx: EntityManager,
  person: Person,
  ids: readonly string[],
): Promise<{ id: string; table: string }[]> {
  const [customers, contacts] = [visibleParties(person, 'customers'), visibleParties(person, 'contacts')];
  return sql<{ id: string; table: string }>(
    tx,
    `select id, 'people' as table from people where id = any(:ids::uuid[]) union all select id, 'teams' from teams where id = any(:ids::uuid[])
     union all select id, 'customers' from customers where id = any(:ids::uuid[]) and withdrawn_at is null and ${customers.condition}
     union all select id, 'contacts' from contacts where id = any(:ids::uuid[]) and withdrawn_at is null and ${contacts.condition}`,
    { ids: asArray(ids), ...customers.parameters, ...contacts.parameters },
  );
}
