import type { Problem } from '../criteria/check.ts';
import type { NameOf } from '../criteria/phrase.ts';
import type { Catalogue } from '../facts/field.ts';
import { isCurrency } from '../money/money.ts';
import { checklistKind, toGateItem } from '../requirements/checklist.ts';
import { requirementProblems } from '../requirements/itemParts.ts';
import type { Requirement } from '../requirements/kinds.ts';
import { checkSteps } from './checkSteps.ts';
import { checkTasks } from './checkTasks.ts';
import { OUTCOME_COUNTS, type ProcessDocument, type Stage } from './document.ts';
import { namesWith } from './documentNames.ts';

/** Everything that keeps a document from being published; each problem points at its place. Kinds of documents that have no name are gone. */
export function checkDocument(document: ProcessDocument, catalogue: Catalogue, nameOf: NameOf): readonly Problem[] {
  const names = namesWith(document, nameOf);
  return [
    ...(isCurrency(document.currency)
      ? []
      : [{ pointer: '/currency', detail: `“${document.currency}” is not an ISO 4217 currency.` }]),
    ...(document.stages.length > 0 ? [] : [{ pointer: '/stages', detail: 'A process needs at least one stage.' }]),
    ...checkNames(document),
    ...checkIds(document),
    ...document.stages.flatMap((stage, place) => checkStage(stage, catalogue, names, `/stages/${place}`)),
    ...document.stages.flatMap((stage, place) => checkSteps(stage, document, catalogue, `/stages/${place}`)),
    ...checkOutcomes(document, catalogue, names),
    ...checkTasks(document),
    ...checkSections(document, catalogue),
  ];
}

function checkNames(document: ProcessDocument): readonly Problem[] {
  const names = document.stages.map((stage) => stage.name.trim().toLowerCase());
  return names.flatMap((name, place) => {
    const pointer = `/stages/${place}/name`;
    if (name === '') return [{ pointer, detail: 'A stage needs a name.' }];
    return names.indexOf(name) < place
      ? [{ pointer, detail: `There is already a stage called “${document.stages[place]?.name.trim()}”.` }]
      : [];
  });
}

/** Ids that stand twice: those of stages, requirements, items and steps are unique in the whole document, because findings name them. */
export function checkIds(document: ProcessDocument): readonly Problem[] {
  const seen = new Set<string>();
  const problems: Problem[] = [];
  const note = (id: string, pointer: string): void => {
    if (seen.has(id)) problems.push({ pointer, detail: `The id “${id}” is used twice.` });
    seen.add(id);
  };
  document.stages.forEach((stage, place) => {
    note(stage.id, `/stages/${place}/id`);
    for (const list of ['enter', 'leave', 'checklist', 'steps'] as const) {
      stage[list].forEach(({ id }, index) => {
        note(id, `/stages/${place}/${list}/${index}/id`);
      });
    }
  });
  document.taskSets.forEach(({ id, tasks }, place) => {
    note(id, `/taskSets/${place}/id`);
    tasks.forEach((task, index) => {
      note(task.id, `/taskSets/${place}/tasks/${index}/id`);
    });
  });
  document.outcomes.forEach((outcome, place) => {
    note(outcome.id, `/outcomes/${place}/id`);
    outcome.requirements.forEach(({ id }, index) => {
      note(id, `/outcomes/${place}/requirements/${index}/id`);
    });
  });
  return problems;
}

function checkOutcomes({ outcomes }: ProcessDocument, catalogue: Catalogue, names: NameOf): readonly Problem[] {
  return [
    ...OUTCOME_COUNTS.filter((count) => !outcomes.some(({ counts }) => counts === count)).map((count) => ({
      pointer: '/outcomes',
      detail: `A process needs an outcome that counts as ${count}.`,
    })),
    ...outcomes.flatMap(({ id, name, requirements }, place) => [
      ...(id.includes(':') ? [{ pointer: `/outcomes/${place}/id`, detail: 'The id of an outcome has no colon.' }] : []),
      ...(name.trim() === '' ? [{ pointer: `/outcomes/${place}/name`, detail: 'An outcome needs a name.' }] : []),
      ...checkRequirements(requirements, catalogue, names, `/outcomes/${place}/requirements`),
    ]),
  ];
}

function checkStage(stage: Stage, catalogue: Catalogue, names: NameOf, pointer: string): readonly Problem[] {
  const problems: Problem[] = [];
  if (!Number.isInteger(stage.chance) || stage.chance < 0 || stage.chance > 100) {
    problems.push({ pointer: `${pointer}/chance`, detail: 'A chance is a whole percentage from 0 to 100.' });
  }
  if (stage.target && !isDayCount(stage.target.days))
    problems.push({ pointer: `${pointer}/target/days`, detail: DAY_COUNT_RULE });
  if (stage.idleDays !== null && !isDayCount(stage.idleDays))
    problems.push({ pointer: `${pointer}/idleDays`, detail: DAY_COUNT_RULE });
  return [
    ...problems,
    ...stage.checklist.flatMap((item, place) =>
      checklistKind.problems(toGateItem(item, stage.id), catalogue, `${pointer}/checklist/${place}`, names),
    ),
    ...checkRequirements(stage.enter, catalogue, names, `${pointer}/enter`),
    ...checkRequirements(stage.leave, catalogue, names, `${pointer}/leave`),
  ];
}

const DAY_COUNT_RULE = 'A number of days is a whole number from 1 to 3,650.';
const isDayCount = (days: number): boolean => Number.isInteger(days) && days >= 1 && days <= 3650;

function checkRequirements(
  requirements: readonly Requirement[],
  catalogue: Catalogue,
  names: NameOf,
  pointer: string,
): readonly Problem[] {
  return requirements.flatMap((requirement, place) =>
    requirementProblems(requirement, catalogue, `${pointer}/${place}`, names),
  );
}

function checkSections(document: ProcessDocument, catalogue: Catalogue): readonly Problem[] {
  return document.sections.flatMap((section, place) =>
    section.fields.flatMap((field, index) =>
      catalogue.has(field)
        ? []
        : [{ pointer: `/sections/${place}/fields/${index}`, detail: 'This field is no longer in the catalogue.' }],
    ),
  );
}
