import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { editDeal } from '../commands/edit.ts';
import { moveDeal } from '../commands/move.ts';
import { tickItem } from '../commands/tick.ts';
import { type Finding, OPEN_ENDED, type RequirementFinding, standingAt, standsAt } from '../deals/finding.ts';
import type { StageId } from '../ids.ts';
import { NO_HOUSE_RULES } from '../processes/houseRules.ts';
import type { Requirement } from '../requirements/kinds.ts';
import { at, DAY, dealIn, documentOf, must, NOW, needs, settingOf, stage } from '../testing/builders.ts';
import { describeFinding } from './describeFinding.ts';
import { owedItems } from './owed.ts';
import { cutPeriods, joinPeriods, type Period, periodsWhere } from './periods.ts';
import { reviseFindings } from './reviseFindings.ts';

const finding = (openedAt: number, closedAt: number, more: Partial<RequirementFinding> = {}): Finding => ({
  key: 'requirement:r',
  kind: 'field',
  level: 'hold',
  origin: 'owed',
  requirement: 'r',
  askedBy: 'a',
  openedAt,
  closedAt,
  ...more,
});

describe('a standing (S16)', () => {
  it('is held by one holding finding, flagged by others, clear without', () => {
    const [held, flagged] = [finding(10, 20), finding(0, 30, { key: 'f', level: 'flag' })];
    expect([-1, 0, 9, 10, 19, 20, 29, 30].map((instant) => standingAt([held, flagged], instant))).toEqual([
      'clear',
      'flagged',
      'flagged',
      'held',
      'held',
      'flagged',
      'flagged',
      'clear',
    ]);
  });
});

describe('revising what is kept', () => {
  const NOW_AT = 100;
  const revise = (kept: Finding[], expected: Finding[]) => reviseFindings(kept, expected, NOW_AT);

  it('keeps since when it is so, where it is still expected', () => {
    const kept = finding(40, OPEN_ENDED);
    expect(revise([kept], [finding(NOW_AT, OPEN_ENDED)])).toEqual([kept]);
    expect(revise([kept], [finding(NOW_AT, OPEN_ENDED)])[0]).toBe(kept);
    expect(revise([kept], [finding(NOW_AT, 200)])).toEqual([finding(40, 200)]);
  });

  it('ends what is expected no longer, and leaves what has ended as it was', () => {
    expect(revise([finding(10, 20), finding(40, OPEN_ENDED)], [])).toEqual([finding(10, 20), finding(40, NOW_AT)]);
  });

  it('forgets a future that is expected no longer, and takes the one that is', () => {
    expect(revise([finding(150, OPEN_ENDED)], [])).toEqual([]);
    expect(revise([finding(150, OPEN_ENDED)], [finding(170, 180)])).toEqual([finding(170, 180)]);
  });

  it('ends one and begins another where its level or its reason changes', () => {
    const flag = finding(NOW_AT, OPEN_ENDED, { level: 'flag' });
    expect(revise([finding(40, OPEN_ENDED)], [flag])).toEqual([finding(40, NOW_AT), flag]);
  });

  it('begins what is new with the change that brought it, however long its cause lies back', () => {
    const revised = revise([finding(10, 90)], [finding(50, OPEN_ENDED)]);
    expect(revised).toEqual([finding(10, 90), finding(100, OPEN_ENDED)]);
  });

  it('leaves no trace of one that began and ended at one instant', () => {
    expect(revise([finding(NOW_AT, OPEN_ENDED)], [])).toEqual([]);
  });

  it('agrees with what is expected from now on, whatever was kept', () => {
    const interval = fc.tuple(fc.integer({ min: 0, max: 200 }), fc.integer({ min: 1, max: 100 }));
    fc.assert(
      fc.property(interval, fc.option(interval), ([from, long], next) => {
        const kept = [finding(from, from + long)];
        const expected = next ? [finding(Math.max(next[0], NOW_AT), Math.max(next[0], NOW_AT) + next[1])] : [];
        const revised = revise(kept, expected);
        for (let instant = NOW_AT; instant < 320; instant++)
          expect(standingAt(revised, instant)).toBe(standingAt(expected, instant));
        for (let instant = 0; instant < NOW_AT; instant++)
          expect(standingAt(revised, instant)).toBe(standingAt(kept, instant));
      }),
    );
  });
});

describe('periods', () => {
  const of = (from: number, to: number): Period => ({ from, to });

  it('begin now, or at the instant at which the test begins to hold', () => {
    const [later, last] = [NOW + 3 * DAY, NOW + 5 * DAY];
    const instants = [NOW, later, last];
    expect(periodsWhere(instants, (at) => at < later)).toEqual([of(NOW, later)]);
    expect(periodsWhere(instants, (at) => at === later)).toEqual([of(later, last)]);
    expect(periodsWhere(instants, () => true)).toEqual([of(NOW, OPEN_ENDED)]);
    expect(periodsWhere(instants, () => false)).toEqual([]);
  });

  it('joined cover the same instants, and neither overlap nor touch', () => {
    const period = fc
      .tuple(fc.integer({ min: 0, max: 60 }), fc.integer({ min: 1, max: 20 }))
      .map(([from, long]) => of(from, from + long));
    fc.assert(
      fc.property(fc.array(period, { maxLength: 6 }), fc.integer({ min: 0, max: 90 }), (periods, end) => {
        const joined = joinPeriods(periods);
        const covers = (list: readonly Period[], at_: number) => list.some(({ from, to }) => from <= at_ && at_ < to);
        for (let instant = 0; instant <= 90; instant++) {
          expect(covers(joined, instant)).toBe(covers(periods, instant));
          expect(covers(cutPeriods(periods, end), instant)).toBe(instant < end && covers(periods, instant));
        }
        joined.slice(1).forEach(({ from }, place) => {
          expect(from).toBeGreaterThan(joined[place]?.to ?? 0);
        });
      }),
    );
  });
});

