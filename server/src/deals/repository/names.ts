import type { Deal, DealId, ProcessDocument } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { visibleParties } from '../../access/repository.ts';
import { kept } from '../../db/keepingClient.ts';
import { KeptBySource } from '../../db/keptBySource.ts';
import { asArray, type Connection, sql } from '../../db/sql.ts';
import type { Person } from '../../session/person.ts';

export const ID = /[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}/g;

/** Ids wherever they stand in what is shown: by themselves, or in a text such as an actor's. */
function idsIn(shown: unknown): readonly string[] {
  const ids: string[] = [];
  const look = (part: unknown): void => {
    if (typeof part === 'string') {
      if (part.length === ID_LENGTH && part[8] === '-') ids.push(part);
      else if (part.length > ID_LENGTH) ids.push(...(part.match(ID) ?? []));
    } else if (typeof part === 'object' && part !== null) for (const name in part) look((part as Parts)[name]);
  };
  look(shown);
  return ids;
}

type Parts = Readonly<Record<string, unknown>>;
const ID_LENGTH = 36;

const idsOfDocuments = new WeakMap<ProcessDocument, readonly string[]>();

/** Those of a document, which never changes and is shown with each of its deals. */
function idsOf(document: ProcessDocument): readonly string[] {
  const ids = idsOfDocuments.get(document) ?? idsIn(document);
  idsOfDocuments.set(document, ids);
  return ids;
}

export interface LoadedNames {
  readonly names: Readonly<Record<string, string>>;
  /** Who ran an import, by its id. */
  readonly importers: ReadonlyMap<string, string>;
}

/**
 * Names of every person, team, customer and contact whose id stands anywhere in documents or in what else is to be shown, and of
 * those behind the imports among them.
 */
export async function loadNames(
  connection: Connection,
  documents: readonly ProcessDocument[],
  ...shown: readonly unknown[]
): Promise<LoadedNames> {
  return toNames(await nameRows(connection, [...new Set([...documents.flatMap(idsOf), ...idsIn(shown)])]));
}

interface NameRow {
  readonly id: string;
  readonly name: string;
  readonly importer: string | null;
  readonly importer_name: string | null;
}

/** What was asked for a deal ahead of knowing what it shows, and what came of it. */
export interface NamesAhead {
  readonly ids: readonly string[];
  readonly rows: readonly NameRow[];
}

/** The ids that a deal showed when it was told last. */
const shownLast = new KeptBySource<DealId, readonly string[]>(4_000);

/** Asks for the names that a deal showed last, with what loads it: most often they are all that it shows. */
export async function askNamesAhead(connection: Connection, deal: DealId): Promise<NamesAhead> {
  const ids = shownLast.get(connection, deal) ?? [];
  return { ids, rows: await nameRows(connection, ids) };
}

/** The names that a deal shows; what was not asked for ahead is asked for now. */
export async function loadDealNames(
  connection: Connection,
  document: ProcessDocument,
  deal: Pick<Deal, 'id'>,
  ahead: NamesAhead,
  ...besides: readonly unknown[]
): Promise<LoadedNames> {
  const ids = new Set([...idsOf(document), ...idsIn(deal), ...idsIn(besides)]);
  const missing = new Set(ids);
  for (const id of ahead.ids) missing.delete(id);
  if (missing.size > 0 || ids.size < ahead.ids.length) shownLast.keep(connection, deal.id, [...ids]);
  const others = await nameRows(connection, [...missing]);
  return toNames([...ahead.rows.filter(({ id }) => ids.has(id)), ...others]);
}

async function nameRows(connection: Connection, ids: readonly string[]): Promise<NameRow[]> {
  if (ids.length === 0) return [];
  return sql<NameRow>(
    connection,
    kept(`with wanted as (select jsonb_array_elements_text(:ids::jsonb)::uuid as id)
     select id, name, null::uuid as importer, null as importer_name from people join wanted using (id)
     union all select id, name, null, null from teams join wanted using (id)
     union all select id, name, null, null from customers join wanted using (id)
     union all select id, name, null, null from contacts join wanted using (id)
     union all select id, name, null, null from document_kinds join wanted using (id)
     union all select i.id, p.name || '’s import', p.id, p.name from imports i join wanted using (id) join people p on p.id = i.by_id`),
    { ids },
  );
}

function toNames(rows: readonly NameRow[]): LoadedNames {
  const imports = rows.flatMap(({ id, importer, importer_name: name }) =>
    importer === null || name === null ? [] : [{ id, importer, name }],
  );
  return {
    names: Object.fromEntries([
      ...rows.map(({ id, name }) => [id, name]),
      ...imports.map(({ importer, name }) => [importer, name]),
    ]),
    importers: new Map(imports.map(({ id, importer }) => [id, importer])),
  };
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
