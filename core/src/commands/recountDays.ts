import type { Deal } from '../deals/deal.ts';
import type { Change } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import { type Calendar, recountedDay } from '../time/calendar.ts';
import { type Day, localDay } from '../time/day.ts';
import { changeSurely, journal } from './change.ts';

/** What of a deal was counted by the calendar as it was, by number: what was begun since is counted by the new one already. */
export interface CountedBefore {
  readonly visits: readonly number[];
  readonly runs: readonly number[];
  readonly tasks: readonly number[];
}

export interface Recount {
  /** Name of the calendar. */
  readonly name: string;
  readonly before: Calendar;
  readonly after: Calendar;
}

/**
 * The deal with its days ahead that are counted in working days counted by another calendar: the present stay's, and those of
 * steps and tasks that are still to be done. Days set by hand stay, and so does what is due today or was before. The very same
 * deal where all of them do.
 */
export function recountDays(
  deal: Deal,
  setting: Setting,
  counted: CountedBefore,
  { name: calendar, before, after }: Recount,
  asked: Moment,
): Change {
  if (deal.status.state !== 'open') return { deal, records: [] };
  const today = localDay(asked.recordedAt, setting.zone);
  const recount = (day: Day) => ({ before: day, after: recountedDay(day, today, before, after) });
  const isOther = (days: { readonly before: Day; readonly after: Day }): boolean => days.before !== days.after;

  const stays = deal.visits.flatMap(({ seq, moveOnDay, left, takenBack, inWorkingDays }) => {
    const isAhead = left === null && takenBack === 'no' && inWorkingDays === 'yes' && counted.visits.includes(seq);
    return isAhead && moveOnDay !== null ? [{ seq, ...recount(moveOnDay) }] : [];
  });
  const runs = deal.runs.flatMap(({ seq, name, dueDay, end, takenBack, inWorkingDays }) => {
    const isAhead = end === null && takenBack === 'no' && inWorkingDays === 'yes' && counted.runs.includes(seq);
    return isAhead && dueDay !== null ? [{ run: seq, name, ...recount(dueDay) }] : [];
  });
  const tasks = deal.tasks.flatMap(({ seq, dueDay, end, inWorkingDays }) =>
    end === null && inWorkingDays === 'yes' && counted.tasks.includes(seq) ? [{ task: seq, ...recount(dueDay) }] : [],
  );

  const [moved, due, set] = [stays.filter(isOther), runs.filter(isOther), tasks.filter(isOther)];
  if (moved.length + due.length + set.length === 0) return { deal, records: [] };
  const [stay] = moved;
  return changeSurely(deal, setting, asked, (_deal, moment) => {
    const recounted: Deal = {
      ...deal,
      visits: deal.visits.map((visit) => (visit.seq === stay?.seq ? { ...visit, moveOnDay: stay.after } : visit)),
      runs: deal.runs.map((run) => {
        const day = due.find((one) => one.run === run.seq)?.after;
        return day === undefined ? run : { ...run, dueDay: day };
      }),
      tasks: deal.tasks.map((task) => {
        const day = set.find((one) => one.task === task.seq)?.after;
        return day === undefined ? task : { ...task, dueDay: day };
      }),
    };
    const moveOn = stay && { before: stay.before, after: stay.after };
    const body = { kind: 'days_recounted', calendar, ...(moveOn ? { moveOn } : {}), steps: due, tasks: set } as const;
    return { deal: recounted, records: [journal(recounted, moment, body)] };
  });
}
