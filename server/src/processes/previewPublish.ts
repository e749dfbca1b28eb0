import type { processes as contract, TypeOf } from '@ladder/contract';
import {
  actor,
  adoptVersion,
  type Change,
  type Deal,
  diffDocuments,
  type Moment,
  type ProcessId,
  type Publish,
  type PublishReach,
  type Setting,
  type Standing,
  standingAt,
  touchesGates,
} from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { type Context, inSnapshot } from '../context.ts';
import type { ProcessVersionRow } from '../db/entities/processVersion.ts';
import { loadDeals } from '../deals/repository/loadDeals.ts';
import { presentCatalogue } from '../facts/catalogue.ts';
import { invalid } from '../problems/problem.ts';
import { loadSetting, loadSettings } from '../setting/repository/settings.ts';
import {
  loadVersions,
  type Plan,
  publishOf,
  reachOf,
  stagesToLeave,
  transferProblem,
  usedFields,
} from './publishVersions.ts';
import { reachedDeals } from './reachedDeals.ts';
import { countOpenDeals } from './repository.ts';

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
    const reach = reachOf(live, { document: draft.document, fields: usedFields(draft.document, catalogue) });
    const effect = problems.length > 0 ? NO_EFFECT : await effectOn(tx, processId, draft, reach, plan, now);
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

const NO_EFFECT = { openDeals: 0, newlyHeld: 0, newlyFlagged: 0, newlyClear: 0 };

async function effectOn(
  tx: EntityManager,
  processId: ProcessId,
  draft: ProcessVersionRow,
  reach: PublishReach,
  plan: Plan,
  now: number,
): Promise<typeof NO_EFFECT> {
  const counts = { newlyHeld: 0, newlyFlagged: 0, newlyClear: 0 };
  const moment = { by: actor('process', processId), happenedAt: now, recordedAt: now };
  const to = await draftSetting(tx, draft, await publishOf(tx, processId, draft, plan.graceUntil));
  for await (const { ids } of reachedDeals(tx, processId, reach, to, now)) {
    const deals = await loadDeals(tx, ids);
    const settings = await loadSettings(
      tx,
      deals.map(({ version }) => version),
    );
    for (const deal of deals) {
      const after = adopt(deal, settings.get(deal.version), to, plan, moment);
      countStanding(counts, standingAt(deal.findings, now), standingAt(after.deal.findings, after.deal.settledAt));
    }
  }
  return { openDeals: (await countOpenDeals(tx, processId)).open, ...counts };
}

function countStanding(
  counts: { newlyHeld: number; newlyFlagged: number; newlyClear: number },
  before: Standing,
  after: Standing,
): void {
  if (before === after) return;
  if (after === 'held') counts.newlyHeld++;
  else if (after === 'flagged') counts.newlyFlagged++;
  else counts.newlyClear++;
}

/** The draft's setting as it will be once it is published. */
async function draftSetting(tx: EntityManager, draft: ProcessVersionRow, publish: Publish): Promise<Setting> {
  const own = await loadSetting(tx, draft.id);
  const others = own.publishes.filter(({ version }) => version !== draft.id);
  return { ...own, catalogue: await presentCatalogue(tx), publishes: [...others, publish] };
}

/** Throws where the deal has nowhere to go: it moved into a removed stage since the administrator was asked. */
function adopt(deal: Deal, from: Setting | undefined, to: Setting, plan: Plan, moment: Moment): Change {
  if (!from) throw new Error(`Deal ${deal.id} follows a version that is gone`);
  const adopted = adoptVersion(deal, { from, to, ...plan }, moment);
  if (adopted.ok) return adopted.value;
  throw invalid([transferProblem(adopted.error.stage)], 422);
}
