import type { deal as contract, TypeOf } from '@ladder/contract';
import type {
  DealId,
  NameOf,
  ResultAnswer,
  ResultProblem,
  ResultRequest,
  RunProblem,
  Setting,
  TakeResultBackProblem,
} from '@ladder/core';
import { canTakeResultBack, passStep, putOff, takeResult, takeResultBack } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import type { Context } from '../context.ts';
import type { Reply } from '../http/reply.ts';
import { invalid, Problem } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import { editProblem } from './editProblem.ts';
import { holderOf } from './holder.ts';
import { moveProblem, takeBackProblem } from './moves.ts';
import { nameLookup } from './names.ts';
import { presentVerdict } from './present.ts';
import { rankOf } from './rank.ts';
import { runCommand } from './runCommand.ts';
import { holdWritten } from './writtenValues.ts';

type Body<K extends keyof typeof contract> = TypeOf<(typeof contract)[K]>;
interface RunParams {
  readonly deal: DealId;
  readonly run: number;
}

/** Ends the step at hand with a result. A move that its gate holds is told with the verdict, and the result stays (S49). */
export async function endStep(
  context: Context,
  tx: EntityManager,
  person: Person,
  { deal: id, run }: RunParams,
  body: Body<'result'>,
): Promise<Reply> {
  const answers: { move: ResultAnswer['move']; setting: Setting }[] = [];
  const withCaptures = await holdWritten(tx, person, { values: body.captures, pointerTo: capturePointer });
  const detail = await runCommand(context, tx, person, id, async (command) => {
    const { deal, setting, moment } = await withCaptures(command);
    if (deal.version !== body.version)
      throw new Problem(409, 'The process was changed since you opened the deal. Look where the results lead now.');
    const answer = takeResult(deal, setting, requestOf(run, body), moment);
    if (!answer.ok) throw resultProblem(answer.error, setting);
    answers.push({ move: answer.value.move, setting });
    return answer.value.change;
  });
  return { body: { deal: detail, move: moveOf(answers, nameLookup(detail.names)) } };
}

const capturePointer = (field: string): string => `/captures/${field}`;

const requestOf = (
  run: number,
  { result, captures, text, reason, followUp, tasks, final }: Body<'result'>,
): ResultRequest => ({
  run,
  result,
  captures,
  text: text ?? null,
  reason: reason ?? null,
  followUp: followUp ?? null,
  tasks,
  final,
});

function moveOf(
  [answer]: readonly { move: ResultAnswer['move']; setting: Setting }[],
  nameOf: NameOf,
): Body<'resultTaken'>['move'] {
  if (!answer?.move) return null;
  const { result, target, route, verdict } = answer.move;
  return { result, verdict: presentVerdict(target, route, verdict, answer.setting, nameOf) };
}

const MEANWHILE = 'This step is not at hand any more: someone ended it meanwhile, or the deal has moved on.';
const CLOSED = 'This deal is closed; its steps are over.';

function resultProblem(problem: ResultProblem, { catalogue }: Setting): Problem {
  switch (problem.code) {
    case 'closed':
      return new Problem(409, CLOSED);
    case 'not_at_hand':
      return new Problem(409, MEANWHILE);
    case 'no_such_result':
      return invalid([{ pointer: '/result', detail: 'The step has no such result.' }]);
    case 'captures_missing':
      return invalid(
        problem.fields.map((field) => ({
          pointer: capturePointer(field),
          detail: `${catalogue.get(field)?.name ?? field} is needed for this result.`,
        })),
      );
    case 'captures':
      return editProblem(problem.problems, capturePointer);
    case 'action':
      return new Problem(
        409,
        `What this result does about ${problem.name} cannot be done any more, so nothing was. Choose another result, or tell an administrator.`,
      );
    case 'move':
      return moveProblem(problem.problem);
  }
}

/** Takes a result back, with the move that it made. */
export async function takeStepBack(
  context: Context,
  tx: EntityManager,
  person: Person,
  { deal: id, run }: RunParams,
  body: Body<'resultTakenBack'>,
): Promise<Reply> {
  const detail = await runCommand(context, tx, person, id, ({ deal, setting, moment }) => {
    const by = { id: moment.by, rank: rankOf(person) };
    const taken = canTakeResultBack(deal, setting, run, by, moment.happenedAt);
    if (!taken.ok) throw takeResultBackProblem(taken.error);
    return takeResultBack(deal, setting, taken.value, moment, body.text ?? null);
  });
  return { body: detail };
}

function takeResultBackProblem(problem: TakeResultBackProblem): Problem {
  switch (problem.code) {
    case 'no_result':
      return new Problem(409, 'This step has no result to take back.');
    case 'closed':
      return new Problem(409, CLOSED);
    case 'not_yours':
      return new Problem(409, 'Only who ended the step, or a manager, can take its result back.');
    case 'too_late':
      return new Problem(409, 'A result can be taken back by its maker within 10 minutes; a manager can do it later.');
    case 'gone_on':
      return new Problem(
        409,
        'What the result led to is done already, or the deal has moved since. Take that back first.',
      );
    case 'step_gone':
      return new Problem(409, 'The deal’s version of the process no longer has this step.');
    case 'move':
      return takeBackProblem(problem.problem);
  }
}

/** Sets another due day for the step at hand. */
export async function putStepOff(
  context: Context,
  tx: EntityManager,
  person: Person,
  { deal: id, run }: RunParams,
  body: Body<'puttingOff'>,
): Promise<Reply> {
  const detail = await runCommand(context, tx, person, id, ({ deal, setting, moment }) => {
    const changed = putOff(deal, setting, run, body, moment);
    if (!changed.ok) throw runProblem(changed.error);
    return changed.value;
  });
  return { body: detail };
}

/** Passes the step at hand to someone who may change the deal. */
export async function passStepOn(
  context: Context,
  tx: EntityManager,
  person: Person,
  { deal: id, run }: RunParams,
  body: Body<'passing'>,
): Promise<Reply> {
  const mayHold = await holderOf(tx, body.person, '/person');
  const detail = await runCommand(context, tx, person, id, ({ deal, setting, moment }) => {
    mayHold(deal);
    const changed = passStep(deal, setting, run, body.person, moment);
    if (!changed.ok) throw runProblem(changed.error);
    return changed.value;
  });
  return { body: detail };
}

export function runProblem({ code }: RunProblem): Problem {
  switch (code) {
    case 'closed':
      return new Problem(409, CLOSED);
    case 'not_at_hand':
      return new Problem(409, MEANWHILE);
    case 'in_the_past':
      return invalid([{ pointer: '/day', detail: 'Choose today or a day to come.' }]);
    case 'text_needed':
      return invalid([{ pointer: '/text', detail: 'Say why.' }]);
  }
}
