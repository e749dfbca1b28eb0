import { type Actor, personActor } from '../deals/actor.ts';
import type { Deal } from '../deals/deal.ts';
import { runsThatCount, type StepRun } from '../deals/parts/runs.ts';
import { openTasks } from '../deals/parts/tasks.ts';
import { textValue } from '../deals/parts/values.ts';
import { openWaivers } from '../deals/parts/waivers.ts';
import type { Change } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import { stepPerson } from '../deals/stepPerson.ts';
import { stageOf } from '../processes/document.ts';
import { failed, ok, type Result } from '../result.ts';
import { changeBy, journal, revised, type Step, type Stepped } from './change.ts';

/** What open work does as a deal changes its owner: go to the new owner, or stay with the one before. */
export type Along = 'go' | 'stay';

export interface Reassigning {
  readonly owner: string;
  /** Its team from now on; null where it has none. */
  readonly team: string | null;
  readonly tasks: Along;
  readonly steps: Along;
  /** Requests for waivers that the owner before asked for: those that do not go along are withdrawn. */
  readonly waivers: Along;
}

export interface ReassignProblem {
  readonly code: 'voided';
}

/**
 * The deal falls to another owner, with the open work of the one before or without it. A closed deal changes who looks after
 * it; what it was won or lost by stays with its moves. Errors: it is void.
 */
export const reassignDeal = (
  deal: Deal,
  setting: Setting,
  to: Reassigning,
  asked: Moment,
): Result<Change, ReassignProblem> => changeBy(deal, setting, asked, reassignStep(setting, to));

/** The same as a step. */
export const reassignStep =
  (setting: Setting, to: Reassigning): Step<ReassignProblem> =>
  (before, moment) => {
    if (before.status.state === 'voided') return failed({ code: 'voided' });
    const was = { owner: textValue(before, 'owner'), team: textValue(before, 'team') };
    if (was.owner === to.owner && was.team === to.team) return ok({ deal: before, records: [] });
    const owned = { ...before, values: { ...before.values, owner: to.owner, team: to.team } };
    const { deal: worked, ...counts } = passTo(before, owned, was.owner, to, setting);
    const after = before.status.state === 'open' ? revised(worked) : worked;
    const body = {
      kind: 'reassigned',
      owner: { before: was.owner, after: to.owner },
      team: { before: was.team, after: to.team },
      ...counts,
    } as const;
    const told = [journal(after, moment, body)];
    if (to.waivers === 'go' || was.owner === null || was.owner === to.owner) return ok({ deal: after, records: told });
    const without = withdrawRequests(after, personActor(was.owner), moment);
    return ok({ deal: without.deal, records: [...told, ...without.records] });
  };

interface Passed {
  readonly deal: Deal;
  /** How many went along. */
  readonly tasks: number;
  readonly steps: number;
}

/** Steps and tasks of the owner before are the new one's, or stay where they were. */
function passTo(before: Deal, owned: Deal, was: string | null, to: Reassigning, setting: Setting): Passed {
  if (was === null || was === to.owner) return { deal: owned, tasks: 0, steps: 0 };
  const tasks = to.tasks === 'go' ? passTasks(owned, was, to.owner) : { deal: owned, passed: 0 };
  const holder = to.steps === 'go' ? to.owner : was;
  const theirs = runsOf(before, was, setting).map(({ seq }) => seq);
  const runs = tasks.deal.runs.map((run) =>
    theirs.includes(run.seq) && holderOf(owned, run, setting) !== holder ? { ...run, assignee: holder } : run,
  );
  return { deal: { ...tasks.deal, runs }, tasks: tasks.passed, steps: to.steps === 'go' ? theirs.length : 0 };
}

function passTasks(deal: Deal, from: string, to: string): { readonly deal: Deal; readonly passed: number } {
  const theirs = openTasks(deal).filter(({ assignee }) => assignee === from);
  if (theirs.length === 0) return { deal, passed: 0 };
  const tasks = deal.tasks.map((task) => (theirs.includes(task) ? { ...task, assignee: to } : task));
  return { deal: { ...deal, tasks }, passed: theirs.length };
}

const runsOf = (deal: Deal, person: string, setting: Setting): readonly StepRun[] =>
  runsThatCount(deal).filter((run) => run.end === null && holderOf(deal, run, setting) === person);

function holderOf(deal: Deal, run: StepRun, { document }: Setting): string | null {
  const step = stageOf(document, run.stage)?.steps.find(({ id }) => id === run.step);
  return step ? stepPerson(deal, run, step, () => null) : run.assignee;
}

/** Open tasks and steps that fall to a person are another's from now on, on a deal that is neither's. */
export function passOpenWork(
  deal: Deal,
  setting: Setting,
  { from, to }: { readonly from: string; readonly to: string },
  moment: Moment,
): Stepped {
  const tasks = openTasks(deal).filter(({ assignee }) => assignee === from);
  const steps = deal.status.state === 'open' ? runsOf(deal, from, setting) : [];
  if (tasks.length + steps.length === 0) return { deal, records: [] };
  const passed = passTasks(deal, from, to).deal;
  const runs = passed.runs.map((run) => (steps.includes(run) ? { ...run, assignee: to } : run));
  return {
    deal: { ...passed, runs },
    records: [
      ...tasks.map(({ seq, title }) => journal(deal, moment, { kind: 'task_passed', task: seq, to }, title)),
      ...steps.map(({ seq, step, name }) => journal(deal, moment, { kind: 'step_passed', run: seq, step, name, to })),
    ],
  };
}

/** Requests of someone that nobody decided on yet are taken back. */
export function withdrawRequests(deal: Deal, asker: Actor, moment: Moment): Stepped {
  const theirs = openWaivers(deal).filter(({ askedBy }) => askedBy === asker);
  if (theirs.length === 0) return { deal, records: [] };
  const decision = { how: 'withdrawn', at: moment.happenedAt, by: moment.by, word: null, until: null } as const;
  const waivers = deal.waivers.map((one) => (theirs.includes(one) ? { ...one, decision } : one));
  const requests = [...new Set(theirs.map(({ request }) => request))];
  return {
    deal: { ...deal, waivers },
    records: requests.map((request) => journal(deal, moment, { kind: 'waiver_withdrawn', request })),
  };
}
