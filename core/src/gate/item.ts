import { type Criterion, conditionsOf, fieldsReadBy, termsOf } from '../criteria/criterion.ts';
import { isMoney } from '../facts/value.ts';
import { canonicalText } from '../processes/canonicalText.ts';
import type { Binding, ChecklistItem, Level, ProcessDocument, Requirement, Stage } from '../processes/document.ts';

/** Which part of the document asks an item. */
export type AskedAt = 'enter' | 'leave' | 'checklist' | 'won' | 'lost' | 'rule';

/** One thing that a gate asks, wherever it was written down. */
export type GateItem = {
  readonly id: string;
  /** The stage that asks it; null for what an outcome asks. */
  readonly stage: string | null;
  readonly at: AskedAt;
  readonly level: Level;
  readonly binds: Binding;
  readonly appliesWhen?: Criterion;
  readonly message?: string;
} & (
  | { readonly kind: 'criterion'; readonly criterion: Criterion }
  | { readonly kind: 'field'; readonly field: string }
  | { readonly kind: 'checklist'; readonly text: string; readonly afterReturn: ChecklistItem['afterReturn'] }
  /** The process's own rule stands in the way; nothing the seller fills in changes that. */
  | { readonly kind: 'decision'; readonly rule: 'returns' }
);

/** What a stage asks before a deal may enter it. */
export const itemsToEnter = remembered((stage: Stage): readonly GateItem[] =>
  stage.enter.map((requirement) => requirementItem(requirement, stage.id, 'enter')),
);

/** What a stage asks before a deal may leave it forward: its leaving requirements, then its must items. */
export const itemsToLeave = remembered((stage: Stage): readonly GateItem[] => [
  ...stage.leave.map((requirement) => requirementItem(requirement, stage.id, 'leave')),
  ...stage.checklist.filter(({ need }) => need === 'must').map((item) => checklistItem(item, stage.id)),
]);

/** What an outcome asks. */
export const itemsToClose = (document: ProcessDocument, outcome: 'won' | 'lost'): readonly GateItem[] =>
  document[outcome].requirements.map((requirement) => requirementItem(requirement, null, outcome));

function requirementItem(requirement: Requirement, stage: string | null, at: AskedAt): GateItem {
  return { ...requirement, stage, at };
}

/** A ticked item stays owed like a field: unticking it later is a finding. */
function checklistItem(item: ChecklistItem, stage: string): GateItem {
  return {
    id: item.id,
    stage,
    at: 'checklist',
    level: item.level,
    binds: 'must_stay',
    kind: 'checklist',
    text: item.text,
    afterReturn: item.afterReturn,
  };
}

/** What an item asks, of whom, at what level and for how long: all but its words. Equal where nothing of it has changed (S28). */
export function substanceOf(item: GateItem): string {
  const { message: _message, ...asked } = item;
  return canonicalText(asked.kind === 'checklist' ? { ...asked, text: '' } : asked);
}

/** Every item the version asks anywhere, by id. */
export const itemsOf = remembered((document: ProcessDocument): ReadonlyMap<string, GateItem> => {
  const items = [
    ...document.stages.flatMap((stage) => [...itemsToEnter(stage), ...itemsToLeave(stage)]),
    ...itemsToClose(document, 'won'),
    ...itemsToClose(document, 'lost'),
  ];
  return new Map(items.map((item) => [item.id, item]));
});

/** Fields that some item of the version asks for or reads, each once. */
export const fieldsAsked = (document: ProcessDocument): readonly string[] => [
  ...new Set(
    [...itemsOf(document).values()].flatMap((item) => [
      ...(item.kind === 'field' ? [item.field] : []),
      ...(item.kind === 'criterion' ? fieldsReadBy(item.criterion) : []),
      ...(item.appliesWhen ? fieldsReadBy(item.appliesWhen) : []),
    ]),
  ),
];

/** Currencies of the amounts that the version's criteria compare with. */
export const currenciesAsked = remembered((document: ProcessDocument): readonly string[] => {
  const criteria = [...itemsOf(document).values()].flatMap((item) => [
    ...(item.kind === 'criterion' ? [item.criterion] : []),
    ...(item.appliesWhen ? [item.appliesWhen] : []),
  ]);
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
