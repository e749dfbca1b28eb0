import type { Catalogue } from '../facts/field.ts';
import { type FactValue, foldText, isMoney } from '../facts/value.ts';
import { dayFromNumber } from '../time/day.ts';
import { type Comparison, type Condition, type Criterion, isGroup, type Operand, type Term } from './criterion.ts';
import type { Facts } from './facts.ts';
import { type Kleene, not } from './kleene.ts';
import { type ComparableKind, comparableKind, compareValues, termValue } from './terms.ts';

/** A criterion made ready to judge many deals: the same answer as `evaluate`, without the explanation. */
export type CompiledCriterion = (facts: Facts) => Kleene;

const UNKNOWN: CompiledCriterion = () => null;

/** Compiles the tree to closures over the catalogue's types; a leaf whose field is gone is always unknown. */
export function compile(criterion: Criterion, catalogue: Catalogue): CompiledCriterion {
  if (!isGroup(criterion)) return compileLeaf(criterion, catalogue);
  if (criterion.kind === 'not') {
    const part = compile(criterion.of, catalogue);
    return (facts) => not(part(facts));
  }
  const parts = criterion.of.map((part) => compile(part, catalogue));
  return criterion.kind === 'all' ? all(parts) : any(parts);
}

function all(parts: readonly CompiledCriterion[]): CompiledCriterion {
  return (facts) => {
    let result: Kleene = true;
    for (const part of parts) {
      const truth = part(facts);
      if (truth === false) return false;
      if (truth === null) result = null;
    }
    return result;
  };
}

function any(parts: readonly CompiledCriterion[]): CompiledCriterion {
  return (facts) => {
    let result: Kleene = false;
    for (const part of parts) {
      const truth = part(facts);
      if (truth === true) return true;
      if (truth === null) result = null;
    }
    return result;
  };
}

function compileLeaf(condition: Condition, catalogue: Catalogue): CompiledCriterion {
  const kind = comparableKind(condition.left, catalogue);
  if (kind === null) return UNKNOWN;
  switch (condition.kind) {
    case 'set':
      return compileIsSet(condition.left);
    case 'unset': {
      const isSet = compileIsSet(condition.left);
      return (facts) => !isSet(facts);
    }
    case 'between':
      return all([
        compileComparison(kind, 'at_least', condition.left, condition.low),
        compileComparison(kind, 'at_most', condition.left, condition.high),
      ]);
    case 'one_of':
      return compileOneOf(kind, condition.left, condition.values);
    case 'none_of': {
      const isOneOf = compileOneOf(kind, condition.left, condition.values);
      return (facts) => not(isOneOf(facts));
    }
    case 'includes_any':
    case 'includes_all':
    case 'includes_none':
      return compileIncludes(condition.kind, condition.left, condition.values);
    case 'contains':
    case 'starts_with':
      return compileText(condition.kind, condition.left, condition.text);
    default:
      return compileComparison(kind, condition.kind, condition.left, condition.right);
  }
}

function compileIsSet(left: Operand): (facts: Facts) => boolean {
  const read = compileTerm(left);
  return (facts) => read(facts) !== null;
}

function compileOneOf(kind: ComparableKind, left: Operand, values: readonly string[]): CompiledCriterion {
  const read = compileTerm(left);
  if (kind === 'text') {
    const folded = new Set(values.map(foldText));
    return (facts) => {
      const actual = read(facts);
      return typeof actual === 'string' ? folded.has(foldText(actual)) : null;
    };
  }
  return (facts) => {
    const actual = read(facts);
    return typeof actual === 'string' ? values.includes(actual) : null;
  };
}

function compileIncludes(
  kind: 'includes_any' | 'includes_all' | 'includes_none',
  left: Operand,
  values: readonly string[],
): CompiledCriterion {
  const read = compileTerm(left);
  return (facts) => {
    const actual = read(facts);
    if (!Array.isArray(actual)) return null;
    if (kind === 'includes_all') return values.every((id) => actual.includes(id));
    return values.some((id) => actual.includes(id)) === (kind === 'includes_any');
  };
}

function compileText(kind: 'contains' | 'starts_with', left: Operand, text: string): CompiledCriterion {
  const read = compileTerm(left);
  const folded = foldText(text);
  return (facts) => {
    const actual = read(facts);
    if (typeof actual !== 'string') return null;
    return kind === 'contains' ? foldText(actual).includes(folded) : foldText(actual).startsWith(folded);
  };
}

/** Numbers, amounts and dates against a constant are the common case and get a closure of their own. */
function compileComparison(
  kind: ComparableKind,
  comparison: Comparison,
  left: Operand,
  right: Term,
): CompiledCriterion {
  const read = compileTerm(left);
  const readRight = compileTerm(right);
  if (right.of === 'value' && kind === 'number' && typeof right.value === 'number') {
    const test = scalarTest(comparison, right.value);
    return (facts) => {
      const actual = read(facts);
      return typeof actual === 'number' ? test(actual) : null;
    };
  }
  if (right.of === 'value' && kind === 'money' && isMoney(right.value)) {
    return compileMoney(comparison, read, right.value, scalarTest(comparison, right.value.minor));
  }
  return (facts) => compareValues(kind, comparison, read(facts), readRight(facts), facts);
}

function compileMoney(
  comparison: Comparison,
  read: (facts: Facts) => FactValue,
  needed: { minor: number; currency: string },
  test: (actual: number) => boolean,
): CompiledCriterion {
  return (facts) => {
    const actual = read(facts);
    if (!isMoney(actual)) return null;
    return actual.currency === needed.currency
      ? test(actual.minor)
      : compareValues('money', comparison, actual, needed, facts);
  };
}

function scalarTest(comparison: Comparison, needed: number): (actual: number) => boolean {
  switch (comparison) {
    case 'equals':
      return (actual) => actual === needed;
    case 'differs':
      return (actual) => actual !== needed;
    case 'more':
      return (actual) => actual > needed;
    case 'at_least':
      return (actual) => actual >= needed;
    case 'less':
      return (actual) => actual < needed;
    case 'at_most':
      return (actual) => actual <= needed;
  }
}

/** Reads a term; `''` and `[]` count as empty, as everywhere (S1). */
export function compileTerm(term: Term): (facts: Facts) => FactValue {
  switch (term.of) {
    case 'field': {
      const id = term.field;
      return (facts) => {
        const value = facts.values[id];
        if (value === undefined || value === '' || (Array.isArray(value) && value.length === 0)) return null;
        return value;
      };
    }
    case 'today':
      return compileToday(term.plus);
    default:
      return (facts) => termValue(term, facts);
  }
}

/** A book of deals is judged on one day, so the day's text is made once, not once a deal. */
function compileToday(plus: number): (facts: Facts) => string {
  let madeFor = Number.NaN;
  let text = '';
  return (facts) => {
    if (facts.today !== madeFor) {
      madeFor = facts.today;
      text = dayFromNumber(madeFor + plus);
    }
    return text;
  };
}
