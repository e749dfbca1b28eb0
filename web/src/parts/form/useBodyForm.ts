import type { InputProblem, Schema } from '@ladder/contract';
import { useState } from 'react';
import type { FieldErrors, FieldValues, Path, Resolver, UseFormReturn } from 'react-hook-form';
import { type DefaultValues, set, useForm } from 'react-hook-form';
import { problemOf } from '../../client/api.ts';

export type Contract = typeof import('@ladder/contract');

interface Given<Values, Body, Answer> {
  /** What stands in the boxes at first; a name for each box. */
  readonly begin: Values;
  /** The contract's schema of the body. */
  readonly schema: (contract: Contract) => Schema<Body>;
  /** The body that is sent for what was written. */
  readonly toBody: (values: Values) => Body;
  readonly send: (body: Body) => Promise<{ readonly data?: Answer; readonly error?: unknown }>;
  readonly onDone?: (answer: Answer) => void | Promise<void>;
  /** What is said at a box instead of the contract's own words. */
  readonly words?: Readonly<Partial<Record<keyof Values, string>>>;
}

export interface BodyForm<Values extends FieldValues> {
  readonly form: UseFormReturn<Values>;
  readonly submit: () => void;
  /** A failure that belongs to no box. */
  readonly error: unknown;
}

/**
 * A form that sends one body: checked by the contract's own schema before it is sent, so that what is wrong is told at its
 * box in the words that the server would use; what the server finds wrong is told there too.
 */
export function useBodyForm<Values extends FieldValues, Body, Answer>(
  given: Given<Values, Body, Answer>,
): BodyForm<Values> {
  const [failure, setFailure] = useState<unknown>();
  const resolver: Resolver<Values> = async (values) => {
    const errors = toErrors(given, await problemsOf(given, values));
    return Object.keys(errors).length > 0 ? { values: {}, errors } : { values, errors: {} };
  };
  const form = useForm<Values>({ defaultValues: given.begin as DefaultValues<Values>, resolver });
  const submit = form.handleSubmit(async (values) => {
    const { data, error } = await given.send(given.toBody(values));
    const problems = problemOf(error)?.errors ?? [];
    const placed = problems.filter(({ pointer }) => isBox(given.begin, pointer));
    for (const { pointer, detail } of placed) form.setError(nameOf<Values>(pointer), { message: detail });
    setFailure(error && (problems.length === 0 || placed.length < problems.length) ? error : undefined);
    if (!error) await given.onDone?.(data as Answer);
  });
  const root = form.formState.errors.root?.message;
  return { form, submit: () => void submit(), error: failure ?? (root ? plainFailure(root) : undefined) };
}

const nameOf = <Values>(pointer: string): Path<Values> => pointer.slice(1).replaceAll('/', '.') as Path<Values>;

const isBox = (begin: object, pointer: string): boolean => (pointer.split('/')[1] ?? '') in begin;

/** What the contract says of the body. It is loaded with the first press; where that fails the server says it. */
async function problemsOf<Values, Body, Answer>(
  { schema, toBody }: Given<Values, Body, Answer>,
  values: Values,
): Promise<readonly InputProblem[]> {
  const contract = await import('@ladder/contract').catch(() => null);
  if (!contract) return [];
  const parsed = contract.parse(schema(contract), toBody(values), 'body');
  return parsed.ok ? [] : parsed.problems;
}

function toErrors<Values extends FieldValues, Body, Answer>(
  { begin, words }: Given<Values, Body, Answer>,
  problems: readonly InputProblem[],
): FieldErrors<Values> {
  const errors: FieldErrors<Values> = {};
  for (const { pointer, detail } of problems) {
    const own: string | undefined = words?.[pointer.slice(1)];
    const name = isBox(begin, pointer) ? nameOf<Values>(pointer) : 'root';
    set(errors, name, { type: 'contract', message: own ?? detail });
  }
  return errors;
}

/** A fault of the whole form, in the shape of a refused request. */
const plainFailure = (detail: string): unknown => ({ data: { status: 400, title: 'This cannot be sent', detail } });
