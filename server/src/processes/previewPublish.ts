import type { processes as contract, TypeOf } from '@ladder/contract';
import { diffDocuments, type ProcessId, type StageId, type Standing, stageOf, touchesGates } from '@ladder/core';
import { type Context, inSnapshot } from '../context.ts';
import type { ProcessVersionRow } from '../db/entities/processVersion.ts';
import { exportSnapshot } from '../db/snapshots.ts';
import type { PreviewEffect, StandingCount } from './previewEffect.ts';
import { loadVersions, reachOf, stagesToLeave, usedFields } from './publishVersions.ts';

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
    const { before, after, ...counted } =
      problems.length > 0
        ? NO_EFFECT
        : await context.previewEffect({
            process: processId,
            draft,
            live,
            reach,
            plan,
            now,
            snapshot: await exportSnapshot(tx),
          });
    return {
      number: draft.number,
      changes,
      touchesGates: touchesGates(changes),
      problems: problems.map((problem) => ({ ...problem })),
      ...counted,
      turned: [...counted.turned],
      openDeals: before.reduce((sum, { deals }) => sum + deals, 0),
      stages: stagesOf(before, after, draft, stageName),
      removedStages: removed,
    };
  });
}

const NO_EFFECT: PreviewEffect = { before: [], after: [], newlyHeld: 0, newlyFlagged: 0, newlyClear: 0, turned: [] };

/** Stages that have deals now or would have, in the draft's order, those that it lacks at the end. */
function stagesOf(
  before: readonly StandingCount[],
  after: readonly StandingCount[],
  { document }: ProcessVersionRow,
  stageName: (id: string) => string,
): Preview['stages'] {
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
