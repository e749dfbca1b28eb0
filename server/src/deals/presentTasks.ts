import type { deal as contract, TypeOf } from '@ladder/contract';
import { type Deal, localDay, type NameOf, openTasks, type Setting, type Task, taskSetOf } from '@ladder/core';
import { daysLate } from './presentSteps.ts';

type View = TypeOf<typeof contract.detail>['tasks'][number];

/** No more are told of those that ended. */
const MOST_ENDED = 20;

/** Open tasks by their due days, then those that ended last. What was taken back never was. */
export function presentTasks(deal: Deal, setting: Setting, now: number, nameOf: NameOf): readonly View[] {
  const today = localDay(now, setting.zone);
  const ended = deal.tasks
    .filter(({ end }) => end !== null && end.how !== 'withdrawn')
    .sort((a, b) => (b.end?.at ?? 0) - (a.end?.at ?? 0) || b.seq - a.seq)
    .slice(0, MOST_ENDED);
  return [...openTasks(deal), ...ended].map((task) => presentTask(task, setting, today, nameOf));
}

function presentTask(task: Task, { document }: Setting, today: string, nameOf: NameOf): View {
  const { seq, title, assignee, dueDay, dueTime, origin, end } = task;
  return {
    seq,
    title,
    person: assignee === null ? null : { id: assignee, name: nameOf(assignee) ?? 'Unknown' },
    dueDay,
    dueTime,
    daysLate: end === null ? daysLate(dueDay, today) : 0,
    set: origin && (taskSetOf(document, origin.set)?.name ?? null),
    end: end && { how: end.how, day: end.day, by: nameOf(end.by) ?? null },
  };
}
