import { describe, expect, it } from 'vitest';
import type { StageId } from '../ids.ts';
import { NO_HOUSE_RULES } from '../processes/houseRules.ts';
import { at, DAY, dealIn, documentOf, must, NOW, settingOf, stage } from '../testing/builders.ts';
import { guided, result } from '../testing/steps.ts';
import { MONDAY_TO_FRIDAY } from '../time/calendar.ts';
import { addDays, type Day, localDay } from '../time/day.ts';
import { putOff } from './changeRun.ts';
import { moveDeal } from './move.ts';
import { recountDays } from './recountDays.ts';
import { addTaskSet } from './taskSets.ts';
import { addTask } from './tasks.ts';

const working = (days: number) => ({ days, counting: 'working' }) as const;
const call = guided('call', { due: { ...working(3), after: 'arrival' }, results: [result('done')] });
const SET = {
  id: 'set',
  name: 'Papers',
  tasks: [{ id: 't', title: 'Send', who: { by: 'owner' }, due: working(2) }],
  afterReturn: 'keep',
} as const;
const setting = settingOf(
  documentOf(
    [stage('a', { target: working(5), steps: [call] }), stage('b', { target: { days: 5, counting: 'calendar' } })],
    {
      taskSets: [SET],
    },
  ),
  { houseRules: { ...NO_HOUSE_RULES, past_target: { level: 'flag', since: 0 } } },
);
const today = localDay(NOW, setting.zone);
/** The next working day is none. */
const off = (day: Day) => ({ ...MONDAY_TO_FRIDAY, holidays: [day] });
const nextWorkingDay = [1, 2, 3].map((days) => addDays(today, days)).find((day) => !weekend(day)) ?? today;
function weekend(day: Day): boolean {
  return [0, 6].includes(new Date(`${day}T12:00:00Z`).getUTCDay());
}
const all = { visits: [1], runs: [1], tasks: [1, 2] };
const recount = { name: 'Works', before: MONDAY_TO_FRIDAY, after: off(nextWorkingDay) };
const withTasks = () => {
  const begun = must(addTaskSet(dealIn(setting), setting, 'set', at(NOW))).deal;
  const own = { title: 'Ring', assignee: null, dueDay: addDays(today, 5), dueTime: null };
  return must(addTask(begun, setting, own, at(NOW))).deal;
};

describe('a calendar that is changed', () => {
  it('moves the days ahead that are counted in working days, told in the journal; those of a person stay', () => {
    const deal = withTasks();
    const { deal: after, records } = recountDays(deal, setting, all, recount, at(NOW + DAY / 100));
    const later = (day: Day | null | undefined): boolean => (day ?? '') > today;
    const [visit, old] = [after.visits[0], deal.visits[0]];
    expect(later(visit?.moveOnDay) && (visit?.moveOnDay ?? '') > (old?.moveOnDay ?? '')).toBe(true);
    expect((after.runs[0]?.dueDay ?? '') > (deal.runs[0]?.dueDay ?? '')).toBe(true);
    expect((after.tasks[0]?.dueDay ?? '') > (deal.tasks[0]?.dueDay ?? '')).toBe(true);
    expect(after.tasks[1]).toBe(deal.tasks[1]);
    expect(records).toHaveLength(1);
    expect(records[0]).toMatchObject({
      entry: { body: { kind: 'days_recounted', calendar: 'Works', steps: [{ run: 1 }], tasks: [{ task: 1 }] } },
    });
    // The finding of a stay past its target turns on the new day.
    const [state] = after.states.slice(-1);
    expect(state?.moveOnDay).toBe(visit?.moveOnDay);
  });

  it('leaves alone what was put off by hand, what was begun since, other counts, and deals that are closed', () => {
    const deal = withTasks();
    const put = must(putOff(deal, setting, 1, { day: addDays(today, 9), text: 'why' }, at(NOW))).deal;
    const after = recountDays(put, setting, { ...all, visits: [], tasks: [] }, recount, at(NOW));
    expect(after).toEqual({ deal: put, records: [] });
    const target = { to: 'stage', stage: 'b' as StageId } as const;
    const asked = { target, mode: 'ask', text: '', reason: null, followUp: null } as const;
    const moved = must(moveDeal(dealIn(setting), setting, asked, at(NOW))).change.deal;
    expect(recountDays(moved, setting, { visits: [1, 2], runs: [1], tasks: [] }, recount, at(NOW)).deal).toBe(moved);
    const lost = { ...asked, target: { to: 'outcome', outcome: 'lost' } } as const;
    const closed = must(moveDeal(dealIn(setting), setting, lost, at(NOW))).change.deal;
    expect(recountDays(closed, setting, all, recount, at(NOW)).deal).toBe(closed);
  });

  it('changes the future only: a holiday that is past moves nothing', () => {
    const deal = withTasks();
    const past = { ...recount, after: off(addDays(today, -3)) };
    expect(recountDays(deal, setting, all, past, at(NOW)).deal).toBe(deal);
    const late = at(NOW + 60 * DAY);
    expect(recountDays(deal, setting, all, { ...recount, after: off(addDays(today, 4)) }, late).deal).toBe(deal);
  });
});
