import type { DealId, Field, FieldHolder, ProcessId, Values } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { likeText } from '../db/likeText.ts';
import { asArray, type Connection, sql } from '../db/sql.ts';
import { type PartyHolder, type PartyRow, TABLES } from '../facts/repository.ts';

/** So many records of a kind tell how often their fields are filled: the newest. */
const COUNTED = 2_000;

export interface FilledRow {
  readonly process: { readonly id: ProcessId; readonly name: string } | null;
  readonly field: string;
  readonly of: number;
  readonly filled: number;
}

const HAS = `coalesce(r.values -> f.field, 'null') <> 'null'`;
const COUNTS = `f.field, count(*)::int as of, (count(*) filter (where ${HAS}))::int as filled`;

/** How many of each live process's newest open deals have a value in these fields. */
export const countFilledOfDeals = (connection: Connection, fields: readonly string[]): Promise<FilledRow[]> =>
  sql<FilledRow>(
    connection,
    `select json_build_object('id', p.id, 'name', p.name) as process, ${COUNTS}
     from processes p
     cross join lateral (select d.values from deals d where d.process_id = p.id and d.status = 'open' order by d.id desc limit ${COUNTED}) r
     cross join unnest(:fields::text[]) f(field)
     where exists (select from process_versions v where v.process_id = p.id and v.state = 'live')
     group by p.id, f.field order by p.name_fold, p.id`,
    { fields: asArray(fields) },
  );

/** The same of the newest customers or contacts. */
export const countFilledOfParties = (
  connection: Connection,
  holder: PartyHolder,
  fields: readonly string[],
): Promise<FilledRow[]> =>
  sql<FilledRow>(
    connection,
    `select null as process, ${COUNTS}
     from (select values from ${TABLES[holder]} order by id desc limit ${COUNTED}) r cross join unnest(:fields::text[]) f(field) group by f.field`,
    { fields: asArray(fields) },
  );

const AT_A_LOOK = 2_000;

const RECORDS: Readonly<Record<FieldHolder, string>> = { deal: 'deals', ...TABLES };

export const countRecords = async (connection: Connection, holder: FieldHolder): Promise<number> => {
  const [row] = await sql<{ count: number }>(connection, `select count(*)::int from ${RECORDS[holder]}`);
  return row?.count ?? 0;
};

/** Records looked at, and those among them in which something is chosen. */
export interface Chosen {
  readonly ids: readonly string[];
  readonly looked: number;
}

/** Goes through all records of a holder, many at a time, for those in which a choice of a field is chosen. */
export async function* choosing(
  connection: Connection,
  { id: field, holder }: Field,
  choice: string,
): AsyncGenerator<Chosen> {
  for (let after = '00000000-0000-0000-0000-000000000000'; ; ) {
    const [row] = await sql<{ last: string | null; looked: number; ids: readonly string[] | null }>(
      connection,
      `with looked as (select id, values from ${RECORDS[holder]} where id > :after order by id limit ${AT_A_LOOK})
       select max(id::text) as last, count(*)::int as looked,
         array_agg(id::text order by id) filter (where jsonb_exists(values -> :field, :choice)) as ids from looked`,
      { after, field, choice },
    );
    if (!row?.last) return;
    yield { ids: row.ids ?? [], looked: row.looked };
    after = row.last;
  }
}

/** These customers or contacts, locked. */
export const lockTheseParties = (tx: EntityManager, holder: PartyHolder, ids: readonly string[]): Promise<PartyRow[]> =>
  sql<PartyRow>(
    tx,
    `select id, values from ${TABLES[holder]} where id = any(:ids::uuid[]) order by id for no key update`,
    { ids: asArray(ids) },
  );

/** Open deals of any of these customers or contacts. */
export const openDealsOfAny = async (
  tx: EntityManager,
  holder: PartyHolder,
  ids: readonly string[],
): Promise<readonly DealId[]> => {
  const rows = await sql<{ id: DealId }>(
    tx,
    `select id from deals where ${holder}_id = any(:ids::uuid[]) and status = 'open' order by id`,
    { ids: asArray(ids) },
  );
  return rows.map(({ id }) => id);
};

export interface ExampleRow {
  readonly id: string;
  readonly name: string;
  /** Of a deal. */
  readonly currency: string | null;
  readonly values: Values;
}

const LOOKED_AT_FOR_EXAMPLES = 500;

const OF_NAME = `(:find = '' or name_fold like :like)`;

const NEWEST: Readonly<Record<FieldHolder, string>> = {
  deal: `select id, name, currency, values from deals where status = 'open' and ${OF_NAME}`,
  customer: `select id, name, null as currency, values from customers where ${OF_NAME}`,
  contact: `select id, name, null as currency, values from contacts where ${OF_NAME}`,
};

/** Some of the newest records of a holder, of deals the open ones, of that name where one is given: those first that have all of these fields. */
export const findExamples = (
  connection: Connection,
  { holder, find, filled }: { readonly holder: FieldHolder; readonly find: string; readonly filled: readonly string[] },
  limit: number,
): Promise<ExampleRow[]> =>
  sql<ExampleRow>(
    connection,
    `select id, name, currency, values from (${NEWEST[holder]} order by id desc limit ${LOOKED_AT_FOR_EXAMPLES}) newest
     order by (select count(*) from unnest(:filled::text[]) f(field) where coalesce(newest.values -> f.field, 'null') = 'null'), id desc limit :limit`,
    { find, like: likeText(find), filled: asArray(filled), limit },
  );
