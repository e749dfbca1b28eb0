import type { compliance as contract, TypeOf } from '@ladder/contract';
import type { ProcessId, StageId } from '@ladder/core';
import {
  type DealWith,
  FACT_PARTS,
  type FactPartName,
  FINDING_KINDS,
  type FindingKind,
  type NameOf,
  type Setting,
  type Stage,
  type Standing,
  stageOf,
  standingAt,
  standsAt,
} from '@ladder/core';
import { addsUpOn, type Context, inTransaction } from '../context.ts';
import { asOf } from '../deals/asOf.ts';
import { nameLookup } from '../deals/names.ts';
import { presentFinding } from '../deals/present.ts';
import { loadDeals } from '../deals/repository/loadDeals.ts';
import { loadNames } from '../deals/repository/names.ts';
import { type Known, openBook, pastBook } from '../deals/repository/openBook.ts';
import { type OpenSums, sumOpen } from '../deals/repository/openSums.ts';
import { DEFAULT_LIMIT, readCursor, toPage } from '../http/pages.ts';
import type { LookAtSession } from '../http/register.ts';
import { getMeasured, type MeasuredProcess, measuredBy } from '../processes/service.ts';
import type { Person } from '../session/person.ts';
import { organisation } from '../session/repository.ts';
import { loadSettings } from '../setting/repository/settings.ts';
import { documentThen } from '../setting/repository/versions.ts';
import { countStaying, type FindingKeyRow, findingKeys, stageNames } from './repository.ts';

type Summary = TypeOf<typeof contract.summary>;
type Counts = Summary['all'];

export interface MeasureFilter {
  readonly owner?: string;
  readonly team?: string;
}

export interface ComplianceQuery extends MeasureFilter {
  /** As of the end of which day; as it is where it is left out. */
  readonly on?: string;
  /** By what is known of that day now, unless by what was known then. */
  readonly known?: Known;
}

/**
 * How the open deals of a process comply, by stage: the counts come reduced from the database, and what else is told is read
 * beside them.
 */
export async function getCompliance(
  context: Context,
  person: Person,
  process: ProcessId,
  query: ComplianceQuery,
  lookAtSession: LookAtSession,
): Promise<Summary> {
  const { clock, dataSource } = context;
  const now = clock.now();
  const [{ timeZone, currency }, measured] = await Promise.all([
    organisation(dataSource),
    getMeasured(dataSource, person, process),
    lookAtSession(dataSource),
  ]);
  const { on: asked, known, ...filter } = query;
  const { today, on, end } = asOf(asked, now, timeZone);
  const book =
    end === null
      ? await openBook(dataSource, person, process, filter, now)
      : pastBook(person, process, filter, end, known);
  const [standings, live, olderVersions] = await Promise.all([
    sumOpen(addsUpOn(context, book), book, { by: ['stage', 'standing', 'kinds'] }, on, currency),
    end === null ? measured.live : documentThen(dataSource, process, end).then(measuredBy),
    countStaying(dataSource, book, end === null ? 'now' : 'past'),
  ]);
  const names = await stageNames(
    dataSource,
    process,
    live?.stages ?? [],
    standings.map(({ stage }) => stage),
  );
  const held = standings.filter(({ standing }) => standing === 'held');
  return {
    process: { id: process, name: measured.name },
    version: live?.version ?? null,
    today,
    on,
    currency,
    stages: names.map(({ id, name }) => ({
      id,
      name,
      ...countsOf(standings.filter(({ stage }) => stage === id)),
    })),
    all: countsOf(standings),
    kinds: kindsShown({ ...measured, live }, standings),
    heldMinor: held.reduce((sum, { minor }) => sum + minor, 0),
    heldWithoutRate: held.reduce((sum, { withoutRate }) => sum + withoutRate, 0),
    olderVersions,
  };
}

type StandingCount = OpenSums<'stage' | 'standing' | 'kinds'>;

