import type { deal as dealContract, TypeOf, waivers as waiverContract } from '@ladder/contract';
import {
  type AskWaiverProblem,
  askWaiver,
  type Change,
  type DealId,
  type DecideWaiverProblem,
  decideWaiver,
  type EndWaiverProblem,
  type Result,
  revokeWaiver,
  type Setting,
  withdrawWaiver,
} from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { type Context, inTransaction } from '../context.ts';
import type { Reply } from '../http/reply.ts';
import { invalid, notFound, Problem } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import { moveProblem } from './moves.ts';
import { nameLookup } from './names.ts';
import { mayDecide, presentKeptVerdict, presentWaivers } from './presentWaivers.ts';
import { loadNames } from './repository/names.ts';
import { countWaived } from './repository/waivers.ts';
import { openWholeDeal, runCommand } from './runCommand.ts';

type Body<K extends keyof typeof waiverContract> = TypeOf<(typeof waiverContract)[K]>;
interface RequestParams {
  readonly deal: DealId;
  readonly request: number;
}

/** Asks that requirements which hold a move may be passed. */
export async function askForWaiver(
  context: Context,
  tx: EntityManager,
  person: Person,
  id: DealId,
  body: TypeOf<typeof dealContract.askWaiver>,
): Promise<Reply> {
  const detail = await runCommand(context, tx, person, id, ({ deal, setting, moment }) =>
    done(askWaiver(deal, setting, body, moment), askProblem),
  );
  return { body: detail };
}

/** Grants or refuses a request, as someone whose role may. */
export async function decideOnWaiver(
  context: Context,
  tx: EntityManager,
  person: Person,
  { deal: id, request }: RequestParams,
  body: Body<'decision'>,
): Promise<Reply> {
  const answer = body.how === 'granted' ? { ...body, word: body.word ?? null } : body;
  const detail = await runCommand(context, tx, person, id, ({ deal, setting, moment }) => {
    if (!mayDecide(person, setting)) throw new Problem(403, whoDecides(setting));
    return done(decideWaiver(deal, setting, request, answer, moment), decideProblem);
  });
  return { body: detail };
}

function whoDecides({ waiverRights: { roles } }: Setting): string {
  return roles.length === 0
    ? 'This process grants no waivers.'
    : `Waivers of this process are decided by: ${roles.join(', ')}.`;
}

export async function withdrawOwnWaiver(
  context: Context,
  tx: EntityManager,
  person: Person,
  { deal: id, request }: RequestParams,
): Promise<Reply> {
  const detail = await runCommand(context, tx, person, id, ({ deal, setting, moment }) =>
    done(withdrawWaiver(deal, setting, request, moment), endProblem),
  );
  return { body: detail };
}

export async function revokeOwnWaiver(
  context: Context,
  tx: EntityManager,
  person: Person,
  { deal: id, request }: RequestParams,
  { word }: Body<'revoking'>,
): Promise<Reply> {
  const detail = await runCommand(context, tx, person, id, ({ deal, setting, moment }) =>
    done(revokeWaiver(deal, setting, request, word, moment), endProblem),
  );
  return { body: detail };
}

const A_YEAR_MS = 365 * 86_400_000;

/** What someone needs to know who decides: the gate as it was, what was asked before, and how often such things are waived. */
export const getWaiverToDecide = (
  context: Context,
  person: Person,
  { deal: id, request }: RequestParams,
): Promise<Body<'deciding'>> =>
  inTransaction(context, async (tx) => {
    const { deal, setting } = await openWholeDeal(tx, person, id);
    const now = Math.max(context.clock.now(), deal.settledAt);
    const nameOf = nameLookup((await loadNames(tx, [setting.document], deal)).names);
    const all = presentWaivers(deal, setting, person, now, nameOf);
    const waiver = all.find((one) => one.request === request);
    const kept = deal.waivers.find((one) => one.request === request);
    if (!waiver || !kept) throw notFound('waiver');
    const ids = waiver.items.map((item) => item.id);
    return {
      waiver,
      verdict: presentKeptVerdict(kept.verdict, setting, nameOf),
      before: all.filter((one) => one.request < request && one.items.some((item) => ids.includes(item.id))),
      often: await countWaived(tx, deal.process, ids, now - A_YEAR_MS),
    };
  });

function done<P>(result: Result<Change, P>, toProblem: (problem: P) => Problem): Change {
  if (!result.ok) throw toProblem(result.error);
  return result.value;
}

function askProblem(problem: AskWaiverProblem): Problem {
  const at = (pointer: string, detail: string): Problem => invalid([{ pointer, detail }]);
  switch (problem.code) {
    case 'text_needed':
      return at('/why', 'Say why.');
    case 'nothing_asked':
      return at('/items', 'Choose what is to be waived.');
    case 'in_the_past':
      return at('/until', 'Choose today or a day to come.');
    case 'too_long':
      return at('/until', `A waiver of this process lasts at most ${problem.mostDays} days.`);
    case 'not_holding':
      return new Problem(409, 'What you ask to be waived does not hold this move any more. Look at the gate again.', {
        errors: [{ pointer: '/items', detail: 'This does not hold the move.' }],
      });
    case 'move':
      return moveProblem(problem.problem);
  }
}

const OVERTAKEN = {
  move: 'The deal has moved since this was asked, so there is nothing to decide any more.',
  closing: 'The deal has closed since this was asked, so there is nothing to decide any more.',
  publish: 'What this asks to be waived was changed by a publish since, so it has to be asked anew.',
} as const;

function decideProblem(problem: DecideWaiverProblem): Problem {
  switch (problem.code) {
    case 'no_such_request':
      return notFound('waiver');
    case 'own':
      return new Problem(409, 'Nobody grants what they asked for themselves. Someone else has to decide.');
    case 'decided':
      return new Problem(409, `This was ${problem.waiver.decision?.how ?? 'decided'} meanwhile.`);
    case 'overtaken':
      return new Problem(409, OVERTAKEN[problem.by]);
    case 'text_needed':
      return invalid([{ pointer: '/word', detail: 'Say why not.' }]);
    case 'in_the_past':
      return invalid([{ pointer: '/until', detail: 'Choose today or a day to come.' }]);
    case 'wider':
      return invalid([{ pointer: '/until', detail: 'It may be shortened, not be longer than it was asked for.' }]);
  }
}

function endProblem({ code }: EndWaiverProblem): Problem {
  switch (code) {
    case 'no_such_request':
      return notFound('waiver');
    case 'not_yours':
      return new Problem(409, 'Only who asked can take it back, and only who granted can revoke it.');
    case 'decided':
      return new Problem(409, 'This was decided meanwhile.');
    case 'not_in_force':
      return new Problem(409, 'This waiver covers nothing any more.');
    case 'text_needed':
      return invalid([{ pointer: '/word', detail: 'Say why.' }]);
  }
}