describe('what a deal owes (S15)', () => {
  const atMove = (id: string, field: string): Requirement => ({ ...needs(id, field), binds: 'at_move' });
  const item = { id: 'tick', text: 'Called', need: 'must', level: 'hold', afterReturn: 'keep' } as const;
  const document = documentOf([
    stage('a', { enter: [needs('a1', 'area')], leave: [needs('a2', 'crop')], checklist: [item] }),
    stage('b', { enter: [needs('b1', 'notes'), atMove('b2', 'cost')], leave: [needs('b3', 'survey')] }),
    stage('c', { enter: [needs('c1', 'paid')] }),
  ]);
  const setting = settingOf(document);
  const owed = (deal: Parameters<typeof owedItems>[0]) =>
    owedItems(deal, document).map(({ item: { id, level }, origin }) => `${id} ${level} ${origin}`);
  const filled = must(
    tickItem(
      dealIn(setting, { area: 1, crop: 'herbs', notes: 'x', cost: { minor: 1, currency: 'GBP' }, paid: true }),
      setting,
      'tick',
      'ticked',
      at(NOW),
    ),
  ).deal;
  const go = (deal: typeof filled, to: string, text: string | null = null) =>
    must(
      moveDeal(
        deal,
        setting,
        { target: { to: 'stage', stage: to as StageId }, mode: 'ask', text, reason: null, followUp: null },
        at(NOW),
      ),
    ).change.deal;

  it('is what its first stage asks to enter, and nothing of the next', () => {
    expect(owed(filled)).toEqual(['a1 hold owed']);
  });

  it('grows by what must stay so, of the stage that was left forward and of the one entered', () => {
    expect(owed(go(filled, 'b'))).toEqual(['a1 hold owed', 'a2 hold owed', 'tick hold owed', 'b1 hold owed']);
  });

  it('of a flagged skip is what lay between and was open, at flag level', () => {
    const skipped = go(filled, 'c');
    expect(owed(skipped)).toEqual(['a1 hold owed', 'a2 hold owed', 'tick hold owed', 'c1 hold owed', 'b3 flag entry']);
  });

  it('of a stage that was left back is not what it asks before leaving, nor of one it is back in', () => {
    const back = go(go(filled, 'b'), 'a', 'Too early');
    expect(owed(back)).toEqual(['a1 hold owed', 'b1 hold owed']);
    expect(owed(go(back, 'b'))).toEqual(['a1 hold owed', 'a2 hold owed', 'tick hold owed', 'b1 hold owed']);
  });
});

describe('a finding in words', () => {
  const document = documentOf([
    stage('a', { name: 'Survey', idleDays: 1, enter: [needs('r', 'crop')] }),
    stage('b', { name: 'Design' }),
    stage('c', { name: 'Proposal' }),
  ]);
  const since = NOW - 30 * DAY;
  const rule = { level: 'flag', since } as const;
  const setting = settingOf(document, {
    houseRules: { ...NO_HOUSE_RULES, past_target: rule, idle: rule, close_date_past: rule, no_next_action: rule },
  });
  const deal = dealIn(setting, { close_date: '2026-11-01' }, at(since));
  const words = (kind: Finding['kind'], tested = deal) => {
    const found = tested.findings.find((one) => one.kind === kind && standsAt(one, NOW));
    if (!found) throw new Error(`No finding ${kind}`);
    const { says, actual } = describeFinding(found, tested, setting, NOW, () => undefined);
    return `${says.map(({ text }) => text).join('')} | ${actual}`;
  };

  it.each<[Finding['kind'], string]>([
    ['field', 'Crop is filled | not filled'],
    ['past_target', 'Move on by 4 Nov 2026 | still there'],
    ['idle', 'Something happens at least every day | nothing yet'],
    ['close_date_past', 'Close date is not past | 1 Nov 2026'],
    ['no_next_action', 'Next action is filled | not filled'],
  ])('%s: %s', (kind, expected) => {
    expect(words(kind)).toBe(expected);
  });

  it('tells how a deal came where it is', () => {
    const request = { mode: 'ask', text: 'Why', reason: null, followUp: null } as const;
    const skipping = must(editDeal(deal, setting, [{ field: 'crop', saw: null, value: null }], at(since))).deal;
    const forced = must(
      moveDeal(
        skipping,
        settingOf(documentOf([stage('a'), stage('b', { enter: [needs('n', 'notes')] })])),
        {
          ...request,
          mode: 'force',
          target: { to: 'stage', stage: 'b' as StageId },
        },
        at(NOW),
      ),
    ).change.deal;
    const entry = forced.findings.find(({ kind }) => kind === 'forced');
    expect(entry && describeFinding(entry, forced, setting, NOW, () => undefined).says[0]?.text).toBe('Forced move');
    const back = must(
      moveDeal(
        must(moveDeal(deal, setting, { ...request, target: { to: 'stage', stage: 'b' as StageId } }, at(NOW - DAY)))
          .change.deal,
        setting,
        { ...request, target: { to: 'stage', stage: 'a' as StageId } },
        at(NOW),
      ),
    ).change.deal;
    expect(words('returned', back)).toBe('Came back from Design | null');
  });

  it('says so where the process no longer has the requirement', () => {
    const gone = finding(0, OPEN_ENDED, { requirement: 'gone' });
    expect(describeFinding(gone, deal, setting, NOW, () => undefined).says[0]?.text).toMatch(/no longer has/);
  });
});
