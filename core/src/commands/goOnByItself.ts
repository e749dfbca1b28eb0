import type { Deal } from '../deals/deal.ts';
import { runsThatCount, type StepRun } from '../deals/parts/runs.ts';
import type { Change } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import { changeSurely, journal } from './change.ts';
import { type ResultProblem, takeResult } from './takeResult.ts';
import { withRun } from './thread.ts';

/**
 * The deal with each step ended whose wait is over, by the process (S53). What a result then begins waits for a day at least,
 * so that nothing goes round. A step that cannot go on is told in the journal, and waits for a person. The very same deal
 * where nothing is due.
 */
export function goOnByItself(deal: Deal, setting: Setting, asked: Moment): Change {
  const due = runsThatCount(deal).find((run) => isDue(run, asked.recordedAt));
  if (!due || deal.status.state !== 'open') return { deal, records: [] };
  const first = endByItself(deal, setting, due, asked);
  const others = goOnByItself(first.deal, setting, asked);
  return { deal: others.deal, records: [...first.records, ...others.records] };
}

const isDue = ({ end, goesOn }: StepRun, now: number): boolean =>
  end === null && goesOn !== null && goesOn.at !== null && goesOn.at <= now;

function endByItself(deal: Deal, setting: Setting, run: StepRun, asked: Moment): Change {
  const { days = 0, result = '' } = run.goesOn ?? {};
  const text = `Nobody ended “${run.name}” within ${days === 1 ? 'a day' : `${days} days`}.`;
  const taken = takeResult(
    deal,
    setting,
    { run: run.seq, result, captures: [], text, reason: null, followUp: null, tasks: 'keep' },
    asked,
  );
  return taken.ok ? taken.value.change : stuck(deal, setting, run, taken.error, asked);
}

function stuck(deal: Deal, setting: Setting, run: StepRun, problem: ResultProblem, asked: Moment): Change {
  return changeSurely(deal, setting, asked, (before, moment) => {
    const after = withRun(before, { ...run, goesOn: run.goesOn && { ...run.goesOn, at: null } });
    const body = {
      kind: 'step_stuck',
      run: run.seq,
      step: run.step,
      name: run.name,
      why: whyStuck(problem, setting),
    } as const;
    return { deal: after, records: [journal(after, moment, body)] };
  });
}

function whyStuck(problem: ResultProblem, { catalogue }: Setting): string {
  switch (problem.code) {
    case 'captures_missing':
      return `${problem.fields.map((field) => catalogue.get(field)?.name ?? field).join(', ')} would have to be filled.`;
    case 'action':
      return `its action about ${problem.name} cannot be carried out any more.`;
    case 'move':
      return problem.problem.code === 'reason_needed' || problem.problem.code === 'follow_up_needed'
        ? 'closing the deal asks for a reason.'
        : 'the move that it makes is not possible.';
    case 'closed':
    case 'not_at_hand':
    case 'no_such_result':
    case 'captures':
      return 'the result is not there any more.';
  }
}
