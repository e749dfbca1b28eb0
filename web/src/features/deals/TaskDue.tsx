import { useSession } from '../../client/session.ts';
import { countOf, shortDay } from '../../parts/format.ts';
import type { Task } from './tasksApi.ts';

/** When a task is due, and how late it is. */
export function TaskDue({ task }: { task: Pick<Task, 'dueDay' | 'dueTime' | 'daysLate'> }) {
  const { organisation } = useSession();
  const { dueDay, dueTime, daysLate } = task;
  const time = dueTime ? ` at ${dueTime}` : '';
  if (dueDay === organisation.today) return <>due today{time}</>;
  const day = `due ${shortDay(dueDay, organisation.today)}${time}`;
  return daysLate > 0 ? (
    <b className="text-held">
      {day}, {countOf(daysLate, 'day')} late
    </b>
  ) : (
    day
  );
}
