import type { StageId } from '../ids.ts';
import type { ChecklistItem } from '../requirements/checklist.ts';
import type { Requirement } from '../requirements/kinds.ts';
import { failed, ok, type Result } from '../result.ts';
import type { GuidedStep } from '../steps/step.ts';
import type { Arrival, TaskSet } from '../tasks/taskSet.ts';
import { type FieldSection, newStage, type ProcessDocument, placeOf, type Rule, type Stage } from './document.ts';

/** Where a requirement stands: before or after a stage, or at an outcome. */
export type RequirementPlace =
  | { readonly at: 'enter' | 'leave'; readonly stage: StageId }
  | { readonly at: 'outcome'; readonly outcome: string };

/** A change to a draft, as a value: undo, merge and the audit trail share it. */
export type ProcessEdit =
  | { readonly kind: 'set_purpose'; readonly purpose: string }
  | { readonly kind: 'set_rules'; readonly skips: Rule; readonly returns: Rule }
  | { readonly kind: 'set_sections'; readonly sections: readonly FieldSection[] }
  | { readonly kind: 'add_stage'; readonly id: StageId; readonly name: string; readonly place: number }
  | {
      readonly kind: 'change_stage';
      readonly stage: StageId;
      readonly change: Partial<Pick<Stage, 'name' | 'purpose' | 'chance' | 'target' | 'idleDays'>>;
    }
  | { readonly kind: 'move_stage'; readonly stage: StageId; readonly place: number }
  | { readonly kind: 'remove_stage'; readonly stage: StageId }
  | { readonly kind: 'put_requirement'; readonly place: RequirementPlace; readonly requirement: Requirement }
  | { readonly kind: 'remove_requirement'; readonly place: RequirementPlace; readonly requirement: string }
  | {
      readonly kind: 'move_requirement';
      readonly place: RequirementPlace;
      readonly requirement: string;
      readonly to: number;
    }
  | { readonly kind: 'put_item'; readonly stage: StageId; readonly item: ChecklistItem }
  | { readonly kind: 'move_item'; readonly stage: StageId; readonly item: string; readonly to: number }
  | { readonly kind: 'remove_item'; readonly stage: StageId; readonly item: string }
  | { readonly kind: 'put_step'; readonly stage: StageId; readonly step: GuidedStep }
  | { readonly kind: 'move_step'; readonly stage: StageId; readonly step: string; readonly place: number }
  | { readonly kind: 'remove_step'; readonly stage: StageId; readonly step: string }
  | { readonly kind: 'put_task_set'; readonly set: TaskSet }
  | { readonly kind: 'remove_task_set'; readonly set: string }
  | { readonly kind: 'set_arrival'; readonly stage: StageId; readonly arrival: readonly Arrival[] };

export type EditProblem =
  | { code: 'no_such_stage'; stage: StageId }
  | { code: 'last_stage' }
  | { code: 'name_taken'; name: string }
  | { code: 'no_name' };

/** The document after the edit. Errors: a stage that is not there, a name twice or empty, the last stage removed. */
export function applyEdit(document: ProcessDocument, edit: ProcessEdit): Result<ProcessDocument, EditProblem> {
  switch (edit.kind) {
    case 'set_purpose':
      return ok({ ...document, purpose: edit.purpose });
    case 'set_rules':
      return ok({ ...document, skips: edit.skips, returns: edit.returns });
    case 'set_sections':
      return ok({ ...document, sections: edit.sections });
    case 'add_stage':
      return addStage(document, edit.id, edit.name, edit.place);
    case 'change_stage':
      return changeStage(document, edit.stage, edit.change);
    case 'move_stage':
      return moveStage(document, edit.stage, edit.place);
    case 'remove_stage':
      return removeStage(document, edit.stage);
    case 'put_requirement':
      return withRequirements(document, edit.place, (list) => putById(list, edit.requirement));
    case 'remove_requirement':
      return withRequirements(document, edit.place, (list) => list.filter(({ id }) => id !== edit.requirement));
    case 'move_requirement':
      return withRequirements(document, edit.place, (list) => movedTo(list, edit.requirement, edit.to));
    case 'move_item':
      return withStage(document, edit.stage, (stage) => ({
        ...stage,
        checklist: movedTo(stage.checklist, edit.item, edit.to),
      }));
    case 'put_item':
      return withStage(document, edit.stage, (stage) => ({ ...stage, checklist: putById(stage.checklist, edit.item) }));
    case 'remove_item':
      return withStage(document, edit.stage, (stage) => ({
        ...stage,
        checklist: stage.checklist.filter(({ id }) => id !== edit.item),
      }));
    case 'put_step':
      return withSteps(document, edit.stage, (steps) => putById(steps, edit.step));
    case 'move_step':
      return withSteps(document, edit.stage, (steps) => movedTo(steps, edit.step, edit.place));
    case 'remove_step':
      return withSteps(document, edit.stage, (steps) => steps.filter(({ id }) => id !== edit.step));
    case 'put_task_set':
      return ok({ ...document, taskSets: putById(document.taskSets, edit.set) });
    case 'remove_task_set':
      return ok({ ...document, taskSets: document.taskSets.filter(({ id }) => id !== edit.set) });
    case 'set_arrival':
      return withStage(document, edit.stage, (stage) => ({ ...stage, arrival: edit.arrival }));
  }
}

