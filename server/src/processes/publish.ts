import { addDays, localDay, type ProcessId, USUAL_WAIVER_RIGHTS } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import type { Context } from '../context.ts';
import { ProcessEntity } from '../db/entities/process.ts';
import { ProcessVersionEntity } from '../db/entities/processVersion.ts';
import { inOrder } from '../db/inOrder.ts';
import type { WorkView } from '../longWork/repository.ts';
import type { AskedWork } from '../longWork/startWork.ts';
import type { WorkKind } from '../longWork/workKind.ts';
import { invalid, notFound } from '../problems/problem.ts';
import { organisation } from '../session/repository.ts';
import { liveVersionView } from '../setting/repository/versions.ts';
import { goLive } from './goLive.ts';
import { judgeAhead } from './judgeAhead.ts';
import { judgeFollowers } from './judgeFollowers.ts';
import {
  type AskedPublish,
  type PublishInHand,
  type PublishRequest,
  problemsHere,
  publishable,
} from './publishable.ts';
import { type DesignJudge, reachOf, usedFields } from './publishVersions.ts';
import { countOpenDeals, countStaying } from './repository/openDeals.ts';

/** What makes the draft live, unless it was changed meanwhile or cannot be published as it stands. */
export async function draftToPublish(
  tx: EntityManager,
  processId: ProcessId,
  request: PublishRequest,
  seen: number,
  check: DesignJudge,
  now: number,
): Promise<AskedWork> {
  const { draft, live, catalogue } = await publishable(tx, processId, { ...request, seen }, 'read', check, now);
  await requireWaiver(tx, processId, request, now);
  const { reach } = reachOf(live, { document: draft.document, fields: usedFields(draft.document, catalogue) });
  const isLookedAt = request.deals === 'move_over' && reach !== 'none';
  return {
    kind: 'publish',
    subject: processId,
    request: { ...request, version: draft.id, seen } satisfies AskedPublish,
    total: isLookedAt ? await countOpenDeals(tx, processId) : 0,
  };
}

/**
 * Judges the deals that follow by the draft, apart from them and stopped at will, and then makes it live and immutable at
 * once; open deals follow it or stay on their version, as asked. What the judging brought is written right behind it.
 */
export const publishWork: WorkKind<AskedPublish, ProcessId> = { kind: 'publish', run: publish };

async function publish(tx: EntityManager, work: PublishInHand): Promise<number> {
  const movesOver = work.request.deals === 'move_over';
  const check = problemsHere();
  let open: number | null = null;
  // Where what deals are judged by changes meanwhile, they are judged once more.
  while (await isDraft(tx, work)) {
    const judged = movesOver ? await judgeAhead(tx, work, check) : null;
    // This connection waits for the other one meanwhile, and can as well count.
    [, open] = await inOrder(
      work.apart((step) => goLive(step, work, check, judged, tx)),
      movesOver ? countOpenDeals(tx, work.subject) : Promise.resolve(null),
    );
  }
  if (!movesOver) return 0;
  await judgeFollowers(tx, work);
  return (open ?? (await countOpenDeals(tx, work.subject))) - (await countStaying(tx, work.subject));
}

/** Whether the version is still to go live; one that was thrown away is found missing by who looks for the draft. */
async function isDraft(tx: EntityManager, { request }: PublishInHand): Promise<boolean> {
  const known = await tx.getRepository(ProcessVersionEntity).findOneBy({ id: request.version });
  return !known || known.state === 'draft';
}

/** Who publishes grants them, so they are such as the process lets grant waivers, and no longer than it says. */
async function requireWaiver(
  tx: EntityManager,
  processId: ProcessId,
  { waive }: PublishRequest,
  now: number,
): Promise<void> {
  if (!waive) return;
  const row = await tx.getRepository(ProcessEntity).findOneBy({ id: processId });
  const { roles, mostDays } = { ...USUAL_WAIVER_RIGHTS, ...row?.waiverRights };
  if (!roles.includes('administrator'))
    throw invalid([{ pointer: '/waive', detail: 'Administrators grant no waivers in this process.' }], 422);
  const { timeZone } = await organisation(tx);
  const today = localDay(now, timeZone);
  if (waive.until < today) throw invalid([{ pointer: '/waive/until', detail: 'Choose today or a later day.' }], 422);
  if (waive.until > addDays(today, mostDays))
    throw invalid([{ pointer: '/waive/until', detail: `Waivers of this process last ${mostDays} days at most.` }], 422);
}

/** A publish that is done: the version that is live now, and how many deals moved over to it, which are all that follow it. */
export async function published(context: Context, process: ProcessId, { deals }: WorkView): Promise<unknown> {
  const version = await liveVersionView(context.dataSource, process);
  if (!version) throw notFound('version');
  return { version: { ...version, openDeals: deals ?? 0 }, movedDeals: deals ?? 0 };
}
