import { describe, expect, it } from 'vitest';
import { expectedFindings } from '../compliance/expectedFindings.ts';
import { personActor } from '../deals/actor.ts';
import type { Deal } from '../deals/deal.ts';
import { standingAt, standsAt } from '../deals/finding.ts';
import { presentVisit } from '../deals/parts/visits.ts';
import type { StageId, VersionId } from '../ids.ts';
import { NO_HOUSE_RULES } from '../processes/houseRules.ts';
import type { Requirement } from '../requirements/kinds.ts';
import {
  at,
  DAY,
  dealIn,
  documentOf,
  LOST,
  must,
  NOW,
  needs,
  published,
  settingOf,
  stage,
  wonAsking,
} from '../testing/builders.ts';
import { startOfDay } from '../time/day.ts';
import { recordActivity } from './activity.ts';
import { adoptVersion } from './adoptVersion.ts';
import { editDeal } from './edit.ts';
import { type MoveRequest, moveDeal } from './move.ts';
import { canTakeBack, TAKE_BACK_MS, takeBack } from './takeBack.ts';
import { tickItem } from './tick.ts';
import { withdrawAttempt } from './withdrawAttempt.ts';

const soon: Requirement = {
  id: 'soon',
  level: 'hold',
  binds: 'must_stay',
  kind: 'criterion',
  criterion: {
    kind: 'between',
    left: { of: 'field', field: 'close_date' },
    low: { of: 'today', plus: 0 },
    high: { of: 'today', plus: 60 },
  },
};
const document = documentOf(
  [
    stage('a', { checklist: [{ id: 'tick', text: 'Called', need: 'must', level: 'hold', afterReturn: 'again' }] }),
    stage('b', { enter: [needs('area', 'area')] }),
    stage('c', { enter: [needs('crop', 'crop'), { ...needs('notes', 'notes'), binds: 'at_move' } as Requirement] }),
    stage('d', { enter: [soon] }),
  ],
  { outcomes: wonAsking(needs('paid', 'paid')) },
);
const setting = settingOf(document);
const reasons = [{ id: 'price', outcome: 'lost', name: 'Price', followUp: 'asked', withdrawn: 'no' }] as const;

const request = (target: MoveRequest['target'], more: Partial<MoveRequest> = {}): MoveRequest => ({
  target,
  mode: 'ask',
  text: null,
  reason: null,
  followUp: null,
  ...more,
});
const to = (id: string): MoveRequest['target'] => ({ to: 'stage', stage: id as StageId });
const move = (deal: Deal, target: MoveRequest['target'], when = NOW, more: Partial<MoveRequest> = {}) =>
  must(moveDeal(deal, setting, request(target, more), at(when)));
const edit = (deal: Deal, field: string, value: never | string | number | boolean | null, when = NOW) =>
  must(editDeal(deal, setting, [{ field, saw: deal.values[field] ?? null, value }], at(when))).deal;
const tick = (deal: Deal, when = NOW) => must(tickItem(deal, setting, 'tick', 'ticked', at(when))).deal;
const open = (deal: Deal, when: number) =>
  deal.findings.filter((finding) => standsAt(finding, when)).map(({ key, level }) => `${key} ${level}`);
const inB = () => move(edit(tick(dealIn(setting)), 'area', 300), to('b'), NOW + 60_000).change.deal;

describe('a refused move', () => {
  it('is recorded with its verdict and all facts, and what it asks becomes findings until it is put right', () => {
    const { result, change } = move(dealIn(setting), to('b'));
    expect(result).toBe('held');
    expect(change.records.map(({ kind }) => kind)).toEqual(['refusal', 'journal']);
    expect(open(change.deal, NOW)).toEqual(['requirement:tick hold', 'requirement:area hold']);
    expect(change.deal.revision).toBe(1);
    const halfway = tick(change.deal, NOW + DAY);
    expect(open(halfway, NOW + DAY)).toEqual(['requirement:area hold']);
    const right = edit(halfway, 'area', 300, NOW + 2 * DAY);
    expect(open(right, NOW + 2 * DAY)).toEqual([]);
    expect(right.attempt).toBeNull();
  });

  it('can be given up, and its gate is then only missing', () => {
    const { deal } = withdrawAttempt(move(dealIn(setting), to('b')).change.deal, setting, at(NOW + DAY));
    expect(standingAt(deal.findings, NOW + DAY)).toBe('clear');
    expect(standingAt(deal.findings, NOW + DAY - 1)).toBe('held');
  });
});

