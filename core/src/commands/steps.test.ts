import { describe, expect, it } from 'vitest';
import { personActor } from '../deals/actor.ts';
import type { Deal } from '../deals/deal.ts';
import { standsAt } from '../deals/finding.ts';
import { runsAtHand } from '../deals/parts/runs.ts';
import { presentVisit } from '../deals/parts/visits.ts';
import type { Setting } from '../deals/setting.ts';
import { stepPerson } from '../deals/stepPerson.ts';
import type { StageId } from '../ids.ts';
import type { Requirement } from '../requirements/kinds.ts';
import { at, DAY, dealIn, documentOf, must, NOW, needs, settingOf, stage } from '../testing/builders.ts';
import { guided, result } from '../testing/steps.ts';
import { adoptVersion } from './adoptVersion.ts';
import { passStep, putOff } from './changeRun.ts';
import { moveDeal } from './move.ts';
import { canTakeBack, takeBack } from './takeBack.ts';
import { takeResult } from './takeResult.ts';
import { canTakeResultBack, takeResultBack } from './takeResultBack.ts';

const MINUTE = 60_000;
const book = guided('book', {
  due: { days: 3, counting: 'working', after: 'arrival' },
  captures: [{ field: 'survey', need: 'must' }],
  results: [
    result('booked'),
    result('unanswered', { to: 'step', step: 'book' }, { captures: 'not_asked' }),
    result('unwanted', { to: 'outcome', outcome: 'lost', reason: null }, { captures: 'not_asked' }),
  ],
});
const walk = guided('walk', {
  due: { days: 2, counting: 'calendar', after: 'step_before' },
  results: [result('sound'), result('poor', { to: 'stage', stage: 'a' as StageId })],
  afterReturn: 'again',
});
const check = guided('check', { who: { by: 'bringer' }, results: [result('passed', { to: 'move_on' })] });
const finished: Requirement = { id: 'f', level: 'flag', binds: 'at_move', kind: 'steps', of: 'b' };
const setting = settingOf(
  documentOf([
    stage('a'),
    stage('b', { steps: [book, walk, check], leave: [finished] }),
    stage('c', { enter: [needs('area', 'area')] }),
    stage('d'),
  ]),
);

const atHand = (deal: Deal): readonly string[] =>
  runsAtHand(deal, setting.document).map(({ step, owed }) => (owed === 'yes' ? `owed ${step}` : step));
const go = (
  deal: Deal,
  to: string,
  when: number,
  how: Partial<{ text: string; by: string; setting: Setting }> = {},
): Deal =>
  must(
    moveDeal(
      deal,
      how.setting ?? setting,
      {
        target: { to: 'stage', stage: to as StageId },
        mode: 'force',
        text: how.text ?? 'why',
        reason: null,
        followUp: null,
      },
      at(when, how.by),
    ),
  ).change.deal;
const end = (deal: Deal, name: string, when: number, values: Readonly<Record<string, string | number>> = {}) => {
  const [run] = runsAtHand(deal, setting.document);
  const captures = Object.entries(values).map(([field, value]) => ({ field, saw: deal.values[field] ?? null, value }));
  const asked = { run: run?.seq ?? 0, result: name, captures, text: 'why', reason: null, followUp: null };
  return takeResult(deal, setting, asked, at(when));
};
const ended = (deal: Deal, name: string, when: number, values = {}): Deal =>
  must(end(deal, name, when, values)).change.deal;
const inB = (): Deal => go(dealIn(setting, { area: 5 }), 'b', NOW, { by: 'oskar' });
const manager = { id: personActor('tomas'), rank: 'manager' } as const;

describe('the steps of a stage', () => {
  it('begin as the deal arrives, one at a time, and lead on by their results', () => {
    const arrived = inB();
    expect(atHand(arrived)).toEqual(['book']);
    const booked = ended(arrived, 'booked', NOW + DAY, { survey: '2026-12-01' });
    expect(booked.values.survey).toBe('2026-12-01');
    expect(atHand(booked)).toEqual(['walk']);
    expect(atHand(ended(booked, 'sound', NOW + 2 * DAY))).toEqual(['check']);
  });

  it('ask their must fields, unless the result asks none; then the step is done again as a run of its own', () => {
    const arrived = inB();
    expect(end(arrived, 'booked', NOW)).toEqual({ ok: false, error: { code: 'captures_missing', fields: ['survey'] } });
    const again = ended(arrived, 'unanswered', NOW + DAY);
    expect(atHand(again)).toEqual(['book']);
    expect(again.runs.map(({ step, end: how }) => [step, how?.result ?? null])).toEqual([
      ['book', 'unanswered'],
      ['book', null],
    ]);
  });

  it('are refused where they are not at hand any more, and where there is no such result', () => {
    const arrived = inB();
    const booked = ended(arrived, 'booked', NOW, { survey: '2026-12-01' });
    const [old] = arrived.runs;
    const asked = { run: old?.seq ?? 0, captures: [], text: null, reason: null, followUp: null };
    expect(takeResult(booked, setting, { ...asked, result: 'booked' }, at(NOW))).toMatchObject({
      error: { code: 'not_at_hand' },
    });
    expect(takeResult(arrived, setting, { ...asked, result: 'gone' }, at(NOW))).toMatchObject({
      error: { code: 'no_such_result' },
    });
  });

  it('tell the fields that were filled as filled in the step, and the result, in the journal', () => {
    const { change } = must(end(inB(), 'booked', NOW + DAY, { survey: '2026-12-01' }));
    const bodies = change.records.flatMap((record) => (record.kind === 'journal' ? [record.entry.body] : []));
    expect(bodies).toMatchObject([
      { kind: 'edited', step: { run: 1, name: 'book' } },
      { kind: 'step_ended', run: 1, name: 'book', resultName: 'booked' },
    ]);
    expect(change.deal.revision).toBe(inB().revision + 1);
  });
});

