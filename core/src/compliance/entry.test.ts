import { describe, expect, it } from 'vitest';
import { recordActivity } from '../commands/activity.ts';
import { createDeal } from '../commands/create.ts';
import { editDeal } from '../commands/edit.ts';
import { moveDeal } from '../commands/move.ts';
import { personActor } from '../deals/actor.ts';
import type { Deal } from '../deals/deal.ts';
import { standingAt, standsAt } from '../deals/finding.ts';
import type { Setting } from '../deals/setting.ts';
import type { FactValue } from '../facts/value.ts';
import type { DealId, ProcessId, StageId } from '../ids.ts';
import type { ProcessDocument } from '../processes/document.ts';
import { NO_HOUSE_RULES } from '../processes/houseRules.ts';
import type { Requirement } from '../requirements/kinds.ts';
import { at, DAY, dealIn, documentOf, must, NOW, needs, settingOf, stage } from '../testing/builders.ts';
import { startOfDay } from '../time/day.ts';

/* Findings of how a deal entered its stage, and since when a finding is so (S14, S17, S20). */

const go = (deal: Deal, setting: Setting, to: string, when: number, mode: 'ask' | 'force' = 'ask') => {
  const request = {
    target: { to: 'stage', stage: to as StageId },
    mode,
    text: 'why',
    reason: null,
    followUp: null,
  } as const;
  return must(moveDeal(deal, setting, request, at(when))).change.deal;
};
const fill = (deal: Deal, setting: Setting, field: string, value: FactValue, when: number) =>
  must(editDeal(deal, setting, [{ field, saw: deal.values[field] ?? null, value }], at(when))).deal;
const inForce = ({ findings }: Deal, when: number): readonly string[] =>
  findings.filter((finding) => standsAt(finding, when)).map(({ key, kind, level }) => `${key} ${kind} ${level}`);

describe('a flag that is judged at the move only', () => {
  const wideEnough: Requirement = {
    id: 'wide',
    level: 'flag',
    binds: 'at_move',
    kind: 'criterion',
    criterion: { kind: 'at_least', left: { of: 'field', field: 'area' }, right: { of: 'value', value: 200 } },
  };
  const setting = settingOf(documentOf([stage('a'), stage('b', { enter: [wideEnough] }), stage('c')]));
  const inB = go(dealIn(setting, { area: 100 }), setting, 'b', NOW + DAY);

  it('is a finding of how the deal entered, where it was not met as the deal passed', () => {
    expect(inForce(inB, NOW + DAY)).toEqual(['requirement:wide criterion flag']);
    expect(standingAt(inB.findings, NOW + DAY)).toBe('flagged');
    const passed = go(dealIn(setting, { area: 300 }), setting, 'b', NOW + DAY);
    expect(inForce(fill(passed, setting, 'area', 100, NOW + 2 * DAY), NOW + 2 * DAY)).toEqual([]);
  });

  it('ends when it is met, or when the deal leaves that stage', () => {
    expect(inForce(fill(inB, setting, 'area', 200, NOW + 2 * DAY), NOW + 2 * DAY)).toEqual([]);
    expect(inForce(go(inB, setting, 'c', NOW + 2 * DAY), NOW + 2 * DAY)).toEqual([]);
  });

  it('is found where a deal begins too, and what holds there is found as holding (S10)', () => {
    const first = (level: 'hold' | 'flag') =>
      settingOf(documentOf([stage('a', { enter: [{ ...wideEnough, level }] })]));
    expect(inForce(dealIn(first('flag')), NOW)).toEqual(['requirement:wide criterion flag']);
    const held = dealIn(first('hold'));
    expect(inForce(held, NOW)).toEqual(['requirement:wide criterion hold']);
    expect(inForce(fill(held, first('hold'), 'area', 200, NOW + 1), NOW + 1)).toEqual([]);
  });
});

describe('a forced skip', () => {
  const stages: ProcessDocument['stages'] = [
    stage('a'),
    stage('b', { enter: [needs('passed', 'crop', { binds: 'at_move' })] }),
    stage('c', { enter: [needs('wanted', 'notes', { binds: 'at_move' })] }),
    stage('d'),
  ];
  const keys = (skips: 'flag' | 'hold') => {
    const setting = settingOf(documentOf(stages, { skips }));
    const forced = go(dealIn(setting), setting, 'c', NOW + DAY, 'force');
    return [forced, go(forced, setting, 'd', NOW + 2 * DAY, 'force')].map((deal) =>
      inForce(deal, NOW + 2 * DAY).toSorted(),
    );
  };

  it('in a process that flags skips goes on owing what was skipped, also from the next stage', () => {
    expect(keys('flag')).toEqual([
      ['forced:2 forced flag', 'requirement:passed field flag'],
      ['requirement:passed field flag'],
    ]);
  });

  it('in a process that holds skips is over with the stay', () => {
    expect(keys('hold')).toEqual([['forced:2 forced flag'], []]);
  });
});

