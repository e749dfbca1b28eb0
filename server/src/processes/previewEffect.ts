import { MOST_TURNED } from '@ladder/contract';
import {
  actor,
  adoptVersion,
  type Change,
  type Deal,
  type DealId,
  localDay,
  type Moment,
  type ProcessId,
  type PublishReach,
  presentVisit,
  type Setting,
  type StageId,
  type Standing,
  standingAt,
} from '@ladder/core';
import type { DataSource, EntityManager } from 'typeorm';
import type { ProcessVersionRow } from '../db/entities/processVersion.ts';
import { inSnapshotOf } from '../db/snapshots.ts';
import { wholeBook } from '../deals/repository/openBook.ts';
import { countOpen } from '../deals/repository/openSums.ts';
import { loadSetting, loadSettings } from '../setting/repository/settings.ts';
import { oneAhead } from './oneAhead.ts';
import { draftSetting, type Plan, publishOf } from './publishVersions.ts';
import { loadToJudge, type ReachedDeals, reachedDeals } from './reachedDeals.ts';

/* What a publish would do to the open deals. It judges many, so a thread does it, and answers do not wait. */

/** What a thread is told of a preview. */
export interface Previewed {
  readonly process: ProcessId;
  readonly draft: ProcessVersionRow;
  readonly live: ProcessVersionRow | null;
  readonly reach: PublishReach;
  readonly plan: Plan;
  readonly now: number;
  /** What whoever asks sees of the database; they keep their transaction open until they are answered. */
  readonly snapshot: string;
}

export interface StandingCount {
  readonly stage: StageId;
  readonly standing: Standing;
  readonly deals: number;
}

/** A deal of which the publish would make something else. */
interface Turned {
  readonly deal: DealId;
  readonly name: string;
  readonly stage: StageId;
  readonly before: Standing;
  readonly after: Standing;
}

export interface PreviewEffect {
  readonly before: readonly StandingCount[];
  readonly after: readonly StandingCount[];
  readonly newlyHeld: number;
  readonly newlyFlagged: number;
  readonly newlyClear: number;
  /** The first of each. */
  readonly turned: readonly Turned[];
}

/** What it would do to them if they were all moved over; nothing is written. */
export const previewEffect = (source: DataSource, previewed: Previewed): Promise<PreviewEffect> =>
  inSnapshotOf(source, previewed.snapshot, (tx) => effectOn(tx, previewed));

async function effectOn(
  tx: EntityManager,
  { process, draft, live, reach, plan, now }: Previewed,
): Promise<PreviewEffect> {
  const counts = { newlyHeld: 0, newlyFlagged: 0, newlyClear: 0 };
  const turned: Turned[] = [];
  const to = await draftSetting(tx, draft, await publishOf(tx, process, draft, plan.graceUntil));
  const before = await countOpen(tx, wholeBook(process, now), { by: ['stage', 'standing'] }, localDay(now, to.zone));
  const after = new Map<string, StandingCount>(before.map((row) => [`${row.stage} ${row.standing}`, row]));
  const add = (stage: StageId, standing: Standing, by: number): void => {
    const row = after.get(`${stage} ${standing}`) ?? { stage, standing, deals: 0 };
    after.set(`${stage} ${standing}`, { ...row, deals: row.deals + by });
  };
  const moment = { by: actor('process', process), happenedAt: now, recordedAt: now };
  const from = live && (await loadSetting(tx, live.id));
  const reached = reachedDeals(tx, { process, reach, from, to, now }, 'all');
  for await (const { deals, settings } of oneAhead(loaded(tx, reached))) {
    for (const deal of deals) {
      const adopted = adopt(deal, settings.get(deal.version), to, plan, moment).deal;
      const [was, is] = [standingAt(deal.findings, now), standingAt(adopted.findings, adopted.settledAt)];
      const stage = presentVisit(adopted).stage;
      add(presentVisit(deal).stage, was, -1);
      add(stage, is, 1);
      if (was === is) continue;
      const counted = NEWLY[is];
      counts[counted]++;
      if (counts[counted] <= MOST_TURNED)
        turned.push({ deal: deal.id, name: deal.name, stage, before: was, after: is });
    }
  }
  return { before, after: [...after.values()], ...counts, turned };
}

const NEWLY = { held: 'newlyHeld', flagged: 'newlyFlagged', clear: 'newlyClear' } as const;

/** The deals themselves, each batch loaded while the one before it is judged. */
async function* loaded(tx: EntityManager, batches: AsyncIterable<ReachedDeals>) {
  for await (const { ids } of batches) {
    const deals = await loadToJudge(tx, ids);
    const versions = deals.map(({ version }) => version);
    yield { deals, settings: await loadSettings(tx, versions) };
  }
}

/** Every stage that deals would have to leave is known with the snapshot, so each has somewhere to go. */
function adopt(deal: Deal, from: Setting | undefined, to: Setting, plan: Plan, moment: Moment): Change {
  if (!from) throw new Error(`Deal ${deal.id} follows a version that is gone`);
  const adopted = adoptVersion(deal, { from, to, ...plan }, moment);
  if (adopted.ok) return adopted.value;
  throw new Error(`Deal ${deal.id} has nowhere to go from ${adopted.error.stage}`);
}