type Edited = Result<ProcessDocument, EditProblem>;

function addStage(document: ProcessDocument, id: StageId, name: string, place: number): Edited {
  const problem = nameProblem(document, name, id);
  if (problem) return failed(problem);
  const stages = [...document.stages];
  stages.splice(place, 0, newStage(id, name.trim()));
  return ok({ ...document, stages });
}

function changeStage(document: ProcessDocument, stageId: StageId, change: Partial<Stage>): Edited {
  const problem = change.name === undefined ? null : nameProblem(document, change.name, stageId);
  return problem ? failed(problem) : withStage(document, stageId, (stage) => ({ ...stage, ...change }));
}

function nameProblem(document: ProcessDocument, name: string, stageId: StageId): EditProblem | null {
  if (name.trim() === '') return { code: 'no_name' };
  return document.stages.some((stage) => stage.id !== stageId && sameName(stage.name, name))
    ? { code: 'name_taken', name: name.trim() }
    : null;
}

const sameName = (a: string, b: string): boolean => a.trim().toLowerCase() === b.trim().toLowerCase();

function moveStage(document: ProcessDocument, stageId: StageId, place: number): Edited {
  if (placeOf(document, stageId) < 0) return failed({ code: 'no_such_stage', stage: stageId });
  return ok({ ...document, stages: movedTo(document.stages, stageId, place) });
}

/** The list with the one of that id at another place, the nearest that there is. */
function movedTo<T extends { readonly id: string }>(list: readonly T[], id: string, place: number): readonly T[] {
  const rest = list.filter((one) => one.id !== id);
  const moved = list.filter((one) => one.id === id);
  rest.splice(Math.max(0, Math.min(place, rest.length)), 0, ...moved);
  return rest;
}

function removeStage(document: ProcessDocument, stageId: StageId): Edited {
  if (placeOf(document, stageId) < 0) return failed({ code: 'no_such_stage', stage: stageId });
  if (document.stages.length === 1) return failed({ code: 'last_stage' });
  return ok({ ...document, stages: document.stages.filter(({ id }) => id !== stageId) });
}

function withStage(document: ProcessDocument, stageId: StageId, change: (stage: Stage) => Stage): Edited {
  if (placeOf(document, stageId) < 0) return failed({ code: 'no_such_stage', stage: stageId });
  return ok({ ...document, stages: document.stages.map((stage) => (stage.id === stageId ? change(stage) : stage)) });
}

const withSteps = (
  document: ProcessDocument,
  stageId: StageId,
  change: (steps: readonly GuidedStep[]) => readonly GuidedStep[],
): Edited => withStage(document, stageId, (stage) => ({ ...stage, steps: change(stage.steps) }));

function withRequirements(
  document: ProcessDocument,
  place: RequirementPlace,
  change: (list: readonly Requirement[]) => readonly Requirement[],
): Edited {
  if (place.at === 'outcome') {
    const outcomes = document.outcomes.map((outcome) =>
      outcome.id === place.outcome ? { ...outcome, requirements: change(outcome.requirements) } : outcome,
    );
    return ok({ ...document, outcomes });
  }
  const { at, stage: stageId } = place;
  return withStage(document, stageId, (stage) => ({ ...stage, [at]: change(stage[at]) }));
}

const putById = <T extends { readonly id: string }>(list: readonly T[], item: T): readonly T[] =>
  list.some(({ id }) => id === item.id) ? list.map((old) => (old.id === item.id ? item : old)) : [...list, item];