describe('due days (S51)', () => {
  // WORKDAY of OpenDocument 1.2, part 2, 6.10.23: three working days after Tuesday 24 November 2026 are Friday the 27th.
  it('count from arrival in the calendar, or from the day on which the step before ended', () => {
    const arrived = inB();
    expect(arrived.runs[0]).toMatchObject({ begunDay: '2026-11-24', dueDay: '2026-11-27' });
    const booked = ended(arrived, 'booked', NOW + 6 * DAY, { survey: '2026-12-01' });
    expect(booked.runs[1]).toMatchObject({ begunDay: '2026-11-30', dueDay: '2026-12-02' });
  });

  it('count from arrival for a second try as well, and anew after a return', () => {
    const again = ended(inB(), 'unanswered', NOW + 3 * DAY);
    expect(again.runs[1]?.dueDay).toBe('2026-11-27');
    const back = go(go(again, 'a', NOW + 6 * DAY), 'b', NOW + 7 * DAY);
    expect(back.runs.at(-1)).toMatchObject({ begunDay: '2026-12-01', dueDay: '2026-12-04' });
  });

  it('are put off with a reason, never into the past, and keep with whoever the step is passed to', () => {
    const arrived = inB();
    const [run] = arrived.runs;
    const seq = run?.seq ?? 0;
    expect(putOff(arrived, setting, seq, { day: '2026-12-09', text: ' ' }, at(NOW))).toMatchObject({ ok: false });
    expect(putOff(arrived, setting, seq, { day: '2026-11-23', text: 'Ill' }, at(NOW))).toMatchObject({
      error: { code: 'in_the_past' },
    });
    const later = must(putOff(arrived, setting, seq, { day: '2026-12-09', text: 'Ill' }, at(NOW)));
    expect(later.deal.runs[0]?.dueDay).toBe('2026-12-09');
    expect(later.deal.revision).toBe(arrived.revision);
    const passed = must(passStep(later.deal, setting, seq, 'maud', at(NOW))).deal;
    expect(passed.runs[0]).toMatchObject({ dueDay: '2026-12-09', assignee: 'maud' });
    expect(must(passStep(passed, setting, seq, 'maud', at(NOW))).records).toEqual([]);
  });
});

describe('who does a step (S52)', () => {
  it('is the owner, whoever brought the deal here, or whom it was passed to', () => {
    const arrived = inB();
    const [run] = arrived.runs;
    if (!run) throw new Error('No run');
    expect(stepPerson(arrived, run, book)).toBe('priya');
    expect(stepPerson(arrived, run, check)).toBe('oskar');
    expect(stepPerson(arrived, run, { who: { by: 'role', role: 'manager' } })).toBeNull();
    expect(stepPerson(arrived, { ...run, assignee: 'maud' }, book)).toBe('maud');
  });
});