function countsOf(standings: readonly StandingCount[]): Counts {
  const count = (standing: Standing): number =>
    standings.filter((row) => row.standing === standing).reduce((sum, row) => sum + row.deals, 0);
  const byKind = (kindsOf: (row: StandingCount) => Iterable<FindingKind>): Record<string, number> => {
    const totals: Record<string, number> = {};
    for (const row of standings) for (const kind of kindsOf(row)) totals[kind] = (totals[kind] ?? 0) + row.deals;
    return totals;
  };
  const [clear, flagged, held] = [count('clear'), count('flagged'), count('held')];
  return {
    deals: clear + flagged + held,
    clear,
    flagged,
    held,
    findings: byKind(({ kinds }) => kinds),
    dealsWith: byKind(({ kinds }) => new Set(kinds)),
  };
}

const ALWAYS_SHOWN: readonly FindingKind[] = ['criterion', 'field', 'checklist', 'skipped'];

/** The kinds that this process can have, or has. */
function kindsShown(detail: MeasuredProcess, standings: readonly StandingCount[]): FindingKind[] {
  const rules = Object.entries(detail.houseRules)
    .filter(([, level]) => level !== 'off')
    .map(([rule]) => rule);
  const found = new Set(standings.flatMap(({ kinds }) => kinds));
  return FINDING_KINDS.filter((kind) => ALWAYS_SHOWN.includes(kind) || rules.includes(kind) || found.has(kind));
}

export interface FindingsQuery extends MeasureFilter {
  readonly after?: string;
  readonly limit?: number;
  readonly stage?: StageId;
  readonly kind?: FindingKind;
}

/** Findings on open deals, those that hold first and then the oldest, each with what is so and what is needed. */
export async function listFindings(
  context: Context,
  person: Person,
  process: ProcessId,
  query: FindingsQuery,
): Promise<unknown> {
  const now = context.clock.now();
  return inTransaction(context, async (tx) => {
    await getMeasured(tx, person, process);
    const limit = query.limit ?? DEFAULT_LIMIT;
    const keys = await findingKeys(tx, await openBook(tx, person, process, query, now), {
      ...query,
      limit: limit + 1,
      cursor: readCursor(query.after, ['number', 'instant', 'id', 'text']),
    });
    const deals = new Map(
      (await loadDeals(tx, [...new Set(keys.map(({ deal }) => deal))], [...FACT_PARTS, 'path', 'findings'])).map(
        (deal) => [deal.id, deal],
      ),
    );
    const settings = await loadSettings(
      tx,
      [...deals.values()].map(({ version }) => version),
    );
    const { names } = await loadNames(
      tx,
      [...settings.values()].map(({ document }) => document),
      [...deals.values()],
    );
    const nameOf = nameLookup(names);
    const page = toPage(
      keys,
      limit,
      ({ place, opened, deal, key }) => [place, opened, deal, key],
      (row) => row,
    );
    const items = page.items.flatMap((row) => {
      const deal = deals.get(row.deal);
      const setting = deal && settings.get(deal.version);
      return setting ? (presentRow(row, deal, setting, now, nameOf) ?? []) : [];
    });
    return { items, next: page.next };
  });
}

type FoundDeal = DealWith<FactPartName | 'path' | 'findings'>;

/** A finding with the deal that it is about; null where it does not stand any more. */
function presentRow(row: FindingKeyRow, deal: FoundDeal, setting: Setting, now: number, nameOf: NameOf) {
  const open = deal.findings.filter((finding) => standsAt(finding, now));
  const finding = open.find(({ key }) => key === row.key);
  if (!finding) return null;
  const stage: Pick<Stage, 'id' | 'name'> = stageOf(setting.document, row.stage) ?? {
    id: row.stage,
    name: 'A stage that is gone',
  };
  const party = (field: string): string | null => nameOf(String(deal.values[field] ?? '')) ?? null;
  return {
    deal: {
      id: deal.id,
      name: deal.name,
      customer: party('customer'),
      owner: party('owner'),
      value: row.minor === null || row.currency === null ? null : { minor: row.minor, currency: row.currency },
      standing: standingAt(deal.findings, now),
    },
    stage: { id: stage.id, name: stage.name },
    finding: presentFinding(finding, deal, setting, now, nameOf),
    others: open.length - 1,
  };
}
