import { checkValue, type FactValue, isMoney } from '../../facts/value.ts';
import { minorDigits } from '../../money/money.ts';
import { dayFromNumber, FIRST_DAY, LAST_DAY, parseDay } from '../../time/day.ts';
import { type Condition, termsOf } from '../criterion.ts';
import { listsFor } from './lists.ts';
import { pointsAmong, wholeAmong } from './points.ts';
import { textsFor } from './texts.ts';
import type { Subject, Variable } from './variable.ts';

/** Values of a variable that stand for all it may have. */
export interface Cells {
  readonly values: readonly FactValue[];
  /** Whether they do: if not, nothing can be told of none of them fitting. */
  readonly isWhole: boolean;
}

/** Variables that conditions compare with each other, and every condition that reads one of them. */
export interface Group {
  readonly variables: readonly Variable[];
  readonly conditions: readonly Condition[];
}

const LINK_STARTS = ['http://', 'https://'];
const WRITTEN = ['text', 'long_text', 'link'];

/** The cells of each variable of a group on a day. */
export function cellsOf(variable: Variable, group: Group, subject: Subject, today: number): Cells {
  const { values, isWhole } = filledCells(variable, group, subject, today);
  const fitting = values.filter((value) => fits(variable, value));
  return { values: isAlwaysKnown(variable) ? fitting : [...fitting, null], isWhole };
}

function filledCells(variable: Variable, group: Group, subject: Subject, today: number): Cells {
  const isLinked = group.variables.length > 1;
  switch (variable.kind) {
    case 'yes_no':
      return { values: [true, false], isWhole: true };
    case 'ids':
      return listCells(variable, group);
    case 'id':
      return idCells(variable, group, subject);
    case 'text':
      return isLinked ? linkedTextCells(group) : textCells(variable, group);
    case 'number':
    case 'money':
    case 'date':
      return lineCells(variable, group, today);
  }
}

function textCells(variable: Variable, { conditions }: Group): Cells {
  const { texts, isWhole } = textsFor(conditions, variable.field.type === 'link' ? LINK_STARTS : []);
  return { values: texts, isWhole: isWhole && texts.every((text) => isShort(variable, text)) };
}

/** Texts that are compared with each other: those that are named, and as many more as can differ. Parts of them are not told apart. */
function linkedTextCells({ conditions, variables }: Group): Cells {
  const named = conditions.flatMap((condition) =>
    'values' in condition ? condition.values : constantsIn(condition).filter((value) => typeof value === 'string'),
  );
  const others = variables.map((_, place) => `${'-'.repeat(place + 1)}${named.join('')}`);
  return { values: [...named, ...others], isWhole: !conditions.some((condition) => 'text' in condition) };
}

const isShort = ({ field }: Variable, text: string): boolean => checkValue(field, text)?.code !== 'too_long';

function listCells({ field }: Variable, { conditions }: Group): Cells {
  const lists = listsFor(conditions, field.choices ?? []);
  return { values: lists ?? [], isWhole: lists !== null };
}

/** Ids that are named, and of those that are not as many as can differ from each other. */
function idCells({ operand, field }: Variable, group: Group, { resultsOf }: Subject): Cells {
  const named = group.conditions.flatMap((condition) =>
    'values' in condition ? condition.values : constantsIn(condition).filter((value) => typeof value === 'string'),
  );
  const others = group.variables.map((_, place) => `other ${place}`);
  if (operand.of === 'step') return { values: resultsOf(operand.step), isWhole: true };
  if (!field.choices) return { values: [...new Set([...named, ...others])], isWhole: true };
  const offered = [...field.choices].sort((a, b) => Number(a.withdrawn ?? false) - Number(b.withdrawn ?? false));
  if (group.variables.length > 1) return { values: offered.map(({ id }) => id), isWhole: true };
  const unnamed = offered.filter(({ id }) => !named.includes(id)).slice(0, 1);
  return { values: [...offered.filter(({ id }) => named.includes(id)), ...unnamed].map(({ id }) => id), isWhole: true };
}

function lineCells(variable: Variable, group: Group, today: number): Cells {
  const constants = [
    ...group.conditions.flatMap((condition) => placesIn(condition, today)),
    ...group.variables.flatMap(boundsOf),
    ...(variable.kind === 'date' ? [today] : []),
  ];
  const count = group.variables.length;
  const isDense = variable.kind === 'number' && !isCount(variable);
  const places = isDense ? pointsAmong(constants, count) : wholeAmong(constants, count);
  return {
    values: places.map((place) => valueAt(variable, place)),
    // Whole numbers among others leave gaps that the others may need; amounts of two fields meet by rates that may be anything.
    isWhole:
      places.every((place) => Math.abs(place) <= Number.MAX_SAFE_INTEGER) &&
      (count === 1 ||
        (variable.kind !== 'money' &&
          group.variables.every((other) => isCount(other) === !isDense || other.kind === 'date'))),
  };
}

/** Where a condition's constants lie on the line of numbers: days are counted, amounts in minor units. */
const placesIn = (condition: Condition, today: number): readonly number[] => [
  ...constantsIn(condition).flatMap(placeOfValue),
  ...termsOf(condition).flatMap((term) => (term.of === 'today' ? [today + term.plus] : [])),
];

function placeOfValue(value: FactValue): readonly number[] {
  if (typeof value === 'number') return [value];
  if (isMoney(value)) return [value.minor];
  const day = typeof value === 'string' ? parseDay(value) : null;
  return day === null ? [] : [day];
}

/** Where what may be written begins and ends. */
export function boundsOf({ kind, operand, field, currency }: Variable): readonly number[] {
  if (operand.of !== 'field') return [];
  if (kind === 'date') return [field.firstDay ?? FIRST_DAY, field.lastDay ?? LAST_DAY].flatMap(placeOfValue);
  const unit = kind === 'money' ? 10 ** minorDigits(currency) : 1;
  return [field.min, field.max].flatMap((bound) => (bound === undefined ? [] : [bound * unit]));
}

function valueAt({ kind, currency }: Variable, place: number): FactValue {
  if (kind === 'money') return { minor: place, currency };
  return kind === 'date' ? dayFromNumber(place) : place;
}

/** The values that a condition names. */
export const constantsIn = (condition: Condition): readonly FactValue[] =>
  termsOf(condition).flatMap((term) => (term.of === 'value' ? [term.value] : []));

const isCount = ({ operand }: Variable): boolean => operand.of !== 'field' && operand.of !== 'step';

const isAlwaysKnown = ({ operand }: Variable): boolean => operand.of === 'journey';

/** Whether a deal can have the value: counts are not negative, a calculated number is what it comes to, and fields take what may be written. */
function fits(variable: Variable, value: FactValue): boolean {
  const { operand, field } = variable;
  if (isCount(variable)) return typeof value === 'number' && value >= 0;
  if (operand.of === 'step' || field.type === 'calculated') return true;
  if (field.choices) return true;
  return WRITTEN.includes(field.type) && typeof value === 'string' && !isShort(variable, value)
    ? false
    : checkValue(field, value) === null;
}
