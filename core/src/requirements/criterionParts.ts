import { type Criterion, conditionsOf, type JourneyFact, type Term, termsOf } from '../criteria/criterion.ts';

/** Names of the deal parts that each fact of the journey is told by. */
const PARTS_OF_FACT: Readonly<Record<JourneyFact, readonly string[]>> = {
  days_in_stage: ['visits'],
  days_since_activity: ['visits', 'activities'],
  close_date_moves: ['values'],
};

/** Names of the deal parts that a criterion is judged by, each once. */
export const criterionParts = (criterion: Criterion): readonly string[] => [
  ...new Set(conditionsOf(criterion).flatMap(termsOf).flatMap(partsOfTerm)),
];

function partsOfTerm(term: Term): readonly string[] {
  switch (term.of) {
    case 'journey':
      return PARTS_OF_FACT[term.fact];
    case 'field':
      return ['values'];
    case 'step':
      return ['runs'];
    case 'activities':
      return ['activities', 'visits'];
    case 'documents':
      return ['documents'];
    case 'value':
    case 'today':
      return [];
  }
}
