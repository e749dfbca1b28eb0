import { leadOf } from './lead.ts';
import type { GuidedStep, StepResult } from './step.ts';

/** From a step to another, or out of the stage's steps (null), by a result. */
export interface FlowEdge {
  readonly from: string;
  readonly result: StepResult;
  readonly to: string | null;
}

/** How the steps of a stage lead on to each other. */
export interface StepFlow {
  readonly edges: readonly FlowEdge[];
  /** Steps that nothing leads to. */
  readonly unreachable: readonly string[];
  /** Steps from which no result, however many follow, leads out. */
  readonly endless: readonly string[];
}

/** Works out where results lead, which steps nobody comes to, and which go round without a way out. */
export function stepFlow(steps: readonly GuidedStep[]): StepFlow {
  const edges = steps.flatMap(({ id, results }) =>
    results.map((result): FlowEdge => {
      const lead = leadOf(steps, id, result);
      return { from: id, result, to: lead.to === 'step' ? lead.step.id : null };
    }),
  );
  const [first] = steps;
  const reached = first
    ? spread([first.id], (id) => edges.flatMap(({ from, to }) => (from === id && to ? [to] : [])))
    : new Set();
  const ending = spread(
    edges.flatMap(({ from, to }) => (to === null ? [from] : [])),
    (id) => edges.flatMap(({ from, to }) => (to === id ? [from] : [])),
  );
  const ids = steps.map(({ id }) => id);
  return {
    edges,
    unreachable: ids.filter((id) => !reached.has(id)),
    endless: ids.filter((id) => reached.has(id) && !ending.has(id)),
  };
}

/** Everything that is come to from the beginnings. */
function spread(beginnings: readonly string[], from: (id: string) => readonly string[]): ReadonlySet<string> {
  const reached = new Set(beginnings);
  // A set takes what is added while it is gone through.
  for (const id of reached) for (const next of from(id)) reached.add(next);
  return reached;
}
