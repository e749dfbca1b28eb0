import type { StageId } from '../ids.ts';
import type { Outcome, ProcessDocument, Stage } from '../processes/document.ts';
import { compareLists, type Difference, differing } from './difference.ts';
import { type ComparedVersion, targetWords, type VersionWords, versionWords } from './words.ts';

/** A stage of either version, with what it said and says. */
export interface ComparedStage {
  readonly id: StageId;
  /** As the later version calls it, where it has it. */
  readonly name: string;
  readonly was: 'added' | 'removed' | 'kept';
  /** Its place in each version, 1 on top. */
  readonly placeBefore: number | null;
  readonly placeAfter: number | null;
  /** It was moved past others, rather than others past it. */
  readonly moved: boolean;
  readonly differences: readonly Difference[];
}

export interface ComparedOutcome {
  readonly id: string;
  readonly name: string;
  readonly was: 'added' | 'removed' | 'kept';
  readonly differences: readonly Difference[];
}

/** Two versions on one ladder: stages of both, in the later one's order, each removed one below what it followed. */
export interface VersionComparison {
  readonly stages: readonly ComparedStage[];
  readonly outcomes: readonly ComparedOutcome[];
  readonly process: readonly Difference[];
}

/** What one version says otherwise than another: everything that was added, taken out or changed, as sentences. Stages, requirements, items and steps are matched by id. */
export function compareVersions(before: ComparedVersion, after: ComparedVersion): VersionComparison {
  const words: BothWords = { was: versionWords(before), is: versionWords(after) };
  const [old, fresh] = [before.document, after.document];
  const moved = movedStages(old.stages, fresh.stages);
  return {
    stages: mergedStages(old.stages, fresh.stages).map((id): ComparedStage => {
      const [earlier, later] = [
        old.stages.find((stage) => stage.id === id),
        fresh.stages.find((stage) => stage.id === id),
      ];
      return {
        id,
        name: later?.name ?? earlier?.name ?? '',
        was: !earlier ? 'added' : later ? 'kept' : 'removed',
        placeBefore: earlier ? old.stages.indexOf(earlier) + 1 : null,
        placeAfter: later ? fresh.stages.indexOf(later) + 1 : null,
        moved: moved.has(id),
        differences: compareStage(earlier, later, words),
      };
    }),
    outcomes: compareOutcomes(old, fresh, words),
    process: compareRest(old, fresh, words),
  };
}

interface BothWords {
  readonly was: VersionWords;
  readonly is: VersionWords;
}

/** Ids of all stages, each removed one after the one that it followed. */
function mergedStages(before: readonly Stage[], after: readonly Stage[]): readonly StageId[] {
  const merged = after.map(({ id }) => id);
  before.forEach(({ id }, place) => {
    if (merged.includes(id)) return;
    const followed = before[place - 1]?.id;
    merged.splice(followed === undefined ? 0 : merged.indexOf(followed) + 1, 0, id);
  });
  return merged;
}

/** Stages that were moved past others: all that both versions have but the longest run that kept its order. */
function movedStages(before: readonly Stage[], after: readonly Stage[]): ReadonlySet<StageId> {
  const places = after.map(({ id }) => before.findIndex((stage) => stage.id === id)).filter((place) => place >= 0);
  const runs: (readonly number[])[] = [];
  for (const place of places) {
    const longest = runs
      .filter((run) => (run.at(-1) ?? -1) < place)
      .reduce<readonly number[]>((best, run) => (run.length > best.length ? run : best), []);
    runs.push([...longest, place]);
  }
  const kept = runs.reduce<readonly number[]>((best, run) => (run.length > best.length ? run : best), []);
  return new Set(places.filter((place) => !kept.includes(place)).flatMap((place) => before[place]?.id ?? []));
}

