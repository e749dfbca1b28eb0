import type { Deal } from '../deals/deal.ts';
import { runsThatCount, type StepRun } from '../deals/parts/runs.ts';
import type { Change } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import type { JournalBody } from '../events/kinds.ts';
import { failed, ok, type Result } from '../result.ts';
import { type Day, localDay } from '../time/day.ts';
import { changeBy, journal, type Step } from './change.ts';
import { withRun } from './thread.ts';

export type RunProblem = { readonly code: 'closed' | 'not_at_hand' | 'in_the_past' | 'text_needed' };

/** A step at hand is due on another day; why is asked (S51). Errors: not at hand, a day that is past, no reason. */
export const putOff = (
  deal: Deal,
  setting: Setting,
  seq: number,
  { day, text }: { readonly day: Day; readonly text: string },
  asked: Moment,
): Result<Change, RunProblem> =>
  changeBy(deal, setting, asked, (before, moment) => {
    if (text.trim() === '') return failed({ code: 'text_needed' });
    if (day < localDay(moment.recordedAt, setting.zone)) return failed({ code: 'in_the_past' });
    return changed(seq, (run) => {
      if (run.dueDay === day) return null;
      const body = { kind: 'step_put_off', ...ofRun(run), before: run.dueDay, after: day } as const;
      return { run: { ...run, dueDay: day, inWorkingDays: 'no' }, body, text };
    })(before, moment);
  });

/** A step at hand falls to this person from now on, who may take it themselves. Errors: not at hand. */
export const passStep = (
  deal: Deal,
  setting: Setting,
  seq: number,
  person: string,
  asked: Moment,
): Result<Change, RunProblem> => changeBy(deal, setting, asked, passStepOn(seq, person));

/** The same as a step of a command. */
export const passStepOn = (seq: number, person: string): Step<RunProblem> =>
  changed(seq, (run) => {
    if (run.assignee === person) return null;
    const body = { kind: 'step_passed', ...ofRun(run), to: person } as const;
    return { run: { ...run, assignee: person }, body, text: null };
  });

interface RunChange {
  readonly run: StepRun;
  readonly body: JournalBody;
  readonly text: string | null;
}

/** The step of a change of the run at hand; null changes nothing. A gate reads none of it, so the revision stays (S34). */
const changed =
  (seq: number, change: (run: StepRun) => RunChange | null): Step<RunProblem> =>
  (deal, moment) => {
    if (deal.status.state !== 'open') return failed({ code: 'closed' });
    const run = runsThatCount(deal).find((one) => one.seq === seq && one.end === null);
    if (!run) return failed({ code: 'not_at_hand' });
    const made = change(run);
    if (!made) return ok({ deal, records: [] });
    const after = withRun(deal, made.run);
    return ok({ deal: after, records: [journal(after, moment, made.body, made.text)] });
  };

const ofRun = ({ seq, step, name }: StepRun) => ({ run: seq, step, name });
