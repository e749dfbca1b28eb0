import type { processes as contract, TypeOf } from '@ladder/contract';
import { type ProcessDocument, type ProcessId, publishProblems, stageOf, type VersionId } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { designOf } from '../designCheck/designInput.ts';
import type { WorkInHand } from '../longWork/workKind.ts';
import { invalid } from '../problems/problem.ts';
import { staleDraft } from './draft.ts';
import { type DesignJudge, loadVersions, stagesToLeave, transferProblem, type Versions } from './publishVersions.ts';

export type PublishRequest = TypeOf<typeof contract.publish>;

/** What is asked of a publish, of which draft, and which revision of it was seen. */
export interface AskedPublish extends PublishRequest {
  readonly version: VersionId;
  readonly seen: number;
}

/** A publish that is being done. */
export type PublishInHand = WorkInHand<AskedPublish, ProcessId>;

/** The versions of a publish; throws where the draft is another than was seen, or something is wrong with it. */
export async function publishable(
  tx: EntityManager,
  processId: ProcessId,
  { seen, ...request }: Omit<AskedPublish, 'version'>,
  purpose: 'read' | 'publish',
  check: DesignJudge,
  now: number,
): Promise<Versions> {
  const versions = await loadVersions(tx, processId, purpose, check, now);
  const { draft, problems } = versions;
  if (draft.revision !== seen) throw staleDraft(draft.revision);
  if (problems.length > 0) throw invalid(problems, 422);
  await requireTransfers(tx, processId, draft.document, request);
  return versions;
}

/** Deals that move over from a stage that is gone need another to go to. */
async function requireTransfers(
  tx: EntityManager,
  processId: ProcessId,
  document: ProcessDocument,
  request: PublishRequest,
): Promise<void> {
  if (request.deals === 'stay') return;
  const problems = (await stagesToLeave(tx, processId, document))
    .filter(({ id }) => !stageOf(document, request.transfers[id] ?? ''))
    .map(({ id }) => transferProblem(id));
  if (problems.length > 0) throw invalid(problems, 422);
}

/** Long work has a thread of its own. What was found of a design is remembered, for it is asked again as it goes live. */
export function problemsHere(): DesignJudge {
  let known = { of: '', problems: [] as ReturnType<typeof publishProblems> };
  return (design) => {
    const of = JSON.stringify(design);
    if (known.of !== of) known = { of, problems: publishProblems(designOf(design)) };
    return known.problems;
  };
}

/** Days of grace are counted from when deals were judged. */
export const graceEnd = (judgedAt: number, { graceDays }: PublishRequest): number => judgedAt + graceDays * 86_400_000;
