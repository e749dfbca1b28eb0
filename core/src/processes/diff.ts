import { canonicalText } from '../canonicalText.ts';
import type { StageId } from '../ids.ts';
import { type ChecklistItem, checklistKind } from '../requirements/checklist.ts';
import type { Requirement } from '../requirements/kinds.ts';
import { substanceOf } from '../requirements/substance.ts';
import type { ProcessDocument, Stage } from './document.ts';

/** One difference between two versions of a process. Stages are matched by id, so a renamed stage is not a new one. */
export type ProcessChange =
  | { readonly kind: 'stage_added' | 'stage_removed'; readonly stage: StageId; readonly name: string }
  | { readonly kind: 'stage_renamed'; readonly stage: StageId; readonly name: string; readonly before: string }
  | { readonly kind: 'stages_reordered' }
  | {
      readonly kind: 'chance_changed';
      readonly stage: StageId;
      readonly name: string;
      readonly before: number;
      readonly after: number;
    }
  | {
      readonly kind: 'target_changed';
      readonly stage: StageId;
      readonly name: string;
      readonly before: number | null;
      readonly after: number | null;
    }
  | {
      readonly kind: 'requirement_added' | 'requirement_removed' | 'requirement_changed' | 'requirement_reworded';
      readonly requirement: string;
      readonly stage: StageId | null;
      readonly name: string;
    }
  | { readonly kind: 'steps_changed' | 'arrival_changed'; readonly stage: StageId; readonly name: string }
  | { readonly kind: 'task_sets_changed' }
  | { readonly kind: 'rules_changed' }
  | { readonly kind: 'wording_changed' };

/** Whether any gate asks something else after the change (S27). */
export const touchesGates = (changes: readonly ProcessChange[]): boolean =>
  changes.some(
    ({ kind }) =>
      (kind.startsWith('requirement_') && kind !== 'requirement_reworded') ||
      kind === 'stage_added' ||
      kind === 'stage_removed' ||
      kind === 'stages_reordered' ||
      kind === 'rules_changed',
  );

/** What differs from `before` to `after`; null is before a first version. What a removed stage asked goes with it unsaid. */
export function diffDocuments(before: ProcessDocument | null, after: ProcessDocument): readonly ProcessChange[] {
  if (!before) return after.stages.map(({ id, name }) => ({ kind: 'stage_added', stage: id, name }));
  return [
    ...diffStages(before, after),
    ...diffRequirements(before, after),
    ...(canonicalText(before.taskSets) === canonicalText(after.taskSets)
      ? []
      : [{ kind: 'task_sets_changed' } as const]),
    ...(rulesOf(before) === rulesOf(after) ? [] : [{ kind: 'rules_changed' } as const]),
    ...(wordingOf(before, after) === wordingOf(after, before) ? [] : [{ kind: 'wording_changed' } as const]),
  ];
}

/** What the process says of jumping, of going back, and of how it ends. */
const rulesOf = ({ skips, returns, outcomes }: ProcessDocument): string =>
  canonicalText([skips, returns, outcomes.map(({ id, counts }) => [id, counts])]);

/** Wording that no gate reads, of the stages both versions have. */
function wordingOf(document: ProcessDocument, other: ProcessDocument): string {
  const kept = document.stages.filter(({ id }) => other.stages.some((stage) => stage.id === id));
  const wording = kept.map(({ id, purpose, idleDays }) => [id, purpose, idleDays]).sort();
  const ends = document.outcomes.map(({ id, name }) => [id, name]);
  return canonicalText([document.purpose, document.sections, wording, ends]);
}

function diffStages(before: ProcessDocument, after: ProcessDocument): readonly ProcessChange[] {
  const old = new Map(before.stages.map((stage) => [stage.id, stage]));
  const kept = after.stages.filter(({ id }) => old.has(id));
  const keptOrder = before.stages.filter(({ id }) => after.stages.some((stage) => stage.id === id));
  return [
    ...after.stages
      .filter(({ id }) => !old.has(id))
      .map(({ id, name }) => ({ kind: 'stage_added', stage: id, name }) as const),
    ...before.stages
      .filter(({ id }) => !kept.some((stage) => stage.id === id))
      .map(({ id, name }) => ({ kind: 'stage_removed', stage: id, name }) as const),
    ...(kept.some(({ id }, place) => keptOrder[place]?.id !== id) ? [{ kind: 'stages_reordered' } as const] : []),
    ...kept.flatMap((stage) => diffStage(old.get(stage.id) ?? stage, stage)),
  ];
}

function diffStage(before: Stage, after: Stage): readonly ProcessChange[] {
  const { id: stage, name } = after;
  const [targetBefore, targetAfter] = [canonicalText(before.target), canonicalText(after.target)];
  return [
    ...(before.name === name ? [] : [{ kind: 'stage_renamed', stage, name, before: before.name } as const]),
    ...(before.chance === after.chance
      ? []
      : [{ kind: 'chance_changed', stage, name, before: before.chance, after: after.chance } as const]),
    ...(targetBefore === targetAfter
      ? []
      : [
          {
            kind: 'target_changed',
            stage,
            name,
            before: before.target?.days ?? null,
            after: after.target?.days ?? null,
          } as const,
        ]),
    ...(canonicalText(before.steps) === canonicalText(after.steps)
      ? []
      : [{ kind: 'steps_changed', stage, name } as const]),
    ...(canonicalText(before.arrival) === canonicalText(after.arrival)
      ? []
      : [{ kind: 'arrival_changed', stage, name } as const]),
  ];
}

interface Asked {
  readonly stage: StageId | null;
  readonly name: string;
  readonly text: string;
  /** The same without the words that people read: a change of them alone changes no gate (S28). */
  readonly substance: string;
}

function diffRequirements(before: ProcessDocument, after: ProcessDocument): readonly ProcessChange[] {
  const [old, fresh] = [askedBy(before), askedBy(after)];
  return [
    ...[...fresh].flatMap(([requirement, { stage, name, text, substance }]): ProcessChange[] => {
      const was = old.get(requirement);
      if (!was) return [{ kind: 'requirement_added', requirement, stage, name }];
      if (was.text === text) return [];
      const kind = was.substance === substance ? 'requirement_reworded' : 'requirement_changed';
      return [{ kind, requirement, stage, name }];
    }),
    ...[...old]
      .filter(([id, { stage }]) => !fresh.has(id) && (stage === null || after.stages.some((one) => one.id === stage)))
      .map(([requirement, { stage, name }]) => ({ kind: 'requirement_removed', requirement, stage, name }) as const),
  ];
}

/** Everything a version asks, by requirement id. A requirement's text is its whole content and its place (S25). */
export function askedBy(document: ProcessDocument): ReadonlyMap<string, Asked> {
  const asked = new Map<string, Asked>();
  const put = (stage: Stage | null, place: string, list: readonly (Requirement | ChecklistItem)[]): void => {
    for (const item of list) {
      asked.set(item.id, {
        stage: stage?.id ?? null,
        name: stage?.name ?? place,
        text: canonicalText([stage?.id ?? null, place, item]),
        substance: canonicalText([stage?.id ?? null, place, substanceOf(kindOf(item), item)]),
      });
    }
  };
  for (const stage of document.stages) {
    put(stage, 'enter', stage.enter);
    put(stage, 'leave', stage.leave);
    put(stage, 'checklist', stage.checklist);
  }
  for (const { name, requirements } of document.outcomes) put(null, name, requirements);
  return asked;
}

const kindOf = (item: Requirement | ChecklistItem): string => ('kind' in item ? item.kind : checklistKind.kind);
