import { checkCriterion } from '../criteria/check.ts';
import { compileTest } from '../criteria/compile.ts';
import { type Criterion, fieldsReadBy } from '../criteria/criterion.ts';
import { type Explanation, evaluate, type Leaf } from '../criteria/evaluate.ts';
import { operandField } from '../criteria/operands.ts';
import { type NameOf, phrase, valueText } from '../criteria/phrase.ts';
import { isTrue } from '../criteria/satisfy/claim.ts';
import type { Catalogue } from '../facts/field.ts';
import type { CurrencyPair } from '../money/money.ts';
import { resultKey } from '../steps/step.ts';
import { criterionParts } from './criterionParts.ts';
import { criterionTurns } from './criterionTurns.ts';
import type { ItemBase } from './item.ts';
import type { RequirementKind } from './kind.ts';
import { lackingFor, NOTHING_LACKING, provide } from './lacking.ts';

interface CriterionItem extends ItemBase {
  readonly kind: 'criterion';
  readonly criterion: Criterion;
}

/** A condition over the deal's facts is true. What is unknown is missing, never met (S2). */
export const criterionKind: RequirementKind<CriterionItem, 'requirement', 'criterion'> = {
  kind: 'criterion',
  written: 'requirement',
  finding: { kind: 'criterion', name: 'Criterion not met' },
  shape: { criterion: { is: 'criterion' } },
  wording: [],
  needs: ({ criterion }) => criterionParts(criterion),
  judge({ criterion }, facts, catalogue) {
    const explanation = evaluate(criterion, facts, catalogue);
    const state = explanation.result === null ? 'missing' : explanation.result ? 'met' : 'unmet';
    return { state, explanation };
  },
  remedy({ criterion }, { explanation }, facts, catalogue) {
    const isUnknown = explanation !== null && explanation.result === null;
    const lacking = isUnknown ? lackingFor(explanation, facts, catalogue) : NOTHING_LACKING;
    return provide(lacking, fieldsReadBy(criterion), catalogue);
  },
  asks: ({ criterion }, catalogue, nameOf) => phrase(criterion, catalogue, nameOf),
  actual(_item, { explanation }, catalogue, nameOf) {
    const leaf = explanation && decidingLeaf(explanation);
    return leaf && leafText(leaf, catalogue, nameOf);
  },
  compile: ({ criterion }, catalogue, columns) => ({ as: 'test', test: compileTest(criterion, catalogue, columns) }),
  turns: ({ criterion }, facts) => criterionTurns(criterion, facts),
  reads: ({ criterion }) => fieldsReadBy(criterion),
  criteria: ({ criterion }) => [criterion],
  met: ({ criterion }) => isTrue(criterion),
  problems: ({ criterion }, catalogue, pointer, nameOf) =>
    checkCriterion(criterion, catalogue, `${pointer}/criterion`, nameOf),
};

/** The first leaf that keeps the whole from being true; where it is true, the first leaf. */
function decidingLeaf(explanation: Explanation): Leaf | null {
  if (explanation.kind === 'leaf') return explanation;
  const part = explanation.parts.find(({ result }) => result !== true) ?? explanation.parts[0];
  return part ? decidingLeaf(part) : null;
}

function leafText({ criterion: { left }, actual, missingRates }: Leaf, catalogue: Catalogue, nameOf: NameOf): string {
  const field = operandField(left, catalogue, nameOf) ?? undefined;
  const nameIn: NameOf = (id) => (left.of === 'step' ? nameOf(resultKey(left.step, id)) : undefined) ?? nameOf(id);
  const text = valueText(actual, field, nameIn);
  return missingRates.length > 0 ? `${text}; ${ratesText(missingRates)}` : text;
}

/** Rates that are not set, in words. */
const ratesText = (rates: readonly CurrencyPair[]): string =>
  rates.map(({ from, to }) => `no exchange rate from ${from} to ${to}`).join(', ');
