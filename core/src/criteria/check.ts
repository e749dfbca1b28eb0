import type { Catalogue, Field } from '../facts/field.ts';
import { checkValue, describeValueProblem } from '../facts/value.ts';
import { type Condition, type Criterion, isGroup, partsOf, type Term } from './criterion.ts';
import { CONDITIONS_FOR, CONDITIONS_FOR_JOURNEY } from './operators.ts';
import { comparableKind } from './terms.ts';

/** Something wrong in a written document; `pointer` is an RFC 6901 JSON pointer to the place. */
export interface Problem {
  readonly pointer: string;
  readonly detail: string;
}

/** Everything wrong with a criterion over the catalogue; empty where it may be used. */
export function checkCriterion(criterion: Criterion, catalogue: Catalogue, pointer = ''): readonly Problem[] {
  if (!isGroup(criterion)) return checkLeaf(criterion, catalogue, pointer);
  const parts = partsOf(criterion);
  if (parts.length === 0) return [{ pointer, detail: 'A group needs at least one condition.' }];
  return parts.flatMap((part, place) =>
    checkCriterion(part, catalogue, criterion.kind === 'not' ? `${pointer}/of` : `${pointer}/of/${place}`),
  );
}

function checkLeaf(condition: Condition, catalogue: Catalogue, pointer: string): readonly Problem[] {
  const { left } = condition;
  const field = left.of === 'field' ? catalogue.get(left.field) : undefined;
  if (left.of === 'field' && !field)
    return [{ pointer: `${pointer}/left`, detail: 'This field is no longer in the catalogue. Choose another.' }];
  const allowed = field ? CONDITIONS_FOR[field.type] : CONDITIONS_FOR_JOURNEY;
  if (!allowed.includes(condition.kind)) {
    return [
      {
        pointer: `${pointer}/kind`,
        detail: `“${condition.kind}” does not fit ${field ? `a field of type ${field.type}` : 'a number of days'}.`,
      },
    ];
  }
  return [...checkTerms(condition, field, catalogue, pointer), ...checkLists(condition, field, pointer)];
}

function checkTerms(
  condition: Condition,
  field: Field | undefined,
  catalogue: Catalogue,
  pointer: string,
): readonly Problem[] {
  if ('right' in condition) return checkTerm(condition, condition.right, field, catalogue, `${pointer}/right`);
  if (condition.kind !== 'between') return [];
  return [
    ...checkTerm(condition, condition.low, field, catalogue, `${pointer}/low`),
    ...checkTerm(condition, condition.high, field, catalogue, `${pointer}/high`),
  ];
}

function checkTerm(
  condition: Condition,
  term: Term,
  field: Field | undefined,
  catalogue: Catalogue,
  pointer: string,
): readonly Problem[] {
  if (term.of === 'today')
    return field?.type === 'date' ? [] : [{ pointer, detail: 'Only a date can be compared with today.' }];
  if (term.of === 'value') return checkConstant(term.value, field, pointer);
  const [left, right] = [comparableKind(condition.left, catalogue), comparableKind(term, catalogue)];
  if (right === null) return [{ pointer, detail: 'This field is no longer in the catalogue. Choose another.' }];
  return left === right ? [] : [{ pointer, detail: 'Both sides of a comparison must be of one type.' }];
}

function checkConstant(
  value: Parameters<typeof checkValue>[1],
  field: Field | undefined,
  pointer: string,
): readonly Problem[] {
  if (value === null || value === '') return [{ pointer, detail: 'Give the value to compare with.' }];
  if (!field || field.type === 'calculated')
    return typeof value === 'number' && Number.isFinite(value) ? [] : [{ pointer, detail: 'This needs a number.' }];
  const problem = checkValue({ ...field, min: undefined, max: undefined } as Field, value, value);
  return problem ? [{ pointer, detail: describeValueProblem(problem) }] : [];
}

function checkLists(condition: Condition, field: Field | undefined, pointer: string): readonly Problem[] {
  if ('text' in condition)
    return condition.text.trim() === '' ? [{ pointer: `${pointer}/text`, detail: 'Give the text to look for.' }] : [];
  if (!('values' in condition)) return [];
  if (condition.values.length === 0) return [{ pointer: `${pointer}/values`, detail: 'Choose at least one value.' }];
  const strange = field?.choices && condition.values.find((id) => !field.choices?.some((choice) => choice.id === id));
  return strange ? [{ pointer: `${pointer}/values`, detail: `“${strange}” is not one of the choices.` }] : [];
}
