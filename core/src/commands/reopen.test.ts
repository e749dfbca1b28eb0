import { describe, expect, it } from 'vitest';
import type { Deal } from '../deals/deal.ts';
import { standingAt } from '../deals/finding.ts';
import { presentVisit } from '../deals/parts/visits.ts';
import type { StageId, VersionId } from '../ids.ts';
import { newTaskSet } from '../tasks/taskSet.ts';
import { at, DAY, dealIn, documentOf, LOST, must, NOW, needs, settingOf, stage, WON } from '../testing/builders.ts';
import { type MoveRequest, moveDeal } from './move.ts';
import { reopenDeal } from './reopen.ts';
import { voidDeal } from './voidDeal.ts';

const STAGES = [
  stage('a'),
  stage('b', { target: { days: 5, counting: 'calendar' }, enter: [needs('area', 'area', { level: 'flag' })] }),
];
const setting = settingOf(documentOf(STAGES));
const LATER = NOW + 30 * DAY;

const move = (deal: Deal, target: MoveRequest['target'], when: number): Deal => {
  const request = { target, mode: 'force', text: 'why', reason: null, followUp: '2027-01-11' } as const;
  const moved = must(moveDeal(deal, setting, request, at(when)));
  if (moved.result !== 'moved') throw new Error('Not moved');
  return moved.change.deal;
};
const closed = (outcome: MoveRequest['target'] = LOST) =>
  move(move(dealIn(setting), { to: 'stage', stage: 'b' as StageId }, NOW + DAY), outcome, NOW + 8 * DAY);
const reopened = (deal: Deal, into = setting) => must(reopenDeal(deal, into, 'They called again', at(LATER, 'tomas')));

describe('a deal that is reopened (S12, S65)', () => {
  it('begins a new stay in the stage it closed in, whose target counts anew', () => {
    const { deal } = reopened(closed());
    expect(deal.status).toEqual({ state: 'open' });
    expect(deal.visits.map(({ stage: of }) => of)).toEqual(['a', 'b', 'b']);
    // 5 days from Thursday 24 December 2026.
    expect(presentVisit(deal)).toMatchObject({ enteredAt: LATER, enteredDay: '2026-12-24', moveOnDay: '2026-12-29' });
  });

  it('is judged afresh: what flagged its entry stands again, and stood not while it was closed', () => {
    const { deal } = reopened(closed());
    expect(standingAt(deal.findings, NOW + 2 * DAY)).toBe('flagged');
    expect(standingAt(deal.findings, NOW + 9 * DAY)).toBe('clear');
    expect(standingAt(deal.findings, LATER)).toBe('flagged');
  });

  it('is, on the days between, what it was then', () => {
    const { deal } = reopened(closed(WON));
    const on = (when: number) => deal.states.find(({ from, to }) => from <= when && when < to)?.status;
    expect([NOW + 2 * DAY, NOW + 9 * DAY, LATER - 1, LATER].map(on)).toEqual(['open', 'won', 'won', 'open']);
  });

  it('has its closing counted no longer, and why it goes on journalled', () => {
    const { records } = reopened(closed());
    expect(records).toMatchObject([
      { kind: 'move', move: { seq: 4, kind: 'reopen', from: null, to: 'b', stayDays: null } },
      { kind: 'closing_reopened', seq: 3, at: LATER },
      { kind: 'journal', entry: { body: { kind: 'reopened', stage: 'b' }, text: 'They called again' } },
    ]);
  });

  it('arrives in its stage anew: a set that says “again” makes its tasks again, another does not (S58)', () => {
    const set = (id: string, afterReturn: 'keep' | 'again') => ({
      ...newTaskSet(id, id, { id: `${id}1`, title: id }),
      afterReturn,
    });
    const arrival = ['once', 'anew'].map((id) => ({ do: 'add_tasks', set: id }) as const);
    const sets = [set('once', 'keep'), set('anew', 'again')];
    const withSets = settingOf(documentOf([stage('a', { arrival })], { taskSets: sets }));
    const begun = dealIn(withSets);
    expect(begun.tasks.map(({ title }) => title)).toEqual(['once', 'anew']);
    const request = { target: WON, mode: 'force', text: 'why', reason: null, followUp: null, tasks: 'cancel' } as const;
    const won = must(moveDeal(begun, withSets, request, at(NOW + DAY)));
    if (won.result !== 'moved') throw new Error('Not moved');
    expect(reopened(won.change.deal, withSets).deal.tasks.map(({ title }) => title)).toEqual(['once', 'anew', 'anew']);
  });

  it('goes on in the last of its stages that the version has, and says that the version is another', () => {
    const next = { ...settingOf(documentOf([stage('a'), stage('z')])), version: 'v9' as VersionId };
    const { deal, records } = reopened(closed(), next);
    expect([deal.version, presentVisit(deal).stage]).toEqual(['v9', 'a']);
    expect(records).toContainEqual(
      expect.objectContaining({
        kind: 'journal',
        entry: expect.objectContaining({
          body: { kind: 'version_changed', before: setting.version, after: next.version },
        }),
      }),
    );
  });

  it('needs a closed deal, a reason, and a stage to go on in', () => {
    const elsewhere = { ...settingOf(documentOf([stage('z')])), version: 'v9' as VersionId };
    const why = (deal: Deal, into = setting, text = 'why') => reopenDeal(deal, into, text, at(LATER));
    expect(why(dealIn(setting))).toEqual({ ok: false, error: { code: 'not_closed' } });
    expect(why(voidDeal(closed(), setting, at(LATER), 'A test').deal)).toMatchObject({ error: { code: 'not_closed' } });
    expect(why(closed(), setting, ' ')).toEqual({ ok: false, error: { code: 'text_needed' } });
    expect(why(closed(), elsewhere)).toEqual({ ok: false, error: { code: 'no_stage_left' } });
  });
});
