import type { Catalogue, Field } from '../facts/field.ts';
import { checkValue, describeValueProblem } from '../facts/value.ts';
import { type Condition, type Criterion, isGroup, partsOf, type Term } from './criterion.ts';
import { operandField } from './operands.ts';
import { conditionsFor } from './operators.ts';
import type { NameOf } from './phrase.ts';
import { comparableKind } from './terms.ts';

/** Something wrong in a written document; `pointer` is an RFC 6901 JSON pointer to the place. */
export interface Problem {
  readonly pointer: string;
  readonly detail: string;
}

/** Everything wrong with a criterion over the catalogue; empty where it may be used. */
export function checkCriterion(
  criterion: Criterion,
  catalogue: Catalogue,
  pointer: string,
  nameOf: NameOf,
): readonly Problem[] {
  if (!isGroup(criterion)) return checkLeaf(criterion, catalogue, pointer, nameOf);
  const parts = partsOf(criterion);
  if (parts.length === 0) return [{ pointer, detail: 'A group needs at least one condition.' }];
  return parts.flatMap((part, place) =>
    checkCriterion(part, catalogue, criterion.kind === 'not' ? `${pointer}/of` : `${pointer}/of/${place}`, nameOf),
  );
}

function checkLeaf(condition: Condition, catalogue: Catalogue, pointer: string, nameOf: NameOf): readonly Problem[] {
  const { left } = condition;
  const field = operandField(left, catalogue, nameOf);
  if (!field)
    return [{ pointer: `${pointer}/left`, detail: 'This field is no longer in the catalogue. Choose another.' }];
  if (left.of === 'step' && nameOf(left.step) === undefined)
    return [{ pointer: `${pointer}/left`, detail: 'The step that this reads is gone. Choose another.' }];
  if (left.of === 'documents' && nameOf(left.document) === undefined)
    return [{ pointer: `${pointer}/left`, detail: 'This kind of document is gone. Choose another.' }];
  if (!conditionsFor(left, field.type).includes(condition.kind)) {
    const what = left.of === 'field' ? `a field of type ${field.type}` : field.name.toLowerCase();
    return [{ pointer: `${pointer}/kind`, detail: `“${condition.kind}” does not fit ${what}.` }];
  }
  return [...checkTerms(condition, field, catalogue, pointer), ...checkLists(condition, field, pointer)];
}

function checkTerms(condition: Condition, field: Field, catalogue: Catalogue, pointer: string): readonly Problem[] {
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
  field: Field,
  catalogue: Catalogue,
  pointer: string,
): readonly Problem[] {
  if (term.of === 'today')
    return field.type === 'date' ? [] : [{ pointer, detail: 'Only a date can be compared with today.' }];
  if (term.of === 'value') return checkConstant(term.value, field, pointer);
  const [left, right] = [comparableKind(condition.left, catalogue), comparableKind(term, catalogue)];
  if (right === null) return [{ pointer, detail: 'This field is no longer in the catalogue. Choose another.' }];
  return left === right ? [] : [{ pointer, detail: 'Both sides of a comparison must be of one type.' }];
}

const boundlessFields = new WeakMap<Field, Field>();

/** The field without its bounds: what is compared with may lie beyond what may be filled in. */
function boundless(field: Field): Field {
  if (field.min === undefined && field.max === undefined) return field;
  const made = boundlessFields.get(field) ?? ({ ...field, min: undefined, max: undefined } as Field);
  boundlessFields.set(field, made);
  return made;
}

function checkConstant(value: Parameters<typeof checkValue>[1], field: Field, pointer: string): readonly Problem[] {
  if (value === null || value === '') return [{ pointer, detail: 'Give the value to compare with.' }];
  if (field.type === 'calculated')
    return typeof value === 'number' && Number.isFinite(value) ? [] : [{ pointer, detail: 'This needs a number.' }];
  const problem = checkValue(boundless(field), value, value);
  return problem ? [{ pointer, detail: describeValueProblem(problem) }] : [];
}

function checkLists(condition: Condition, field: Field, pointer: string): readonly Problem[] {
  if ('text' in condition)
    return condition.text.trim() === '' ? [{ pointer: `${pointer}/text`, detail: 'Give the text to look for.' }] : [];
  if (!('values' in condition)) return [];
  if (condition.values.length === 0) return [{ pointer: `${pointer}/values`, detail: 'Choose at least one value.' }];
  const strange = field.choices && condition.values.find((id) => !field.choices?.some((choice) => choice.id === id));
  return strange ? [{ pointer: `${pointer}/values`, detail: `“${strange}” is not one of the choices.` }] : [];
}
