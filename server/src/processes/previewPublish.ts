import { type processes as contract, MOST_TURNED, type TypeOf } from '@ladder/contract';
import {
  actor,
  adoptVersion,
  type Change,
  type Deal,
  diffDocuments,
  localDay,
  type Moment,
  type ProcessId,
  type PublishReach,
  presentVisit,
  type Setting,
  type StageId,
  type Standing,
  stageOf,
  standingAt,
  touchesGates,
} from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { type Context, inSnapshot } from '../context.ts';
import type { ProcessVersionRow } from '../db/entities/processVersion.ts';
import { wholeBook } from '../deals/repository/openBook.ts';
import { countOpen } from '../deals/repository/openSums.ts';
import { invalid } from '../problems/problem.ts';
import { loadSetting, loadSettings } from '../setting/repository/settings.ts';
import { oneAhead } from './oneAhead.ts';
import {
  draftSetting,
  loadVersions,
  type Plan,
  publishOf,
  reachOf,
  stagesToLeave,
  transferProblem,
  usedFields,
} from './publishVersions.ts';
import { loadToJudge, type ReachedDeals, reachedDeals } from './reachedDeals.ts';
import { countOpenDeals } from './repository/openDeals.ts';

type Preview = TypeOf<typeof contract.preview>;

/** What publishing would change, and what that would do to the open deals if they were all moved over; nothing is written. */
export async function previewPublish(context: Context, processId: ProcessId): Promise<Preview> {
  const now = context.clock.now();
  return inSnapshot(context, async (tx) => {
    const { draft, live, catalogue, problems } = await loadVersions(
      tx,
      processId,
      'read',
      context.designChecks.problems,
      now,
    );
    const changes = diffDocuments(live?.document ?? null, draft.document);
    const removed = await stagesToLeave(tx, processId, draft.document);
    const [first] = draft.document.stages;
    const transfers = Object.fromEntries(removed.flatMap(({ id }) => (first ? [[id, first.id]] : [])));
    const plan = { transfers, graceUntil: now };
    const gone = new Map<string, string>(removed.map(({ id, name }) => [id, name]));
    const stageName = (id: string): string => stageOf(draft.document, id)?.name ?? gone.get(id) ?? id;
    const reach = reachOf(live, { document: draft.document, fields: usedFields(draft.document, catalogue) });
    const effect =
      problems.length > 0
        ? NO_EFFECT
        : await effectOn(tx, { process: processId, draft, live, reach }, plan, now, stageName);
    return {
      number: draft.number,
      changes,
      touchesGates: touchesGates(changes),
      problems: problems.map((problem) => ({ ...problem })),
      ...effect,
      removedStages: removed,
    };
  });
}

type Effect = Pick<Preview, 'openDeals' | 'newlyHeld' | 'newlyFlagged' | 'newlyClear' | 'stages' | 'turned'>;

const NO_EFFECT: Effect = { openDeals: 0, newlyHeld: 0, newlyFlagged: 0, newlyClear: 0, stages: [], turned: [] };

interface StandingCount {
  readonly stage: StageId;
  readonly standing: Standing;
  readonly deals: number;
}

interface Previewed {
  readonly process: ProcessId;
  readonly draft: ProcessVersionRow;
  readonly live: ProcessVersionRow | null;
  readonly reach: PublishReach;
}

async function effectOn(
  tx: EntityManager,
  { process: processId, draft, live, reach }: Previewed,
  plan: Plan,
  now: number,
  stageName: (id: string) => string,
): Promise<Effect> {
  const counts = { newlyHeld: 0, newlyFlagged: 0, newlyClear: 0 };
  const turned: Effect['turned'][number][] = [];
  const to = await draftSetting(tx, draft, await publishOf(tx, processId, draft, plan.graceUntil));
  const before = await countOpen(tx, wholeBook(processId, now), { by: ['stage', 'standing'] }, localDay(now, to.zone));
  const after = new Map<string, StandingCount>(before.map((row) => [`${row.stage} ${row.standing}`, row]));
  const add = (stage: StageId, standing: Standing, by: number): void => {
    const row = after.get(`${stage} ${standing}`) ?? { stage, standing, deals: 0 };
    after.set(`${stage} ${standing}`, { ...row, deals: row.deals + by });
  };
  const moment = { by: actor('process', processId), happenedAt: now, recordedAt: now };
  const from = live && (await loadSetting(tx, live.id));
  const reached = reachedDeals(tx, { process: processId, reach, from, to, now }, 'all');
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
  const { open } = await countOpenDeals(tx, processId);
  return { openDeals: open, ...counts, stages: stagesOf(before, [...after.values()], draft, stageName), turned };
}

/** The deals themselves, each batch loaded while the one before it is judged. */
async function* loaded(tx: EntityManager, batches: AsyncIterable<ReachedDeals>) {
  for await (const { ids } of batches) {
    const deals = await loadToJudge(tx, ids);
    const versions = deals.map(({ version }) => version);
    yield { deals, settings: await loadSettings(tx, versions) };
  }
}

const NEWLY = { held: 'newlyHeld', flagged: 'newlyFlagged', clear: 'newlyClear' } as const;

/** Stages that have deals now or would have, in the draft's order, those that it lacks at the end. */
function stagesOf(
  before: readonly StandingCount[],
  after: readonly StandingCount[],
  { document }: ProcessVersionRow,
  stageName: (id: string) => string,
): Effect['stages'] {
  const ids = new Set([...document.stages.map(({ id }) => id), ...before.map(({ stage }) => stage)]);
  return [...ids]
    .map((stage) => ({
      stage,
      name: stageName(stage),
      before: standingsIn(before, stage),
      after: standingsIn(after, stage),
    }))
    .filter(({ before: was, after: is }) => was.open + is.open > 0);
}

function standingsIn(counts: readonly StandingCount[], stage: StageId) {
  const of = (...standings: readonly Standing[]): number =>
    counts
      .filter((row) => row.stage === stage && standings.includes(row.standing))
      .reduce((sum, { deals }) => sum + deals, 0);
  return { open: of('held', 'flagged', 'clear'), held: of('held'), flagged: of('flagged') };
}

/** Throws where the deal has nowhere to go: it moved into a removed stage since the administrator was asked. */
function adopt(deal: Deal, from: Setting | undefined, to: Setting, plan: Plan, moment: Moment): Change {
  if (!from) throw new Error(`Deal ${deal.id} follows a version that is gone`);
  const adopted = adoptVersion(deal, { from, to, ...plan }, moment);
  if (adopted.ok) return adopted.value;
  throw invalid([transferProblem(adopted.error.stage)], 422);
}
