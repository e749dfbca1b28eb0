import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { expectedFindings } from '../compliance/expectedFindings.ts';
import { personActor } from '../deals/actor.ts';
import type { Deal } from '../deals/deal.ts';
import { OPEN_ENDED, standsAt } from '../deals/finding.ts';
import { presentVisit } from '../deals/parts/visits.ts';
import type { Change } from '../deals/record.ts';
import type { StageId } from '../ids.ts';
import type { HouseRules } from '../processes/houseRules.ts';
import type { Requirement } from '../requirements/kinds.ts';
import { at, DAY, dealIn, documentOf, NOW, needs, settingOf, stage } from '../testing/builders.ts';
import { dayFromNumber, dayNumber } from '../time/day.ts';
import { recordActivity } from './activity.ts';
import { editDeal } from './edit.ts';
import { moveDeal } from './move.ts';
import { canTakeBack, takeBack } from './takeBack.ts';
import { tickItem } from './tick.ts';
import { askWaiver, decideWaiver, revokeWaiver } from './waivers.ts';
import { withdrawAttempt } from './withdrawAttempt.ts';

/* What is kept, command by command, must say at every instant what judging everything afresh would say (S20). */

const withinMonth: Requirement = {
  id: 'within',
  level: 'hold',
  binds: 'must_stay',
  kind: 'criterion',
  criterion: {
    kind: 'between',
    left: { of: 'field', field: 'close_date' },
    low: { of: 'today', plus: -5 },
    high: { of: 'today', plus: 30 },
  },
};
const notTooLong: Requirement = {
  id: 'long',
  level: 'flag',
  binds: 'must_stay',
  kind: 'criterion',
  criterion: { kind: 'less', left: { of: 'journey', fact: 'days_in_stage' }, right: { of: 'value', value: 6 } },
};
const RULES: HouseRules = {
  past_target: { level: 'flag', since: 0 },
  idle: { level: 'hold', since: 0 },
  close_date_past: { level: 'flag', since: 0 },
  no_next_action: { level: 'flag', since: 0 },
  step_late: { level: 'flag', since: 0 },
};
const setting = settingOf(
  documentOf([
    stage('a', { checklist: [{ id: 'tick', text: 'Called', need: 'must', level: 'flag', afterReturn: 'again' }] }),
    stage('b', { enter: [needs('area', 'area'), notTooLong] }),
    stage('c', { enter: [needs('crop', 'crop', { level: 'flag' }), withinMonth] }),
    stage('d', { enter: [needs('notes', 'notes')] }),
  ]),
  { houseRules: RULES },
);

