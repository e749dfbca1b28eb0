import type { Deal, DealId, ProcessDocument } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { visibleParties } from '../../access/repository.ts';
import { kept } from '../../db/keepingClient.ts';
import { KeptBySource } from '../../db/keptBySource.ts';
import { asArray, type Connection, sql } from '../../db/sql.ts';
import type { Person } from '../../session/person.ts';
import { isOwn, type WholeDeal } from './keptDeals.ts';

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

const idsOfParts = new WeakMap<object, readonly string[]>();

/** Those of a document or of a part of a deal: neither ever changes, and both are shown again and again. */
function idsOf(part: object): readonly string[] {
  const ids = idsOfParts.get(part) ?? idsIn(part);
  idsOfParts.set(part, ids);
  return ids;
}

const idsOfDeal = (deal: Deal): readonly string[] =>
  Object.values(deal).flatMap((part) => (typeof part === 'object' && part !== null ? idsOf(part) : idsIn(part)));

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
  readonly of_party: boolean;
}

/** What was asked for a deal, and what came of it, as long as nothing of it has another name. */
interface KeptNames extends NamedBy {
  readonly ids: readonly string[];
  readonly rows: readonly NameRow[];
}

/**
 * What tells that names are as they were: the mark of the setting, which every new name of a person, a team or a kind of document
 * changes, and the transactions that last wrote the deal's customer and contact.
 */
type NamedBy = Pick<WholeDeal, 'mark' | 'customer' | 'contact'>;

const keptNames = new KeptBySource<DealId, KeptNames>(600);

/** The names that a deal shows. Those that it showed before are asked for again only where something has another name since. */
export async function loadDealNames(
  connection: Connection,
  document: ProcessDocument,
  deal: Deal,
  loaded: WholeDeal | null,
  ...besides: readonly unknown[]
): Promise<LoadedNames> {
  const ids = new Set([...idsOf(document), ...idsOfDeal(deal), ...idsIn(besides)]);
  const before = keptNames.get(connection, deal.id);
  const known = before && loaded && isNamedTheSame(before, loaded) ? before : null;
  const missing = new Set(ids);
  for (const id of known?.ids ?? []) missing.delete(id);
  if (known && missing.size === 0) return toNames(known.rows.filter(({ id }) => ids.has(id)));
  const rows = [...(known?.rows ?? []), ...(await nameRows(connection, [...missing]))].filter(({ id }) => ids.has(id));
  if (loaded && !isOwn(loaded)) keep(connection, deal, loaded, ids, rows);
  return toNames(rows);
}

const isNamedTheSame = (known: NamedBy, now: NamedBy): boolean =>
  known.mark !== null && known.mark === now.mark && known.customer === now.customer && known.contact === now.contact;

/** A customer or contact that is not the deal's own may be given another name without anything telling. */
function keep(
  connection: Connection,
  { id, values: { customer, contact } }: Deal,
  { mark, ...by }: NamedBy,
  ids: ReadonlySet<string>,
  rows: readonly NameRow[],
): void {
  const isTold = (row: NameRow): boolean => !row.of_party || row.id === customer || row.id === contact;
  const untold = new Set(rows.filter((row) => !isTold(row)).map((row) => row.id));
  keptNames.keep(connection, id, {
    mark,
    customer: by.customer,
    contact: by.contact,
    ids: [...ids].filter((one) => !untold.has(one)),
    rows: rows.filter(isTold),
  });
}

async function nameRows(connection: Connection, ids: readonly string[]): Promise<NameRow[]> {
  if (ids.length === 0) return [];
  return sql<NameRow>(
    connection,
    kept(`with wanted as (select jsonb_array_elements_text(:ids::jsonb)::uuid as id)
     select id, name, null::uuid as importer, null as importer_name, false as of_party from people join wanted using (id)
     union all select id, name, null, null, false from teams join wanted using (id)
     union all select id, name, null, null, true from customers join wanted using (id)
     union all select id, name, null, null, true from contacts join wanted using (id)
     union all select id, name, null, null, false from document_kinds join wanted using (id)
     union all select i.id, p.name || '’s import', p.id, p.name, false from imports i join wanted using (id) join people p on p.id = i.by_id`),
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
