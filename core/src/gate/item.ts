import { conditionsOf, termsOf } from '../criteria/criterion.ts';
import { isMoney } from '../facts/value.ts';
import type { StageId } from '../ids.ts';
import type { Outcome, ProcessDocument, Stage } from '../processes/document.ts';
import { toGateItem } from '../requirements/checklist.ts';
import type { AskedAt } from '../requirements/item.ts';
import { criteriaOf, fieldsOf } from '../requirements/itemParts.ts';
import type { GateItem, Requirement } from '../requirements/kinds.ts';

/** What a stage asks before a deal may enter it. */
export const itemsToEnter = remembered((stage: Stage): readonly GateItem[] =>
  stage.enter.map((requirement) => requirementItem(requirement, stage.id, 'enter')),
);

/** What a stage asks before a deal may leave it forward: its leaving requirements, then its must items. */
export const itemsToLeave = remembered((stage: Stage): readonly GateItem[] => [
  ...stage.leave.map((requirement) => requirementItem(requirement, stage.id, 'leave')),
  ...stage.checklist.filter(({ need }) => need === 'must').map((item) => toGateItem(item, stage.id)),
]);

/** What an outcome asks. */
export const itemsToClose = remembered((outcome: Outcome): readonly GateItem[] =>
  outcome.requirements.map((requirement) => requirementItem(requirement, null, 'outcome')),
);

function requirementItem(requirement: Requirement, stage: StageId | null, at: AskedAt): GateItem {
  return { stage, at, ...requirement };
}

/** Every item the version asks anywhere, by id. */
export const itemsOf = remembered((document: ProcessDocument): ReadonlyMap<string, GateItem> => {
  const items = [
    ...document.stages.flatMap((stage) => [...itemsToEnter(stage), ...itemsToLeave(stage)]),
    ...document.outcomes.flatMap(itemsToClose),
  ];
  return new Map(items.map((item) => [item.id, item]));
});

/** Fields that some item of the version asks for or reads, each once. */
export const fieldsAsked = (document: ProcessDocument): readonly string[] => [
  ...new Set([...itemsOf(document).values()].flatMap(fieldsOf)),
];

/** Currencies of the amounts that the version's criteria compare with. */
export const currenciesAsked = remembered((document: ProcessDocument): readonly string[] => {
  const criteria = [...itemsOf(document).values()].flatMap(criteriaOf);
  const terms = criteria.flatMap(conditionsOf).flatMap(termsOf);
  return terms.flatMap((term) => (term.of === 'value' && isMoney(term.value) ? [term.value.currency] : []));
});

/** Documents never change, so what is read from one is worked out once; judging a book asks for it again and again. */
function remembered<Part extends object, Result>(read: (part: Part) => Result): (part: Part) => Result {
  const known = new WeakMap<Part, Result>();
  return (part) => {
    const result = known.get(part) ?? read(part);
    known.set(part, result);
    return result;
  };
}
