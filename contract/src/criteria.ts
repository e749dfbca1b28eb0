import { ACTIVITY_KINDS, ACTIVITY_SPANS, COMPARISONS, type Criterion, JOURNEY_FACTS, STEP_FACTS } from '@ladder/core';
import { facts } from './facts.ts';
import { integer, type Known, key, list, named, object, oneOf, self, tagged, text } from './schema.ts';

const operands = [
  object({ of: oneOf(['field']), field: key() }),
  object({ of: oneOf(['journey']), fact: oneOf(JOURNEY_FACTS) }),
  object({ of: oneOf(['step']), step: key(), what: oneOf(STEP_FACTS) }),
  object({ of: oneOf(['activities']), activity: oneOf(ACTIVITY_KINDS), within: oneOf(ACTIVITY_SPANS) }),
  object({ of: oneOf(['documents']), document: key() }),
] as const;
const operand = tagged('of', ...operands);
const term = tagged(
  'of',
  ...operands,
  object({ of: oneOf(['value']), value: facts.value }),
  object({ of: oneOf(['today']), plus: integer(-36_500, 36_500) }),
);
const values = list(text({ max: 200 }), 500);
const part = self<Criterion>('Criterion');
/** A condition over a deal's facts. */
export const criterion = named(
  'Criterion',
  tagged(
    'kind',
    object({ kind: oneOf(['all', 'any']), of: list(part, 100) }),
    object({ kind: oneOf(['not']), of: part }),
    object({ kind: oneOf(['set', 'unset']), left: operand }),
    object({ kind: oneOf(COMPARISONS), left: operand, right: term }),
    object({ kind: oneOf(['between']), left: operand, low: term, high: term }),
    object({
      kind: oneOf(['one_of', 'none_of', 'includes_any', 'includes_all', 'includes_none']),
      left: operand,
      values,
    }),
    object({ kind: oneOf(['contains', 'starts_with']), left: operand, text: text({ min: 0 }) }),
  ),
) as Known<Criterion>;