/** A stage that is new or gone is told with all that it asks. */
function compareStage(
  before: Stage | undefined,
  after: Stage | undefined,
  { was, is }: BothWords,
): readonly Difference[] {
  const [old, fresh] = [before ?? bare(after), after ?? bare(before)];
  const settings =
    before && after
      ? [
          ...differing('name', old.name, fresh.name),
          ...differing('purpose', old.purpose || 'none', fresh.purpose || 'none'),
          ...differing('chance', `${old.chance}%`, `${fresh.chance}%`),
          ...differing('target', targetWords(old.target), targetWords(fresh.target)),
          ...differing('idle', idleWords(old), idleWords(fresh)),
        ]
      : [];
  return [
    ...settings,
    ...compareLists('enter', old.enter, fresh.enter, was.requirement, is.requirement),
    ...compareLists('leave', old.leave, fresh.leave, was.requirement, is.requirement),
    ...compareLists('checklist', old.checklist, fresh.checklist, was.item, is.item),
    ...compareLists('steps', old.steps, fresh.steps, was.steps(old), is.steps(fresh)),
    ...differing('arrival', was.arrival(old.arrival), is.arrival(fresh.arrival)),
  ];
}

/** A stage beside which everything of the other is new, or gone. */
const bare = (stage: Stage | undefined): Stage => ({
  ...(stage as Stage),
  enter: [],
  leave: [],
  checklist: [],
  steps: [],
  arrival: [],
});

const idleWords = ({ idleDays }: Stage): string => (idleDays === null ? 'never' : `after ${idleDays} days`);

function compareOutcomes(
  before: ProcessDocument,
  after: ProcessDocument,
  { was, is }: BothWords,
): readonly ComparedOutcome[] {
  const old = new Map(before.outcomes.map((outcome) => [outcome.id, outcome]));
  const gone = before.outcomes.filter(({ id }) => !after.outcomes.some((outcome) => outcome.id === id));
  const asks = (from: Outcome | undefined, to: Outcome | undefined): readonly Difference[] => [
    ...(from && to
      ? differing('name', `${from.name}, counts as ${from.counts}`, `${to.name}, counts as ${to.counts}`)
      : []),
    ...compareLists('outcome', from?.requirements ?? [], to?.requirements ?? [], was.requirement, is.requirement),
  ];
  return [
    ...after.outcomes.map((outcome): ComparedOutcome => {
      const earlier = old.get(outcome.id);
      return {
        id: outcome.id,
        name: outcome.name,
        was: earlier ? 'kept' : 'added',
        differences: asks(earlier, outcome),
      };
    }),
    ...gone.map(
      (outcome): ComparedOutcome => ({
        id: outcome.id,
        name: outcome.name,
        was: 'removed',
        differences: asks(outcome, undefined),
      }),
    ),
  ];
}

function compareRest(before: ProcessDocument, after: ProcessDocument, { was, is }: BothWords): readonly Difference[] {
  const sections = new Map(before.sections.map((section) => [section.id, section]));
  return [
    ...differing('purpose', before.purpose || 'none', after.purpose || 'none'),
    ...differing('skips', before.skips, after.skips),
    ...differing('returns', before.returns, after.returns),
    ...after.sections.flatMap(({ id, name, fields }) => {
      const earlier = sections.get(id);
      const [old, fresh] = [
        earlier ? `${earlier.name}: ${was.fields(earlier.fields)}` : '',
        `${name}: ${is.fields(fields)}`,
      ];
      return earlier
        ? differing('fields', old, fresh)
        : [{ part: 'fields' as const, name: null, before: null, after: fresh }];
    }),
    ...before.sections
      .filter(({ id }) => !after.sections.some((section) => section.id === id))
      .map(({ name, fields }) => ({
        part: 'fields' as const,
        name: null,
        before: `${name}: ${was.fields(fields)}`,
        after: null,
      })),
    ...compareLists('task_sets', before.taskSets, after.taskSets, was.taskSet, is.taskSet),
  ];
}

/** Whether anything is said otherwise. */
export const differs = ({ stages, outcomes, process }: VersionComparison): boolean =>
  process.length > 0 ||
  stages.some(({ was, moved, differences }) => was !== 'kept' || moved || differences.length > 0) ||
  outcomes.some(({ was, differences }) => was !== 'kept' || differences.length > 0);
