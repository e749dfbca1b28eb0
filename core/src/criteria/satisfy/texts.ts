import { foldText } from '../../facts/value.ts';
import type { Condition } from '../criterion.ts';

/** More texts than these are not tried. */
const MOST_TEXTS = 4_096;
const SEPARATORS = ['-', '·', '_', '+', '~', '^', '\u{e000}', '\u{e001}'];

/** What stands for all texts, and whether it truly does. */
export interface Texts {
  readonly texts: readonly string[];
  readonly isWhole: boolean;
}

/**
 * Texts that tell every way apart in which conditions over one text can come out together: each text that it is compared
 * with; and each beginning followed by each choice of parts, held apart by a sign that no condition knows. A text that is
 * none of the first comes out as the longest beginning it has followed by the parts it contains: the sign makes nothing
 * else begin or be contained, and makes it differ from all.
 *
 * `starts` are beginnings that one of is needed whatever else is asked (a link's); empty where none is.
 */
export function textsFor(conditions: readonly Condition[], starts: readonly string[]): Texts {
  const compared = conditions.flatMap((condition) =>
    'values' in condition ? condition.values : comparedWith(condition),
  );
  const parts = textsOf(conditions, 'contains');
  const beginnings = ['', ...textsOf(conditions, 'starts_with')];
  const sign = SEPARATORS.find(
    (candidate) => ![...compared, ...parts, ...beginnings].some((t) => foldText(t).includes(candidate)),
  );
  if (sign === undefined || beginnings.length * 2 ** parts.length > MOST_TEXTS)
    return { texts: compared.map(foldText), isWhole: false };
  const built = beginnings.flatMap((beginning) =>
    begunWith(beginning, starts).flatMap((begun) =>
      choicesOf(parts).map((chosen) => `${[begun, ...chosen].join(sign)}${sign}`),
    ),
  );
  const texts = [...new Set([...compared.map(foldText), ...built])];
  return { texts, isWhole: texts.every((text) => foldText(text) === text) };
}

const comparedWith = (condition: Condition): readonly string[] =>
  'right' in condition && condition.right.of === 'value' && typeof condition.right.value === 'string'
    ? [condition.right.value]
    : [];

const textsOf = (conditions: readonly Condition[], kind: 'contains' | 'starts_with'): readonly string[] => [
  ...new Set(conditions.flatMap((condition) => (condition.kind === kind ? [foldText(condition.text)] : []))),
];

/** The beginning with each needed one that agrees with it: the longer of the two. */
function begunWith(beginning: string, starts: readonly string[]): readonly string[] {
  if (starts.length === 0) return [beginning];
  return starts.flatMap((start) =>
    beginning.startsWith(start) ? [beginning] : start.startsWith(beginning) ? [start] : [],
  );
}

/** Every choice among the parts, from none to all. */
function choicesOf(parts: readonly string[]): readonly (readonly string[])[] {
  const [first, ...rest] = parts;
  if (first === undefined) return [[]];
  const others = choicesOf(rest);
  return [...others, ...others.map((choice) => [first, ...choice])];
}