describe('a move', () => {
  it('ends the stay, begins one with its move-on day, and keeps where it came from and how long that was', () => {
    const later = move(inB(), to('a'), NOW + 3 * DAY, { text: 'Wrong crop' }).change;
    expect(presentVisit(later.deal)).toMatchObject({ stage: 'a', enteredDay: '2026-11-27', moveOnDay: '2026-12-07' });
    expect(later.records[0]).toMatchObject({
      kind: 'move',
      move: { kind: 'return', from: 'b', to: 'a', stayDays: 3, seq: 3 },
    });
  });

  it('asks words of a return, a reason and its follow-up date of a closing', () => {
    expect(moveDeal(inB(), setting, request(to('a')), at(NOW + DAY))).toEqual({
      ok: false,
      error: { code: 'text_needed' },
    });
    const asking = settingOf(document, { reasons });
    const lose = (more: Partial<MoveRequest>) => moveDeal(inB(), asking, request(LOST, more), at(NOW + DAY));
    expect(lose({})).toEqual({ ok: false, error: { code: 'reason_needed' } });
    expect(lose({ reason: 'price' })).toEqual({ ok: false, error: { code: 'follow_up_needed' } });
    expect(must(lose({ reason: 'price', followUp: '2027-05-01' })).change.deal.status).toMatchObject({
      state: 'lost',
      followUp: '2027-05-01',
    });
  });

  it('ticks marked "again" do not count after a return, others do (S7)', () => {
    const back = move(inB(), to('a'), NOW + DAY, { text: 'Again' }).change.deal;
    expect(move(back, to('b'), NOW + DAY).verdict.items.map(({ item, state }) => `${item.id} ${state}`)).toEqual([
      'tick unmet',
      'area met',
    ]);
  });

  it('a flagged skip passes, and what it jumped over is owed at flag level until met (S8, S17)', () => {
    const skipped = move(edit(edit(inB(), 'close_date', '2026-12-20'), 'crop', null), to('d'), NOW + DAY).change.deal;
    expect(open(skipped, NOW + DAY)).toEqual(['requirement:crop flag', 'requirement:notes flag', 'skipped:3 flag']);
    const right = edit(edit(skipped, 'crop', 'herbs', NOW + 2 * DAY), 'notes', 'x', NOW + 2 * DAY);
    expect(open(right, NOW + 2 * DAY)).toEqual([]);
  });

  it('only forced passes a gate that holds, and leaves a mark until what it asked is met', () => {
    const forced = move(dealIn(setting), to('b'), NOW, { mode: 'force', text: 'Board said so' });
    expect(forced.result).toBe('moved');
    expect(open(forced.change.deal, NOW)).toEqual(['requirement:tick hold', 'requirement:area hold', 'forced:2 flag']);
  });

  it('closing ends every finding and makes the facts read-only', () => {
    const held = edit(inB(), 'area', null, NOW + DAY);
    expect(standingAt(held.findings, NOW + DAY)).toBe('held');
    const lost = move(held, LOST, NOW + 2 * DAY).change.deal;
    expect(standingAt(lost.findings, NOW + 2 * DAY)).toBe('clear');
    expect(editDeal(lost, setting, [{ field: 'area', saw: null, value: 1 }], at(NOW + 3 * DAY))).toEqual({
      ok: false,
      error: [{ code: 'closed' }],
    });
  });
});

describe('taking a move back (S11)', () => {
  it('gives the stay before back as if nothing had been, for its maker within ten minutes and a manager later', () => {
    const before = inB();
    const moved = move(edit(edit(before, 'crop', 'herbs'), 'notes', 'x'), to('c'), NOW + DAY).change.deal;
    const maker = { id: personActor('priya'), rank: 'maker' } as const;
    expect(canTakeBack(moved, setting, maker, NOW + DAY + TAKE_BACK_MS).ok).toBe(true);
    expect(canTakeBack(moved, setting, maker, NOW + DAY + TAKE_BACK_MS + 1)).toEqual({
      ok: false,
      error: { code: 'too_late' },
    });
    expect(canTakeBack(moved, setting, { id: personActor('oskar'), rank: 'maker' }, NOW + DAY)).toEqual({
      ok: false,
      error: { code: 'not_yours' },
    });
    const back = takeBack(
      moved,
      setting,
      must(canTakeBack(moved, setting, { id: personActor('tomas'), rank: 'manager' }, NOW + 9 * DAY)),
      at(NOW + 9 * DAY),
      null,
    ).deal;
    expect(presentVisit(back)).toEqual(presentVisit(before));
    expect(back.path).toEqual(before.path);
    expect(back.moveCount).toBe(3);
  });
});

