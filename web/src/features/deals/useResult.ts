import type { deal as contract, TypeOf } from '@ladder/contract';
import type { FactValue, GuidedStep, Stage, StepResult, Values } from '@ladder/core';
import { useState } from 'react';
import { problemOf } from '../../client/api.ts';
import { useSession } from '../../client/session.ts';
import { type DealDetail, type StepAtHand, useTakeResultMutation } from './dealsApi.ts';
import { moveAsks } from './moveAsks.ts';

type Body = TypeOf<typeof contract.result>;
/** What the move that a result makes asks for. */
export type MoveWords = Pick<Body, 'text' | 'reason' | 'followUp' | 'tasks' | 'final'> & {
  readonly changes?: Body['captures'];
};

/** A result as it was taken, and the move that it made, if any. */
export interface ResultTaken {
  readonly run: StepAtHand;
  readonly result: StepResult;
  readonly move: TypeOf<typeof contract.resultTaken>['move'];
}

type Sent = { readonly error?: unknown };

interface Filled {
  readonly saw: FactValue;
  readonly value: FactValue;
}

/** Filling in a step and ending it: what was filled goes with the result, and nothing of it before. */
export function useResult(
  deal: DealDetail,
  run: StepAtHand,
  stage: Stage,
  step: GuidedStep,
  onEnded: (taken: ResultTaken) => void | Promise<void>,
) {
  const [filled, setFilled] = useState<Readonly<Record<string, Filled>>>({});
  const [problems, setProblems] = useState<Readonly<Record<string, string>>>({});
  const [asking, setAsking] = useState<StepResult | null>(null);
  const [error, setError] = useState<unknown>();
  const { organisation } = useSession();
  const [takeResult, { isLoading }] = useTakeResultMutation();

  const fill = (field: string, value: FactValue) => {
    const saw = filled[field]?.saw ?? deal.values[field] ?? null;
    setFilled({ ...filled, [field]: { saw, value } });
    setProblems(without(problems, field));
  };
  const send = async (result: StepResult, { changes = [], ...words }: MoveWords): Promise<Sent> => {
    const captures = [...Object.entries(filled).map(([field, values]) => ({ field, ...values })), ...changes];
    const body = { result: result.id, version: deal.version.id, captures, ...words };
    const answer = await takeResult({ deal: deal.id, run: run.seq, body });
    const problem = problemOf(answer.error);
    const placed = captureProblems(problem?.errors ?? []);
    setProblems(placed);
    setError(answer.error && Object.keys(placed).length === 0 ? answer.error : undefined);
    if (answer.data) await onEnded({ run, result, move: answer.data.move });
    return answer;
  };
  const choose = (result: StepResult) => {
    if (moveAsks(deal, run, stage, step, result, organisation.today)) setAsking(result);
    else void send(result, {});
  };
  const values: Values = Object.fromEntries(Object.entries(filled).map(([field, { value }]) => [field, value]));
  return {
    filled: values,
    problems,
    asking,
    error,
    isBusy: isLoading,
    fill,
    send,
    choose,
    giveUp: () => setAsking(null),
  };
}

const without = (problems: Readonly<Record<string, string>>, field: string): Readonly<Record<string, string>> =>
  Object.fromEntries(Object.entries(problems).filter(([name]) => name !== field));

const CAPTURE = /^\/captures\/(?<field>[^/]+)$/;

/** What the server found wrong with what was filled, by field. */
const captureProblems = (
  errors: readonly { readonly pointer: string; readonly detail: string }[],
): Readonly<Record<string, string>> =>
  Object.fromEntries(
    errors.flatMap(({ pointer, detail }) => {
      const field = CAPTURE.exec(pointer)?.groups?.field;
      return field ? [[field, detail] as const] : [];
    }),
  );
