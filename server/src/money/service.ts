import type { rates as contract, TypeOf } from '@ladder/contract';
import {
  type Catalogue,
  fieldsAsked,
  isCurrency,
  localDay,
  type ProcessDocument,
  personActor,
  readDocument,
  type StoredDocument,
  sourceFields,
} from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { type Context, inLongWork } from '../context.ts';
import { sql } from '../db/sql.ts';
import { recalculateParties } from '../facts/calculatedParties.ts';
import { presentCatalogue } from '../facts/catalogue.ts';
import { DEFAULT_LIMIT, readCursor, toPage } from '../http/pages.ts';
import { invalid } from '../problems/problem.ts';
import { rejudgeProcess } from '../processes/rejudgeProcess.ts';
import { organisation } from '../session/organisation.ts';
import type { Person } from '../session/person.ts';
import { lockProcess } from '../setting/lockProcess.ts';

type Rate = TypeOf<typeof contract.rate>;

export async function listRates(context: Context, query: { after?: string; limit?: number }): Promise<unknown> {
  const [limit, cursor] = [query.limit ?? DEFAULT_LIMIT, readCursor(query.after, ['day', 'text', 'text'])];
  const rows = await sql<Rate>(
    context.dataSource,
    `select from_currency as "from", to_currency as "to", day::text, rate::float8 from rates
     where :day::date is null or day < :day::date or (day = :day::date and (from_currency, to_currency) > (:from, :to))
     order by day desc, from_currency, to_currency limit :limit`,
    { day: cursor?.[0], from: cursor?.[1], to: cursor?.[2], limit: limit + 1 },
  );
  return toPage(
    rows,
    limit,
    ({ day, from, to }) => [day, from, to],
    (row) => row,
  );
}

/**
 * Sets a day's rate, in place of the one it had; calculated numbers are worked out and the deals whose gates compare amounts
 * judged again.
 */
export async function setRate(context: Context, person: Person, rate: Rate): Promise<Rate> {
  const now = context.clock.now();
  return inLongWork(context, async (tx) => {
    const { timeZone } = await organisation(tx);
    requirePlausible(rate, localDay(now, timeZone));
    await sql(
      tx,
      `insert into rates (from_currency, to_currency, day, rate) values (:from, :to, :day, :rate)
       on conflict (from_currency, to_currency, day) do update set rate = excluded.rate`,
      { ...rate },
    );
    const comparing = await processesComparing(tx);
    // Processes before customers and contacts, and those before deals, as everywhere.
    for (const process of comparing) await lockProcess(tx, process, 'publish');
    await recalculateParties(tx, 'customer');
    await recalculateParties(tx, 'contact');
    const moment = { by: personActor(person.id), happenedAt: now, recordedAt: now };
    for (const process of comparing) await rejudgeProcess(tx, process, moment);
    return rate;
  });
}

const MOST = 1e9;

function requirePlausible({ from, to, day, rate }: Rate, today: string): void {
  const problems = [
    ...(isCurrency(from) ? [] : [{ pointer: '/from', detail: `There is no currency ${from}.` }]),
    ...(isCurrency(to) ? [] : [{ pointer: '/to', detail: `There is no currency ${to}.` }]),
    ...(from === to ? [{ pointer: '/to', detail: 'A rate is between two different currencies.' }] : []),
    ...(day > today ? [{ pointer: '/day', detail: 'A rate is of today or of a day before.' }] : []),
    ...(rate > 0 && rate <= MOST ? [] : [{ pointer: '/rate', detail: 'A number above 0, at most 1,000,000,000.' }]),
  ];
  if (problems.length > 0) throw invalid(problems);
}

/** Calculated numbers that a version shows, whether a gate reads them or not. */
const calculatedShown = ({ sections }: ProcessDocument, catalogue: Catalogue): readonly string[] =>
  sections.flatMap(({ fields }) => fields).filter((id) => catalogue.get(id)?.type === 'calculated');

/** Processes with open deals that read an amount of money, in a gate or in a calculated number. */
async function processesComparing(tx: EntityManager): Promise<readonly string[]> {
  const catalogue = await presentCatalogue(tx);
  const rows = await sql<{ process: string; document: StoredDocument }>(
    tx,
    `select v.process_id as process, v.document from process_versions v
     where v.state <> 'draft' and exists (select from deals d where d.version_id = v.id and d.status = 'open')`,
  );
  const comparing = rows.filter(({ document: stored }) => {
    const document = readDocument(stored);
    return [...fieldsAsked(document), ...calculatedShown(document, catalogue)]
      .flatMap((field) => sourceFields(field, catalogue))
      .some((field) => catalogue.get(field)?.type === 'money');
  });
  // In one order, as all locks are taken.
  return [...new Set(comparing.map(({ process }) => process))].sort();
}
