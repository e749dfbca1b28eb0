import { type FieldValues, get, type UseFormReturn } from 'react-hook-form';

/** What is wrong at a box, if anything. */
export function boxProblem<Values extends FieldValues>(form: UseFormReturn<Values>, name: string): string | undefined {
  const error: { readonly message?: string } | undefined = get(form.formState.errors, name);
  return error?.message;
}