describe('the clock', () => {
  it('a finding whose criterion mentions it knows when its truth next changes (S20)', () => {
    const ready = edit(edit(edit(inB(), 'crop', 'herbs'), 'notes', 'x'), 'close_date', '2026-12-20');
    const inD = move(move(ready, to('c'), NOW + DAY).change.deal, to('d'), NOW + DAY).change.deal;
    const breaks = startOfDay('2026-12-21', 'Europe/London');
    expect(open(inD, breaks - 1)).toEqual([]);
    expect(open(inD, breaks)).toEqual(['requirement:soon hold']);
    const moved = edit(inD, 'close_date', '2027-01-10', breaks + DAY);
    expect(open(moved, breaks + DAY)).toEqual([]);
    expect(open(moved, breaks + DAY - 1)).toEqual(['requirement:soon hold']);
  });

  it('past target and idle begin on the day after, and an activity ends idleness', () => {
    const rules = {
      ...NO_HOUSE_RULES,
      past_target: { level: 'flag', since: 0 },
      idle: { level: 'hold', since: 0 },
    } as const;
    const strict = settingOf(document, { houseRules: rules });
    const deal = dealIn(strict);
    const day = (text: string) => startOfDay(text, 'Europe/London');
    expect(open(deal, day('2026-12-02') - 1)).toEqual([]);
    expect(open(deal, day('2026-12-02'))).toEqual(['house:idle hold']);
    expect(open(deal, day('2026-12-05')).sort()).toEqual(['house:idle hold', 'house:past_target flag']);
    const called = recordActivity(deal, strict, 'call', 'They will send it', at(day('2026-12-03'))).deal;
    expect(open(called, day('2026-12-03'))).toEqual([]);
    expect(open(called, day('2026-12-11')).sort()).toEqual(['house:idle hold', 'house:past_target flag']);
    expect(called.revision).toBe(deal.revision);
  });
});

it('idleness begins anew with each stay, however long ago the last activity was (S6)', () => {
  const strict = settingOf(document, { houseRules: { ...NO_HOUSE_RULES, idle: { level: 'hold', since: 0 } } });
  const quiet = recordActivity(dealIn(strict), strict, 'call', 'x', at(NOW)).deal;
  const moved = must(
    moveDeal(
      must(
        tickItem(
          must(editDeal(quiet, strict, [{ field: 'area', saw: null, value: 300 }], at(NOW + 6 * DAY))).deal,
          strict,
          'tick',
          'ticked',
          at(NOW + 6 * DAY),
        ),
      ).deal,
      strict,
      request(to('b')),
      at(NOW + 6 * DAY),
    ),
  ).change.deal;
  const day = (text: string) => startOfDay(text, 'Europe/London');
  expect(open(moved, day('2026-12-08') - 1)).toEqual([]);
  expect(open(moved, day('2026-12-08'))).toEqual(['house:idle hold']);
});

describe('a publish', () => {
  it('moves a deal over with its stay; what fails only by the new version flags until the grace ends (S28)', () => {
    const stricter = {
      ...settingOf({
        ...document,
        stages: document.stages.map((one) =>
          one.id === 'b' ? { ...one, enter: [...one.enter, needs('new', 'survey')] } : one,
        ),
      }),
      version: 'v2' as VersionId,
    };
    const graceUntil = NOW + 10 * DAY;
    const { deal, records } = must(
      adoptVersion(
        inB(),
        { from: setting, to: published(setting, stricter, graceUntil), transfers: {}, graceUntil },
        at(NOW + DAY),
      ),
    );
    expect(records.map(({ kind }) => kind)).toEqual(['journal']);
    expect(presentVisit(deal)).toEqual(presentVisit(inB()));
    const state = (when: number) =>
      deal.findings.filter((finding) => standsAt(finding, when)).map(({ kind, level }) => `${kind} ${level}`);
    expect(state(NOW + 9 * DAY)).toEqual(['gate_changed flag']);
    expect(state(NOW + 10 * DAY)).toEqual(['gate_changed hold']);
  });

  it('leaves a removed stage by a transfer that no measure counts', () => {
    const shorter = {
      ...settingOf({ ...document, stages: document.stages.filter(({ id }) => id !== 'b') }),
      version: 'v2' as VersionId,
    };
    const { deal, records } = must(
      adoptVersion(
        inB(),
        { from: setting, to: shorter, transfers: { b: 'a' as StageId }, graceUntil: NOW },
        at(NOW + DAY),
      ),
    );
    expect(presentVisit(deal).stage).toBe('a');
    expect(records[0]).toMatchObject({ kind: 'move', move: { kind: 'transfer', from: 'b', to: 'a' } });
  });
});

it('judging afresh changes nothing that is kept', () => {
  const deal = move(edit(inB(), 'close_date', '2026-12-20'), to('c'), NOW + DAY).change.deal;
  const { findings } = expectedFindings(deal, setting, NOW + DAY);
  expect(findings.map(({ key }) => key).sort()).toEqual(
    deal.findings
      .filter(({ closedAt }) => closedAt > NOW + DAY)
      .map(({ key }) => key)
      .sort(),
  );
});
