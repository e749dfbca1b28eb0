import { describe, expect, it } from 'vitest';
import { personActor } from '../deals/actor.ts';
import type { Deal } from '../deals/deal.ts';
import type { DealId } from '../ids.ts';
import {
  at,
  DAY,
  dealIn,
  documentOf,
  LOST,
  must,
  NOW,
  needs,
  settingOf,
  stage,
  WON,
  wonAsking,
} from '../testing/builders.ts';
import { editDeal } from './edit.ts';
import type { Final } from './finalFacts.ts';
import { recordNext } from './goOnAnew.ts';
import { type MoveRequest, moveDeal } from './move.ts';
import { canTakeBack, takeBack } from './takeBack.ts';

const outcomes = wonAsking(needs('value', 'value', { level: 'hold' }));
const setting = settingOf(documentOf([stage('a')], { outcomes }));
const gbp = (minor: number) => ({ minor, currency: 'GBP' });

/** A deal with a value and a close date that were estimated. */
function estimated(value: Final['value'] = gbp(51_000_000), day: string | null = '2026-12-10'): Deal {
  const edit = (field: string, to: Deal['values'][string]) => ({ field, saw: begun.values[field] ?? null, value: to });
  const begun = dealIn(setting, { value: null, close_date: null });
  return must(editDeal(begun, setting, [edit('value', value), edit('close_date', day)], at(NOW))).deal;
}
const close = (deal: Deal, more: Partial<MoveRequest> = {}) =>
  moveDeal(
    deal,
    setting,
    { target: WON, mode: 'ask', text: null, reason: null, followUp: null, ...more },
    at(NOW + DAY),
  );
// NOW + a day is 25 November 2026.
const final = { value: gbp(48_000_000), day: '2026-11-23' };

describe('a deal that is won', () => {
  it('has its final value and day instead of the estimates, which are kept beside', () => {
    const { change } = must(close(estimated(), { final }));
    expect(change.deal.values).toMatchObject({ value: final.value, close_date: '2026-11-23' });
    expect(change.deal.status).toMatchObject({
      day: '2026-11-25',
      estimate: { value: gbp(51_000_000), day: '2026-12-10' },
    });
    // That an estimate became a fact is no slip of the close date.
    expect(change.deal.closeDateMoves).toBe(0);
    expect(change.records).toContainEqual(
      expect.objectContaining({ kind: 'move', move: expect.objectContaining({ value: final.value }) }),
    );
  });

  it('closes at its estimated value, today, where nothing else is said', () => {
    const { deal } = must(close(estimated())).change;
    expect(deal.values).toMatchObject({ value: gbp(51_000_000), close_date: '2026-11-25' });
  });

  it('meets what the gate asks of its value by the final one; a closing that is held keeps the estimates', () => {
    expect(must(close(estimated(null), { final })).result).toBe('moved');
    const held = must(close(estimated(), { final: { ...final, value: null } }));
    expect(held.result).toBe('held');
    expect(held.change.deal.values).toMatchObject({ value: gbp(51_000_000), close_date: '2026-12-10' });
  });

  it('is expected again what had been expected, once the closing is taken back', () => {
    const before = estimated();
    const { deal } = must(close(before, { final })).change;
    const step = must(canTakeBack(deal, setting, { id: personActor('priya'), rank: 'manager' }, NOW + DAY));
    expect(takeBack(deal, setting, step, at(NOW + DAY), null).deal.values).toEqual(before.values);
  });

  it.each<[string, Partial<MoveRequest>, object]>([
    ['a day to come', { final: { ...final, day: '2026-11-26' } }, { code: 'bad_final', part: 'day' }],
    [
      'another currency',
      { final: { ...final, value: { minor: 1, currency: 'EUR' } } },
      { code: 'bad_final', part: 'value' },
    ],
    ['final facts of one that is lost', { target: LOST, final }, { code: 'final_not_asked' }],
  ])('cannot end with %s', (_name, more, error) => {
    const refused = close(estimated(), more);
    expect(refused.ok ? null : refused.error).toMatchObject(error);
  });
});

describe('a new deal that goes on from a closed one', () => {
  const next = { deal: 'next' as DealId, name: 'Palm house 2' };

  it('is told in the closed one’s journal, whose follow-up has been seen to', () => {
    const { deal } = must(close(estimated(), { target: LOST, followUp: '2027-02-01' })).change;
    const { deal: after, records } = must(recordNext(deal, setting, at(NOW + 2 * DAY), next));
    expect(after.status).toMatchObject({ state: 'lost', followUp: null });
    expect(after.revision).toBe(deal.revision);
    expect(records).toMatchObject([
      { entry: { body: { kind: 'went_on', next } } },
      { entry: { body: { kind: 'follow_up_changed', before: '2027-02-01', after: null } } },
    ]);
  });

  it('goes on from a closed one alone', () => {
    expect(recordNext(estimated(), setting, at(NOW), next)).toEqual({ ok: false, error: { code: 'not_closed' } });
  });
});
