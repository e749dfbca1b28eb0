import type { deal as contract, TypeOf } from '@ladder/contract';
import type { DealId } from '@ladder/core';
import {
  canTakeBack,
  FACT_PARTS,
  isOpen,
  type MoveAnswer,
  type MoveProblem,
  type MoveTarget,
  moveDeal,
  previewMove,
  type Setting,
  type TakeBackProblem,
  takeBack,
  withdrawAttempt,
} from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { type Context, inTransaction } from '../context.ts';
import type { Reply } from '../http/reply.ts';
import { Problem } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import { changePointer, editProblem } from './editProblem.ts';
import { nameLookup } from './names.ts';
import { presentVerdict, type VerdictView } from './present.ts';
import { rankOf } from './rank.ts';
import { loadNames } from './repository/names.ts';
import { openDeal, requireRevision, runCommand } from './runCommand.ts';
import { holdWritten } from './writtenValues.ts';

type Body<K extends keyof typeof contract> = TypeOf<(typeof contract)[K]>;

/** The gate's answer to a move that is only thought of. */
export async function askGate(context: Context, person: Person, id: DealId, target: MoveTarget): Promise<VerdictView> {
  return inTransaction(context, async (tx) => {
    const { deal, setting } = await openDeal(tx, person, id, FACT_PARTS);
    const preview = previewMove(deal, setting, target, { happenedAt: context.clock.now() });
    if (!preview.ok) throw moveProblem(preview.error);
    const nameOf = nameLookup((await loadNames(tx, [setting.document], deal)).names);
    return presentVerdict(target, preview.value.route, preview.value.verdict, setting, nameOf);
  });
}

/** Makes a move; a held one is refused with the verdict as the problem document, and the refusal is kept. */
export async function makeMove(
  context: Context,
  tx: EntityManager,
  person: Person,
  id: DealId,
  body: Body<'move'>,
): Promise<Reply> {
  if (body.mode === 'force' && person.role !== 'administrator')
    throw new Problem(403, 'Only an administrator may force a move.');
  const request = {
    target: body.target,
    mode: body.mode ?? 'ask',
    text: body.text ?? null,
    reason: body.reason ?? null,
    followUp: body.followUp ?? null,
    tasks: body.tasks,
    final: body.final,
    edits: body.changes,
  };
  const changes = body.changes ?? [];
  const withChanges =
    changes.length > 0 && (await holdWritten(tx, person, { values: changes, pointerTo: changePointer(changes) }));
  const answers: { answer: MoveAnswer; setting: Setting }[] = [];
  const detail = await runCommand(context, tx, person, id, async (command) => {
    const { deal, setting, moment } = withChanges ? await withChanges(command) : command;
    requireRevision(deal, body.revision);
    const answer = moveDeal(deal, setting, request, moment);
    if (!answer.ok) throw moveProblem(answer.error, changePointer(changes));
    answers.push({ answer: answer.value, setting });
    return answer.value.change;
  });
  const [made] = answers;
  if (!made) throw new Error('A command was not decided');
  const { answer, setting } = made;
  const verdict = presentVerdict(body.target, answer.route, answer.verdict, setting, nameLookup(detail.names));
  if (answer.result === 'moved') return { body: { deal: detail, verdict } };
  return { status: 422, body: new Problem(422, heldText(verdict), { verdict }).toDocument() };
}

function heldText(verdict: VerdictView): string {
  const open = verdict.items.filter(({ state, level }) => level === 'hold' && isOpen(state));
  return `${open.length === 1 ? '1 requirement holds' : `${open.length} requirements hold`} this move.`;
}

export function moveProblem(
  problem: MoveProblem,
  pointerTo: (field: string) => string = (field) => `/${field}`,
): Problem {
  const at = (pointer: string, detail: string): Problem => new Problem(422, detail, { errors: [{ pointer, detail }] });
  switch (problem.code) {
    case 'closed':
      return new Problem(409, 'This deal is closed.');
    case 'same_stage':
      return at('/target/stage', 'The deal is in this stage already.');
    case 'no_such_stage':
      return at('/target/stage', 'The deal’s version of the process has no such stage.');
    case 'no_such_outcome':
      return at('/target/outcome', 'The deal’s version of the process has no such outcome.');
    case 'text_needed':
      return at('/text', 'Say why.');
    case 'reason_needed':
      return at('/reason', 'Choose a reason.');
    case 'reason_unknown':
      return at('/reason', 'This reason is not offered.');
    case 'tasks_needed':
      return at('/tasks', 'Say what becomes of the open tasks: they are kept, or cancelled.');
    case 'final_not_asked':
      return at('/final', 'Only a deal that is won has a final value and day.');
    case 'bad_final':
      return at(`/final/${problem.part}`, problem.detail);
    case 'edits':
      return editProblem(problem.problems, pointerTo);
    case 'follow_up_needed':
      return at('/followUp', 'This reason asks for a follow-up date.');
  }
}

export async function takeMoveBack(
  context: Context,
  tx: EntityManager,
  person: Person,
  id: DealId,
  body: Body<'takeBack'>,
): Promise<Reply> {
  const rank = rankOf(person);
  const detail = await runCommand(context, tx, person, id, ({ deal, setting, moment }) => {
    requireRevision(deal, body.revision);
    const step = canTakeBack(deal, setting, { id: moment.by, rank }, moment.happenedAt);
    if (!step.ok) throw takeBackProblem(step.error);
    return takeBack(deal, setting, step.value, moment, body.text ?? null);
  });
  return { body: detail };
}

const TAKE_BACK_WORDS: Readonly<Record<TakeBackProblem['code'], string>> = {
  nothing_to_take_back: 'There is no move to take back.',
  too_late: 'A move can be taken back by its maker within 10 minutes; a manager can do it later.',
  not_yours: 'Only who made the move, or a manager, can take it back.',
  voided: 'This deal is voided.',
  stage_gone:
    'The deal’s version of the process no longer has the stage that this move left, so there is nothing to go back to. Move the deal to another stage instead.',
};

export const takeBackProblem = ({ code }: TakeBackProblem): Problem => new Problem(409, TAKE_BACK_WORDS[code]);

export async function giveUpAttempt(context: Context, tx: EntityManager, person: Person, id: DealId): Promise<Reply> {
  const detail = await runCommand(context, tx, person, id, ({ deal, setting, moment }) =>
    withdrawAttempt(deal, setting, moment),
  );
  return { body: detail };
}
