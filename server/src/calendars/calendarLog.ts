import type { EntityManager } from 'typeorm';
import { logSetting, type Setter } from '../settingsLog/settingsLog.ts';
import type { Written } from './service.ts';

const WEEKDAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];

/** So many holidays of one change are named. */
const NAMED = 40;

/** Keeps how a calendar was before and after; null before where it is new. Of its holidays what was added and taken away. */
export async function logCalendar(
  tx: EntityManager,
  before: Written | null,
  after: Written,
  setter: Setter,
): Promise<void> {
  const told = ({ name, workingWeekdays }: Written) => ({
    name,
    'working days': workingWeekdays.map((day) => WEEKDAYS[day - 1] ?? String(day)),
  });
  const change = {
    what: 'calendar',
    subject: after.name,
    before: before && { ...told(before), holidays: besides(before, after) },
    after: { ...told(after), holidays: besides(after, before) },
  } as const;
  await logSetting(tx, change, setter);
}

/** The holidays that the other has not. */
function besides({ holidays }: Written, other: Written | null): readonly string[] {
  const known = new Set(other?.holidays.map(({ day, name }) => `${day} ${name}`));
  const own = holidays.map(({ day, name }) => `${day} ${name}`).filter((holiday) => !known.has(holiday));
  return own.length > NAMED ? [...own.slice(0, NAMED), `and ${own.length - NAMED} more`] : own;
}
