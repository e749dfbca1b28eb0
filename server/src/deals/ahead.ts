import {
  assembleGate,
  type CompiledGate,
  compileGate,
  type DealId,
  type DealWith,
  dealFacts,
  FACT_PARTS,
  type FactPartName,
  type GateFacts,
  nextTarget,
  presentVisit,
  routeTo,
  runsAtHand,
  type Setting,
  type StageId,
  type StepRun,
  stageOf,
  type VersionId,
} from '@ladder/core';
import { KeptBySource } from '../db/keptBySource.ts';
import type { Connection } from '../db/sql.ts';
import { loadSettings } from '../setting/repository/settings.ts';
import { loadDeals } from './repository/loadDeals.ts';

/** What lies before an open deal: how much its next gate still asks, and the step at hand, owed ones first. */
export interface Ahead {
  readonly missing: number;
  readonly step: { readonly name: string; readonly dueDay: string | null } | null;
}

export const NOTHING_AHEAD: Ahead = { missing: 0, step: null };

/** A deal as its card was read. */
export interface MarkedDeal {
  readonly id: DealId;
  readonly version: VersionId;
  /** The transactions that last wrote the rows that its facts are in. */
  readonly mark: string;
}

/** What was told of a deal, and how long it is so: while those rows and the setting are the same, and the clock turns nothing. */
interface KeptAhead {
  readonly ahead: Ahead;
  readonly mark: string;
  /** Held weakly: a setting that is no longer anyone's is not kept for this. */
  readonly setting: WeakRef<Setting>;
  readonly from: number;
  readonly until: number;
}

/** Of a few hundred bytes each. */
const kept = new KeptBySource<DealId, KeptAhead>(20_000);

/**
 * What lies before deals, by id. The same cards are looked at again and again, by everyone who works on a process, and few of
 * them change in between: what was told is kept, and only those deals are loaded of which something was written since.
 */
export async function readAhead(
  connection: Connection,
  deals: readonly MarkedDeal[],
  now: number,
): Promise<ReadonlyMap<DealId, Ahead>> {
  const settings = await loadSettings(
    connection,
    deals.map(({ version }) => version),
  );
  const told = new Map(
    deals.flatMap((deal) => {
      const known = kept.get(connection, deal.id);
      return known && isSo(known, deal, settings.get(deal.version), now) ? [[deal.id, known.ahead] as const] : [];
    }),
  );
  const others = deals.filter(({ id }) => !told.has(id));
  return new Map([...told, ...(await tellAhead(connection, others, settings, now))]);
}

/** Whether what was told is so still. */
const isSo = (known: KeptAhead, { mark }: MarkedDeal, setting: Setting | undefined, now: number): boolean =>
  setting !== undefined &&
  known.setting.deref() === setting &&
  known.mark === mark &&
  known.from <= now &&
  now < known.until;

async function tellAhead(
  connection: Connection,
  asked: readonly MarkedDeal[],
  settings: ReadonlyMap<VersionId, Setting>,
  now: number,
): Promise<readonly (readonly [DealId, Ahead])[]> {
  if (asked.length === 0) return [];
  const marks = new Map(asked.map(({ id, mark }) => [id, mark]));
  const deals = await loadDeals(
    connection,
    asked.map(({ id }) => id),
    FACT_PARTS,
  );
  return deals.flatMap((deal) => {
    const setting = settings.get(deal.version);
    if (!setting) return [];
    const { ahead, until } = aheadOf(deal, setting, now);
    kept.keep(connection, deal.id, {
      ahead,
      mark: marks.get(deal.id) ?? '',
      setting: new WeakRef(setting),
      from: now,
      until,
    });
    return [[deal.id, ahead] as const];
  });
}

function aheadOf(deal: DealWith<FactPartName>, setting: Setting, now: number): Pick<KeptAhead, 'ahead' | 'until'> {
  const gate = gateFrom(presentVisit(deal).stage, setting);
  const facts: GateFacts = dealFacts(deal, setting, now);
  const [run] = runsAtHand(deal, setting.document);
  const step = run ? { name: stepName(run, setting), dueDay: run.dueDay } : null;
  return { ahead: { missing: gate.missing(facts), step }, until: gate.until(facts) };
}

/** How a step at hand is called now. */
const stepName = ({ stage, step, name }: StepRun, { document }: Setting): string =>
  stageOf(document, stage)?.steps.find(({ id }) => id === step)?.name ?? name;

const gates = new WeakMap<Setting, Map<StageId, CompiledGate>>();

/** The next gate from a stage, compiled once a stage and setting. */
function gateFrom(from: StageId, setting: Setting): CompiledGate {
  const ofSetting = gates.get(setting) ?? new Map<StageId, CompiledGate>();
  gates.set(setting, ofSetting);
  const known = ofSetting.get(from);
  if (known) return known;
  const target = nextTarget(setting.document, from);
  const route = routeTo(setting.document, from, target);
  const gate = compileGate(
    route.ok ? assembleGate(setting.document, from, target, route.value) : [],
    setting.catalogue,
  );
  ofSetting.set(from, gate);
  return gate;
}