describe('moves and steps', () => {
  const done = (): Deal => ended(ended(inB(), 'booked', NOW, { survey: '2026-12-01' }), 'sound', NOW);

  it('a result moves the deal on, in the same change, and both are taken back together (S54)', () => {
    const { change, move } = must(end(done(), 'passed', NOW + DAY));
    expect(move?.result).toBe('moved');
    expect(presentVisit(change.deal).stage).toBe('c');
    const taken = must(canTakeResultBack(change.deal, setting, 3, manager, NOW + DAY));
    const back = takeResultBack(change.deal, setting, taken, at(NOW + DAY + MINUTE, 'tomas'), 'No').deal;
    expect(presentVisit(back).stage).toBe('b');
    expect(atHand(back)).toEqual(['check']);
  });

  it('a result whose move is held stays, and the move is tried again by a person (S49)', () => {
    const empty = { ...done(), values: { ...done().values, area: null } };
    const { change, move } = must(end(empty, 'passed', NOW + DAY));
    expect(move?.result).toBe('held');
    expect(presentVisit(change.deal).stage).toBe('b');
    expect(atHand(change.deal)).toEqual([]);
    expect(change.deal.attempt?.target).toBe('stage:c');
    expect(change.deal.runs.at(-1)?.end).toMatchObject({ result: 'passed', thread: 'finished', moveSeq: null });
  });

  it('leaving forward leaves a step undone, which its requirement finds; going back withdraws it (S48)', () => {
    const left = go(inB(), 'c', NOW + DAY);
    expect(left.runs[0]?.end).toMatchObject({ how: 'left', thread: 'broken_off' });
    expect(left.findings.filter((finding) => standsAt(finding, NOW + DAY)).map(({ kind }) => kind)).toContain('steps');
    expect(go(inB(), 'a', NOW + DAY).runs[0]?.end).toMatchObject({ how: 'withdrawn' });
  });

  it('taking a move back has the step at hand again, and what it began never was', () => {
    const left = go(inB(), 'c', NOW + DAY);
    const step = must(canTakeBack(left, setting, manager, NOW + DAY));
    const back = takeBack(left, setting, step, at(NOW + DAY + MINUTE), 'No').deal;
    expect(atHand(back)).toEqual(['book']);
    const gone = go(dealIn(setting), 'b', NOW);
    const first = must(canTakeBack(gone, setting, manager, NOW));
    const never = takeBack(gone, setting, first, at(NOW + MINUTE), 'No').deal;
    expect(never.runs).toMatchObject([{ takenBack: 'yes' }]);
    expect(atHand(never)).toEqual([]);
  });

  it('steps of a skipped stage are owed, worked first, and route only within it (S8, S48)', () => {
    const skipped = go(dealIn(setting), 'c', NOW);
    expect(atHand(skipped)).toEqual(['owed book']);
    expect(atHand(go(skipped, 'd', NOW + DAY))).toEqual(['owed book']);
    const walked = ended(ended(skipped, 'booked', NOW, { survey: '2026-12-01' }), 'sound', NOW);
    const { change, move } = must(end(walked, 'passed', NOW));
    expect(move).toBeNull();
    expect(presentVisit(change.deal).stage).toBe('c');
    expect(atHand(change.deal)).toEqual([]);
    expect(atHand(go(skipped, 'a', NOW + DAY))).toEqual([]);
  });

  it('results of an earlier stay carry over, but for steps that are done again after a return (S7)', () => {
    const back = go(go(done(), 'a', NOW + DAY), 'b', NOW + 2 * DAY);
    expect(atHand(back)).toEqual(['walk']);
    const carried = back.runs.filter(({ visitSeq }) => visitSeq === presentVisit(back).seq);
    expect(carried[0]?.end).toMatchObject({ how: 'carried', result: 'booked' });
  });

  it('a result is taken back by its maker in ten minutes, by a manager later, and not once what it led to is done', () => {
    const booked = ended(inB(), 'booked', NOW, { survey: '2026-12-01' });
    const maker = { id: personActor('priya'), rank: 'maker' } as const;
    const taken = must(canTakeResultBack(booked, setting, 1, maker, NOW + 10 * MINUTE));
    const back = takeResultBack(booked, setting, taken, at(NOW + MINUTE), 'No').deal;
    expect(atHand(back)).toEqual(['book']);
    expect(canTakeResultBack(booked, setting, 1, maker, NOW + 11 * MINUTE)).toMatchObject({
      error: { code: 'too_late' },
    });
    expect(canTakeResultBack(booked, setting, 1, manager, NOW + DAY).ok).toBe(true);
    const other = { id: personActor('oskar'), rank: 'maker' } as const;
    expect(canTakeResultBack(booked, setting, 1, other, NOW)).toMatchObject({ error: { code: 'not_yours' } });
    const on = ended(booked, 'sound', NOW);
    expect(canTakeResultBack(on, setting, 1, manager, NOW)).toMatchObject({ error: { code: 'gone_on' } });
  });
});

describe('a newer version (S55)', () => {
  const versionOf = (steps: readonly ReturnType<typeof guided>[]): Setting => ({
    ...settingOf(documentOf([stage('a'), stage('b', { steps }), stage('c')])),
    version: 'v2' as Setting['version'],
  });
  const adopted = (deal: Deal, to: Setting, from = setting): Deal =>
    must(adoptVersion(deal, { from, to, transfers: {}, graceUntil: NOW }, at(NOW + DAY, 'maren'))).deal;

  it('keeps a step at hand, with its day, where it still is', () => {
    const kept = adopted(inB(), versionOf([walk, { ...book, due: null }]));
    expect(kept.runs).toEqual(inB().runs);
  });

  it('withdraws one that is gone, and goes to the next that is left, or the steps are finished', () => {
    const onward = adopted(inB(), versionOf([check]));
    expect(onward.runs).toMatchObject([{ end: { how: 'withdrawn', thread: 'goes_on' } }, { step: 'check', end: null }]);
    const over = adopted(inB(), versionOf([]));
    expect(over.runs).toMatchObject([{ end: { how: 'withdrawn', thread: 'finished' } }]);
  });

  it('begins the steps of a stage that had none, due from that day', () => {
    const bare = versionOf([]);
    const there = go(dealIn(bare), 'b', NOW, { setting: bare });
    const begun = adopted(there, { ...versionOf([book]), version: 'v3' as Setting['version'] }, bare);
    expect(begun.runs).toMatchObject([{ step: 'book', begunDay: '2026-11-25', dueDay: '2026-11-30' }]);
  });
});
