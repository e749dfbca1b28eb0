import type { ProcessId } from '@ladder/core';
import {
  type Catalogue,
  fieldsAsked,
  isCurrency,
  localDay,
  type ProcessDocument,
  personActor,
  readDocument,
  sourceFields,
} from '@ladder/core';
import type { EntityManager } from 'typeorm';
import type { Context } from '../context.ts';
import { recalculateParties } from '../facts/calculatedParties.ts';
import { presentCatalogue } from '../facts/catalogue.ts';
import { DEFAULT_LIMIT, readCursor, toPage } from '../http/pages.ts';
import type { AskedWork } from '../longWork/startWork.ts';
import type { WorkInHand, WorkKind } from '../longWork/workKind.ts';
import { invalid } from '../problems/problem.ts';
import { rejudgeProcess } from '../processes/rejudgeProcess.ts';
import { countOpenDeals } from '../processes/repository/openDeals.ts';
import { organisation } from '../session/repository.ts';
import { lockProcess } from '../setting/repository/lockProcess.ts';
import { touchOrganisation } from '../setting/repository/settings.ts';
import { currentVersions } from '../setting/repository/versions.ts';
import { logSetting, type Setter } from '../settingsLog/settingsLog.ts';
import { findRates, type Rate, readRate, writeRate } from './repository.ts';

export async function listRates(context: Context, query: { after?: string; limit?: number }): Promise<unknown> {
  const [limit, cursor] = [query.limit ?? DEFAULT_LIMIT, readCursor(query.after, ['day', 'text', 'text'])];
  const rows = await findRates(context.dataSource, limit + 1, cursor);
  return toPage(
    rows,
    limit,
    ({ day, from, to }) => [day, from, to],
    (row) => row,
  );
}

/** What sets a day's rate, in place of the one it had. */
export async function rateToSet(tx: EntityManager, rate: Rate, now: number): Promise<AskedWork> {
  await requirePlausible(tx, rate, now);
  let total = 0;
  for (const process of await processesComparing(tx)) total += await countOpenDeals(tx, process);
  return { kind: 'rate', subject: 'rates', request: rate, total };
}

/** Sets a rate; calculated numbers are worked out, and the deals whose gates compare amounts judged again. */
export const rateWork: WorkKind<Rate> = { kind: 'rate', run: setRate };

async function setRate(tx: EntityManager, { request: rate, by, now, progress }: WorkInHand<Rate>): Promise<number> {
  await requirePlausible(tx, rate, now);
  await keepRate(tx, rate, { by, now });
  await touchOrganisation(tx);
  const comparing = await processesComparing(tx);
  // Processes before customers and contacts, and those before deals, as everywhere.
  for (const process of comparing) await lockProcess(tx, process, 'publish');
  await recalculateParties(tx, 'customer');
  await recalculateParties(tx, 'contact');
  const moment = { by: personActor(by), happenedAt: now, recordedAt: now };
  let judged = 0;
  for (const process of comparing)
    judged += await rejudgeProcess(tx, process, moment, (done) => progress(judged + done));
  return judged;
}

async function keepRate(tx: EntityManager, rate: Rate, setter: Setter): Promise<void> {
  const before = await readRate(tx, rate);
  await writeRate(tx, rate);
  const subject = `${rate.from} to ${rate.to} from ${rate.day}`;
  const told = (value: number) => ({ rate: value });
  const change = {
    what: 'rate',
    subject,
    before: before === null ? null : told(before),
    after: told(rate.rate),
  } as const;
  await logSetting(tx, change, setter);
}

const MOST = 1e9;

async function requirePlausible(tx: EntityManager, { from, to, day, rate }: Rate, now: number): Promise<void> {
  const today = localDay(now, (await organisation(tx)).timeZone);
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

/** Processes that read an amount of money, in a gate or in a calculated number. */
async function processesComparing(tx: EntityManager): Promise<readonly ProcessId[]> {
  const catalogue = await presentCatalogue(tx);
  const comparing = (await currentVersions(tx)).filter(({ state, document: stored }) => {
    const document = readDocument(stored);
    return (
      state !== 'draft' &&
      [...fieldsAsked(document), ...calculatedShown(document, catalogue)]
        .flatMap((field) => sourceFields(field, catalogue))
        .some((field) => catalogue.get(field)?.type === 'money')
    );
  });
  // In one order, as all locks are taken.
  return [...new Set(comparing.map(({ process }) => process.id))].sort();
}
