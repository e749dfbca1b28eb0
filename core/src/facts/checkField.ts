import { FIRST_DAY, LAST_DAY } from '../time/day.ts';
import { formulaFields, formulaParts, readsThrough } from './calculate.ts';
import type { Catalogue, Field, FieldHolder } from './field.ts';
import { describeFormulaProblem, MOST_FORMULA_PARTS } from './formulaText.ts';
import { foldText } from './value.ts';

/** What is wrong with a part of a field's definition. */
export interface FieldProblem {
  /** A JSON pointer into the field. */
  readonly pointer: string;
  readonly detail: string;
}

/** Everything that keeps a field from being what it says, or from ever being filled, beside the other fields of the catalogue. */
export const fieldProblems = (field: Field, catalogue: Catalogue): readonly FieldProblem[] => [
  ...nameProblems(field, catalogue),
  ...choiceProblems(field),
  ...boundProblems(field),
  ...formulaProblems(field, catalogue),
];

function nameProblems({ id, holder, name }: Field, catalogue: Catalogue): readonly FieldProblem[] {
  const isTaken = [...catalogue.values()].some(
    (other) => other.id !== id && other.holder === holder && foldText(other.name) === foldText(name),
  );
  return isTaken ? [{ pointer: '/name', detail: `There is already a field called “${name}”.` }] : [];
}

function choiceProblems({ type, choices }: Field): readonly FieldProblem[] {
  const problem = (detail: string) => [{ pointer: '/choices', detail }];
  if (type !== 'choice' && type !== 'choices') return choices ? problem('Only a choice field has choices.') : [];
  const offered = choices?.filter(({ withdrawn }) => !withdrawn) ?? [];
  if (offered.length === 0) return problem('Give at least one choice.');
  if (hasTwice(choices?.map(({ id }) => id) ?? [])) return problem('Two choices have the same id.');
  return hasTwice(offered.map(({ name }) => foldText(name.trim()))) ? problem('Two choices have the same name.') : [];
}

const hasTwice = (texts: readonly string[]): boolean => new Set(texts).size < texts.length;

function boundProblems(field: Field): readonly FieldProblem[] {
  const { type, min, max, firstDay, lastDay } = field;
  const problems: FieldProblem[] = [];
  if (min !== undefined && max !== undefined && min > max)
    problems.push({ pointer: '/max', detail: 'The upper bound is below the lower one.' });
  const [first, last] = [firstDay ?? FIRST_DAY, lastDay ?? LAST_DAY];
  if (type !== 'date' && (firstDay !== undefined || lastDay !== undefined))
    problems.push({
      pointer: firstDay === undefined ? '/lastDay' : '/firstDay',
      detail: 'Only a date has days as bounds.',
    });
  else if (first > last)
    problems.push({
      pointer: lastDay === undefined ? '/firstDay' : '/lastDay',
      detail: `Nothing lies between ${first} and ${last}.`,
    });
  return problems;
}

function formulaProblems({ id, type, holder, formula }: Field, catalogue: Catalogue): readonly FieldProblem[] {
  const problem = (detail: string) => [{ pointer: '/formula', detail }];
  if ((type === 'calculated') !== (formula !== undefined))
    return problem('A calculated number, and nothing else, has a formula.');
  if (!formula) return [];
  if (formulaParts(formula) > MOST_FORMULA_PARTS)
    return problem(describeFormulaProblem({ code: 'too_many_parts', most: MOST_FORMULA_PARTS, at: 0, length: 0 }));
  const read = formulaFields(formula);
  const strange = read.find((part) => !isReckonable(catalogue.get(part), holder));
  if (strange !== undefined)
    return problem(`“${catalogue.get(strange)?.name ?? strange}” is not a number or money field of a ${holder}.`);
  const circular = read.find((part) => readsThrough(part, id, catalogue));
  if (circular === undefined) return [];
  const name = catalogue.get(circular)?.name ?? circular;
  return problem(describeFormulaProblem({ code: 'reads_itself', name, at: 0, length: 0 }));
}

/** A formula is worked out over the values of one record, so it reads numbers and amounts of that record alone. */
const isReckonable = (field: Field | undefined, holder: FieldHolder): boolean =>
  field?.holder === holder && ['number', 'money', 'calculated'].includes(field.type);
