import { isTrue } from '../criteria/satisfy/claim.ts';
import { resultKey } from '../steps/step.ts';
import type { ItemBase } from './item.ts';
import type { RequirementKind } from './kind.ts';

interface StepItem extends ItemBase {
  readonly kind: 'step';
  readonly step: string;
  /** The results that meet it. */
  readonly results: readonly string[];
}

/** A step has ended with one of these results. */
export const stepKind: RequirementKind<StepItem, 'requirement', 'step'> = {
  kind: 'step',
  written: 'requirement',
  finding: { kind: 'step', name: 'Step not ended so' },
  shape: { step: { is: 'key' }, results: { is: 'list', of: { is: 'key' } } },
  wording: [],
  needs: () => ['runs'],
  judge({ step, results }, { stepResults }) {
    const last = stepResults?.[step]?.result;
    if (last === undefined) return { state: 'missing', explanation: null };
    return { state: results.includes(last) ? 'met' : 'unmet', explanation: null, found: last };
  },
  remedy: ({ step }) => ({ kind: 'step', step }),
  asks: ({ step, results }, _catalogue, nameOf) => [
    { text: nameOf(step) ?? 'A step that is gone', strong: true },
    { text: ' ended with ', strong: false },
    { text: results.map((id) => nameOf(resultKey(step, id)) ?? 'a result that is gone').join(' or '), strong: true },
  ],
  actual: ({ step }, { found }, _catalogue, nameOf) =>
    found === null ? 'not done' : (nameOf(resultKey(step, found)) ?? 'a result that is gone'),
  compile({ step, results }) {
    const [first, ...others] = results;
    return {
      as: 'test',
      test: ({ facts }) => {
        const last = facts.stepResults?.[step]?.result;
        return last === undefined ? null : last === first || others.includes(last);
      },
    };
  },
  turns: () => [],
  reads: () => [],
  criteria: () => [],
  met: ({ step, results }) => isTrue({ kind: 'one_of', left: { of: 'step', step, what: 'result' }, values: results }),
  problems({ step, results }, _catalogue, pointer, nameOf) {
    if (nameOf(step) === undefined) {
      const detail = step === '' ? 'Choose the step.' : 'The step that is meant is gone. Choose another.';
      return [{ pointer: `${pointer}/step`, detail }];
    }
    if (results.length === 0) return [{ pointer: `${pointer}/results`, detail: 'Choose a result at least.' }];
    const isKnown = results.every((id) => nameOf(resultKey(step, id)) !== undefined);
    return isKnown ? [] : [{ pointer: `${pointer}/results`, detail: 'A result that is meant is gone. Choose again.' }];
  },
};
