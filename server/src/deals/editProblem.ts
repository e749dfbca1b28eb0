import type { InputProblem } from '@ladder/contract';
import type { EditDealProblem } from '@ladder/core';
import { invalid, Problem } from '../problems/problem.ts';

export const closed = (): Problem => new Problem(409, 'This deal is closed; its facts are read-only.');

/** Where a field's value stands among the changes of a request. */
export const changePointer =
  (changes: readonly { readonly field: string }[]) =>
  (field: string): string =>
    `/changes/${changes.findIndex((change) => change.field === field)}/value`;

/** What is wrong with an edit of fields; `pointerTo` says where the value of a field stands in the request. */
export function editProblem(problems: readonly EditDealProblem[], pointerTo: (field: string) => string): Problem {
  if (problems.some(({ code }) => code === 'closed')) return closed();
  const errors = problems.flatMap((problem) => oneEditProblem(problem, pointerTo) ?? []);
  const meanwhile = problems.flatMap((problem) =>
    problem.code === 'changed_meanwhile' ? [[problem.field, problem.value] as const] : [],
  );
  if (meanwhile.length === 0) return invalid(errors);
  return new Problem(409, 'Someone else changed the same field meanwhile. Nothing was written.', {
    errors,
    current: Object.fromEntries(meanwhile),
  });
}

function oneEditProblem(problem: EditDealProblem, pointerTo: (field: string) => string): InputProblem | null {
  switch (problem.code) {
    case 'closed':
      return null;
    case 'no_such_field':
      return {
        pointer: pointerTo(problem.field).replace(/value$/, 'field'),
        detail: 'There is no such field on deals.',
      };
    case 'bad_value':
      return { pointer: pointerTo(problem.field), detail: problem.detail };
    case 'changed_meanwhile':
      return {
        pointer: pointerTo(problem.field),
        detail: 'Someone else changed this meanwhile. Look at it and try again.',
      };
  }
}