describe('since when a finding is so', () => {
  const rules = {
    ...NO_HOUSE_RULES,
    close_date_past: { level: 'flag', since: 0 },
    idle: { level: 'flag', since: 0 },
    past_target: { level: 'flag', since: 0 },
  } as const;
  const setting = settingOf(documentOf([stage('a', { idleDays: 3 }), stage('b', { idleDays: 3 })]), {
    houseRules: rules,
  });
  const times = (deal: Deal, kind: string) =>
    deal.findings.filter((finding) => finding.kind === kind).map(({ openedAt, closedAt }) => [openedAt, closedAt]);
  const day = (text: string) => startOfDay(text, 'Europe/London');
  const call = (deal: Deal, happenedAt: number, recordedAt: number) =>
    recordActivity(deal, setting, 'call', 'x', { by: personActor('priya'), happenedAt, recordedAt }).deal;

  it('an edit that moves the close date into the past begins it at the edit', () => {
    const edited = fill(dealIn(setting), setting, 'close_date', '2026-10-01', NOW + DAY);
    expect(times(edited, 'close_date_past')).toEqual([[NOW + DAY, Number.POSITIVE_INFINITY]]);
    const earlier = fill(edited, setting, 'close_date', '2026-09-01', NOW + 2 * DAY);
    expect(times(earlier, 'close_date_past')).toEqual([[NOW + DAY, Number.POSITIVE_INFINITY]]);
  });

  it('an imported deal is past its target since it was, not since the import', () => {
    const input = {
      id: 'd' as DealId,
      process: 'p' as ProcessId,
      externalId: null,
      name: 'D',
      stage: 'a' as StageId,
      values: {},
      partyValues: {},
    };
    const history = { createdAt: NOW - 40 * DAY, enteredAt: NOW - 40 * DAY, lastActivityAt: NOW - 20 * DAY };
    const { deal } = createDeal({ ...input, values: { close_date: '2026-01-01' } }, setting, at(NOW), history);
    expect(times(deal, 'past_target')).toEqual([[day('2026-10-26'), Number.POSITIVE_INFINITY]]);
    expect(times(deal, 'idle')).toEqual([[day('2026-11-08'), Number.POSITIVE_INFINITY]]);
    expect(times(deal, 'close_date_past')).toEqual([[NOW, Number.POSITIVE_INFINITY]]);
  });

  /* Entered on 24 November: idle from the 28th. */
  it('a call that is logged late ends idleness from when it happened, for as long as it lasts', () => {
    const open = Number.POSITIVE_INFINITY;
    const late = call(dealIn(setting), day('2026-11-30') + 1, day('2026-12-09'));
    expect(times(late, 'idle')).toEqual([
      [day('2026-11-28'), day('2026-11-30') + 1],
      [day('2026-12-04'), open],
    ]);
    const before = call(dealIn(setting), day('2026-11-26'), day('2026-12-09'));
    expect(times(before, 'idle')).toEqual([[day('2026-11-30'), open]]);
    const recent = call(dealIn(setting), day('2026-12-08'), day('2026-12-09'));
    expect(times(recent, 'idle')).toEqual([
      [day('2026-11-28'), day('2026-12-08')],
      [day('2026-12-12'), open],
    ]);
  });

  it('and one between two that are known cuts the time between them', () => {
    const known = call(
      call(dealIn(setting), day('2026-11-25'), day('2026-11-25')),
      day('2026-12-07'),
      day('2026-12-07'),
    );
    expect(times(known, 'idle')[0]).toEqual([day('2026-11-29'), day('2026-12-07')]);
    const between = call(known, day('2026-12-01'), day('2026-12-09'));
    expect(times(between, 'idle').slice(0, 2)).toEqual([
      [day('2026-11-29'), day('2026-12-01')],
      [day('2026-12-05'), day('2026-12-07')],
    ]);
  });

  it('a criterion about days since the last activity is judged from when it happened too', () => {
    const active: Requirement = {
      id: 'active',
      level: 'hold',
      binds: 'must_stay',
      kind: 'criterion',
      criterion: {
        kind: 'at_most',
        left: { of: 'journey', fact: 'days_since_activity' },
        right: { of: 'value', value: 3 },
      },
    };
    const asking = settingOf(documentOf([stage('a', { enter: [active] })]));
    const late = { by: personActor('priya'), happenedAt: day('2026-11-30') + 1, recordedAt: day('2026-12-09') };
    const { deal } = recordActivity(dealIn(asking), asking, 'call', 'x', late);
    expect(times(deal, 'criterion')).toEqual([
      [day('2026-11-28'), day('2026-11-30') + 1],
      [day('2026-12-04'), Number.POSITIVE_INFINITY],
    ]);
  });
});
