import { type Criterion, isGroup, type Operand, type Term } from '../criteria/criterion.ts';
import type { StageId } from '../ids.ts';
import type { Requirement } from '../requirements/kinds.ts';
import type { GuidedStep, ResultAction, StepResult } from '../steps/step.ts';
import type { Arrival } from '../tasks/taskSet.ts';
import type { ProcessDocument, Stage } from './document.ts';

/**
 * The document as another process begins with it: everything has an id of its own, so that nothing of the one is taken for
 * the other's, and whatever refers to something refers to the copy. Ends and results keep their ids, which are their
 * process's and step's own.
 */
export function copyDocument(document: ProcessDocument, name: string, newKey: () => string): ProcessDocument {
  const copies = new Map<string, string>();
  const { stages, taskSets, outcomes } = document;
  const named = [
    ...stages.flatMap(({ id, enter, leave, checklist, steps }) => [{ id }, ...enter, ...leave, ...checklist, ...steps]),
    ...taskSets.flatMap(({ id, tasks }) => [{ id }, ...tasks]),
    ...outcomes.flatMap(({ requirements }) => requirements),
  ];
  for (const { id } of named) copies.set(id, newKey());
  const of = <Id extends string>(id: Id): Id => (copies.get(id) ?? id) as Id;
  const requirement = (one: Requirement): Requirement => copyRequirement(one, of);
  return {
    ...document,
    name,
    stages: stages.map(
      (stage): Stage => ({
        ...stage,
        id: of(stage.id),
        enter: stage.enter.map(requirement),
        leave: stage.leave.map(requirement),
        checklist: stage.checklist.map((item) => ({ ...item, id: of(item.id) })),
        steps: stage.steps.map((step) => copyStep(step, of)),
        arrival: stage.arrival.map((one) => copySetUse(one, of)),
      }),
    ),
    taskSets: taskSets.map((set) => ({
      ...set,
      id: of(set.id),
      tasks: set.tasks.map((task) => ({ ...task, id: of(task.id) })),
    })),
    outcomes: outcomes.map((outcome) => ({ ...outcome, requirements: outcome.requirements.map(requirement) })),
  };
}

type Copies = <Id extends string>(id: Id) => Id;

function copyRequirement(requirement: Requirement, of: Copies): Requirement {
  const base = {
    ...requirement,
    id: of(requirement.id),
    ...(requirement.appliesWhen ? { appliesWhen: copyCriterion(requirement.appliesWhen, of) } : {}),
  };
  switch (base.kind) {
    case 'criterion':
      return { ...base, criterion: copyCriterion(base.criterion, of) };
    case 'steps':
      return { ...base, of: of(base.of) };
    case 'step':
      return { ...base, step: of(base.step) };
    default:
      return base;
  }
}

function copyCriterion(criterion: Criterion, of: Copies): Criterion {
  if (isGroup(criterion))
    return criterion.kind === 'not'
      ? { ...criterion, of: copyCriterion(criterion.of, of) }
      : { ...criterion, of: criterion.of.map((part) => copyCriterion(part, of)) };
  const left = copyOperand(criterion.left, of);
  if ('right' in criterion) return { ...criterion, left, right: copyOperand(criterion.right, of) };
  if (criterion.kind === 'between')
    return { ...criterion, left, low: copyOperand(criterion.low, of), high: copyOperand(criterion.high, of) };
  return { ...criterion, left };
}

const copyOperand = <Read extends Operand | Term>(term: Read, of: Copies): Read =>
  term.of === 'step' ? { ...term, step: of(term.step) } : term;

const copyStep = (step: GuidedStep, of: Copies): GuidedStep => ({
  ...step,
  id: of(step.id),
  results: step.results.map(
    (result): StepResult => ({
      ...result,
      leads: copyLead(result.leads, of),
      actions: result.actions.map(
        (action): ResultAction =>
          action.do === 'tick' ? { ...action, item: of(action.item) } : copySetUse(action, of),
      ),
    }),
  ),
});

function copyLead(leads: StepResult['leads'], of: Copies): StepResult['leads'] {
  if (leads.to === 'step') return { ...leads, step: of(leads.step) };
  return leads.to === 'stage' ? { ...leads, stage: of<StageId>(leads.stage) } : leads;
}

const copySetUse = <Use extends Arrival | ResultAction>(use: Use, of: Copies): Use =>
  use.do === 'add_tasks' ? { ...use, set: of(use.set) } : use;