type Command = (deal: Deal, when: number) => Change | null;
const target = fc.constantFrom('a', 'b', 'c', 'd');
const edits = fc.oneof(
  fc.tuple(fc.constant('area'), fc.constantFrom(null, 300)),
  fc.tuple(fc.constant('crop'), fc.constantFrom(null, 'herbs')),
  fc.tuple(fc.constant('notes'), fc.constantFrom(null, 'x')),
  fc.tuple(fc.constant('next_action'), fc.constantFrom(null, 'call')),
  fc.tuple(
    fc.constant('close_date'),
    fc.integer({ min: -10, max: 50 }).map((days) => dayFromNumber(dayNumber('2026-11-24') + days)),
  ),
);
const command: fc.Arbitrary<Command> = fc.oneof(
  edits.map(
    ([field, value]): Command =>
      (deal, when) => {
        const edited = editDeal(deal, setting, [{ field, saw: deal.values[field] ?? null, value }], at(when));
        return edited.ok ? edited.value : null;
      },
  ),
  fc.constantFrom('ticked' as const, 'unticked' as const).map(
    (state): Command =>
      (deal, when) => {
        const ticked = tickItem(deal, setting, 'tick', state, at(when));
        return ticked.ok ? ticked.value : null;
      },
  ),
  fc.tuple(target, fc.constantFrom('ask' as const, 'force' as const)).map(
    ([where, mode]): Command =>
      (deal, when) => {
        const moved = moveDeal(
          deal,
          setting,
          { target: { to: 'stage', stage: where as StageId }, mode, text: 'why', reason: null, followUp: null },
          at(when),
        );
        return moved.ok ? moved.value.change : null;
      },
  ),
  fc.constant<Command>((deal, when) => recordActivity(deal, setting, 'call', 'x', at(when))),
  fc.constant<Command>((deal, when) => withdrawAttempt(deal, setting, at(when))),
  fc.tuple(target, fc.constantFrom('area', 'within', 'notes'), fc.integer({ min: 0, max: 9 })).map(
    ([where, item, days]): Command =>
      (deal, when) => {
        const until = dayFromNumber(Math.floor(when / DAY) + days);
        const request = { target: { to: 'stage', stage: where as StageId }, items: [item], why: 'x', until } as const;
        const asked = askWaiver(deal, setting, request, at(when));
        const last = asked.ok ? asked.value.deal.waivers.at(-1) : undefined;
        if (!asked.ok || !last) return null;
        const granted = decideWaiver(
          asked.value.deal,
          setting,
          last.request,
          { how: 'granted', until: last.until, word: null },
          at(when, 'tomas'),
        );
        return granted.ok ? granted.value : asked.value;
      },
  ),
  fc.nat(3).map(
    (request): Command =>
      (deal, when) => {
        const revoked = revokeWaiver(deal, setting, request, 'x', at(when, 'tomas'));
        return revoked.ok ? revoked.value : null;
      },
  ),
  fc.constant<Command>((deal, when) => {
    const step = canTakeBack(deal, setting, { id: personActor('tomas'), rank: 'manager' }, when);
    return step.ok ? takeBack(deal, setting, step.value, at(when), null) : null;
  }),
);
const script = fc.array(fc.tuple(command, fc.integer({ min: 0, max: 6 * DAY })), { maxLength: 14 });

const kept = (deal: Deal, when: number) =>
  deal.findings
    .filter((finding) => standsAt(finding, when))
    .map(({ key, level }) => `${key} ${level}`)
    .sort();
const afresh = (deal: Deal, when: number) =>
  expectedFindings(deal, setting, when)
    .findings.filter((finding) => standsAt(finding, when))
    .map(({ key, level }) => `${key} ${level}`)
    .sort();

describe('findings kept by commands', () => {
  it('agree with a full re-judging at every command, and at every instant that is named, a day before and a day after', () => {
    fc.assert(
      fc.property(script, (steps) => {
        let deal = dealIn(setting);
        let when = NOW;
        for (const [apply, pause] of steps) {
          when += pause;
          deal = apply(deal, when)?.deal ?? deal;
          expect(kept(deal, when)).toEqual(afresh(deal, when));
        }
        const instants = deal.findings
          .flatMap(({ openedAt, closedAt }) => [openedAt, closedAt])
          .filter((instant) => instant > when && instant < OPEN_ENDED);
        for (const instant of instants
          .flatMap((one) => [one - DAY, one - 1, one, one + DAY])
          .filter((one) => one >= when)) {
          expect(kept(deal, instant)).toEqual(afresh(deal, instant));
        }
      }),
      { numRuns: 400 },
    );
  });

  it('never overlap under one key, and stays never overlap either', () => {
    fc.assert(
      fc.property(script, (steps) => {
        let deal = dealIn(setting);
        let when = NOW;
        for (const [apply, pause] of steps) {
          when += pause + 1;
          deal = apply(deal, when)?.deal ?? deal;
        }
        for (const key of new Set(deal.findings.map((finding) => finding.key))) {
          const sorted = deal.findings
            .filter((finding) => finding.key === key)
            .toSorted((a, b) => a.openedAt - b.openedAt);
          for (const [place, finding] of sorted.entries())
            expect(finding.openedAt).toBeGreaterThanOrEqual(sorted[place - 1]?.closedAt ?? 0);
        }
        const stays = deal.visits.filter(({ takenBack }) => takenBack === 'no');
        for (const [place, visit] of stays.entries())
          expect(visit.enteredAt).toBeGreaterThanOrEqual(stays[place - 1]?.left?.at ?? 0);
        expect(presentVisit(deal).left).toBeNull();
      }),
      { numRuns: 200 },
    );
  });
});
