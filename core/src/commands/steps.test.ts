import { describe, expect, it } from 'vitest';
import { type Actor, actor, personActor } from '../deals/actor.ts';
import type { Deal } from '../deals/deal.ts';
import { standsAt } from '../deals/finding.ts';
import { runsAtHand } from '../deals/parts/runs.ts';
import { presentVisit } from '../deals/parts/visits.ts';
import type { Setting } from '../deals/setting.ts';
import { stepPerson } from '../deals/stepPerson.ts';
import type { StageId } from '../ids.ts';
import { NO_HOUSE_RULES } from '../processes/houseRules.ts';
import type { Requirement } from '../requirements/kinds.ts';
import { at, DAY, dealIn, documentOf, must, NOW, needs, settingOf, stage } from '../testing/builders.ts';
import { guided, result } from '../testing/steps.ts';
import { startOfDay } from '../time/day.ts';
import { adoptVersion } from './adoptVersion.ts';
import { passStep, putOff } from './changeRun.ts';
import { goOnByItself } from './goOnByItself.ts';
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
    const falls = (step: Parameters<typeof stepPerson>[2], of = run, deal = arrived) =>
      stepPerson(deal, of, step, (id) => (id === 'file' ? 'maren' : null));
    expect(falls(book)).toBe('priya');
    expect(falls(check)).toBe('oskar');
    expect(falls({ who: { by: 'role', role: 'manager' } })).toBeNull();
    expect(falls(book, { ...run, assignee: 'maud' })).toBe('maud');
    const by = (who: Actor) => ({ ...arrived, path: arrived.path.map((one) => ({ ...one, by: who })) });
    expect(falls(check, run, by(actor('import', 'file')))).toBe('maren');
    expect(falls(check, run, by(actor('process', 'p')))).toBe('priya');
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

describe('actions of a result', () => {
  const acting = (id: string, leads: Parameters<typeof result>[1]) =>
    result(id, leads, {
      actions: [
        { do: 'set_field', field: 'crop', set: { to: 'value', value: 'herbs' } },
        { do: 'set_field', field: 'survey', set: { to: 'today' } },
        { do: 'set_field', field: 'notes', set: { to: 'empty' } },
        { do: 'tick', item: 'seen' },
        { do: 'note', text: 'Went there' },
      ],
    });
  const seen = { id: 'seen', text: 'Seen', need: 'must', level: 'hold', afterReturn: 'keep' } as const;
  const walkThere = guided('go', { results: [acting('gone', { to: 'move_on' }), acting('stay', { to: 'finish' })] });
  const around = settingOf(
    documentOf([stage('a', { steps: [walkThere], checklist: [seen] }), stage('b', { enter: [needs('crop', 'crop')] })]),
  );
  const begun = dealIn(around, { notes: 'old', crop: 'tomatoes' });
  const take = (deal: Deal, name: string, when: number) =>
    must(
      takeResult(
        deal,
        around,
        { run: 1, result: name, captures: [], text: null, reason: null, followUp: null },
        at(when),
      ),
    );

  it('are carried out in order, before the gate of its move is asked, as one change', () => {
    const { change, move } = take({ ...begun, values: { ...begun.values, crop: null } }, 'gone', NOW + DAY);
    expect(move?.result).toBe('moved');
    expect(change.deal.values).toMatchObject({ crop: 'herbs', survey: '2026-11-25', notes: null });
    expect(change.deal.revision).toBe(begun.revision + 1);
    const kinds = change.records.flatMap((record) => (record.kind === 'journal' ? [record.entry.body.kind] : []));
    expect(kinds).toEqual(['edited', 'edited', 'edited', 'ticked', 'step_noted', 'step_ended', 'moved']);
    expect(change.records.some(({ kind }) => kind === 'activity')).toBe(false);
  });

  it('are undone with it where what they set still stands; what was changed since is told, and a note stays (S54)', () => {
    const { deal } = take(begun, 'stay', NOW).change;
    const changed = { ...deal, values: { ...deal.values, survey: '2026-12-24' } };
    const taken = must(canTakeResultBack(changed, around, 1, manager, NOW));
    const { deal: back, records } = takeResultBack(changed, around, taken, at(NOW + MINUTE), 'No');
    expect(back.values).toMatchObject({ crop: 'tomatoes', survey: '2026-12-24', notes: 'old' });
    expect(back.ticks.every(({ untickedAt }) => untickedAt !== null)).toBe(true);
    expect(records.at(-1)).toMatchObject({
      entry: { body: { kind: 'result_taken_back', kept: ['survey'], notes: 'stay' } },
    });
  });

  it('that cannot be carried out any more keep the result from being taken, with nothing half done', () => {
    const without = { ...around, catalogue: new Map([...around.catalogue].filter(([id]) => id !== 'survey')) };
    const asked = { run: 1, result: 'stay', captures: [], text: null, reason: null, followUp: null };
    expect(takeResult(begun, without, asked, at(NOW))).toEqual({
      ok: false,
      error: { code: 'action', name: 'survey' },
    });
  });
});

describe('a step that goes on by itself (S53)', () => {
  const waits = guided('wait', {
    byItself: { days: 5, result: 'silent' },
    results: [
      result('spoke'),
      result('silent', { to: 'stage', stage: 'a' as StageId }),
      result('again', { to: 'step', step: 'wait' }),
    ],
  });
  const around = settingOf(documentOf([stage('a'), stage('b', { steps: [waits] }), stage('c')]));
  const process = (when: number) => ({ ...at(when), by: actor('process', 'p') });
  const there = (): Deal => go(dealIn(around), 'b', NOW, { setting: around });

  it('takes its result after so many days, once, and is told as done by the process', () => {
    const early = goOnByItself(there(), around, process(NOW + 5 * DAY - 1));
    expect(early.deal).toEqual(there());
    const { deal, records } = goOnByItself(there(), around, process(NOW + 5 * DAY));
    expect(presentVisit(deal).stage).toBe('a');
    expect(deal.runs[0]?.end).toMatchObject({ result: 'silent', by: 'process:p' });
    expect(records.length).toBeGreaterThan(2);
    expect(goOnByItself(deal, around, process(NOW + 99 * DAY)).records).toEqual([]);
  });

  it('does nothing once it was ended, and begins its wait anew where it is done again', () => {
    const asked = { run: 1, result: 'again', captures: [], text: null, reason: null, followUp: null };
    const again = must(takeResult(there(), around, asked, at(NOW + 4 * DAY))).change.deal;
    expect(goOnByItself(again, around, process(NOW + 8 * DAY)).deal).toBe(again);
    expect(presentVisit(goOnByItself(again, around, process(NOW + 9 * DAY)).deal).stage).toBe('a');
  });

  it('is told in the journal where it cannot, and then waits for a person', () => {
    const asking = settingOf(
      documentOf([
        stage('a'),
        stage('b', { steps: [{ ...waits, captures: [{ field: 'area', need: 'must' }] }] }),
        stage('c'),
      ]),
    );
    const { deal, records } = goOnByItself(there(), asking, process(NOW + 6 * DAY));
    expect(deal.runs[0]).toMatchObject({ end: null, goesOn: { at: null } });
    expect(records).toMatchObject([
      { entry: { body: { kind: 'step_stuck', why: 'Glazed area would have to be filled.' } } },
    ]);
    expect(goOnByItself(deal, asking, process(NOW + 99 * DAY)).deal).toBe(deal);
  });

  it('waits a day at least from a publish that lets it go on', () => {
    const bare = settingOf(documentOf([stage('a'), stage('b', { steps: [{ ...waits, byItself: null }] }), stage('c')]));
    const deal = go(dealIn(bare), 'b', NOW, { setting: bare });
    const to = { ...around, version: 'v2' as Setting['version'] };
    const when = NOW + 30 * DAY;
    const adopted = must(adoptVersion(deal, { from: bare, to, transfers: {}, graceUntil: when }, at(when))).deal;
    expect(adopted.runs[0]?.goesOn?.at).toBe(when + DAY);
  });
});

describe('a late step (S18, S51)', () => {
  const due = guided('due', { due: { days: 2, counting: 'calendar', after: 'arrival' } });
  const around = settingOf(documentOf([stage('a', { steps: [due] })]), {
    houseRules: { ...NO_HOUSE_RULES, step_late: { level: 'hold', since: 0 } },
  });
  it('is a finding of its own from the day after its due day until it is done', () => {
    const deal = dealIn(around);
    const late = (one: Deal, when: number) =>
      one.findings.filter((finding) => finding.kind === 'step_late' && standsAt(finding, when));
    expect(late(deal, NOW + 2 * DAY)).toEqual([]);
    expect(late(deal, startOfDay('2026-11-27', 'Europe/London'))).toMatchObject([
      { key: 'house:step_late:1', level: 'hold' },
    ]);
    const asked = { run: 1, result: 'done', captures: [], text: null, reason: null, followUp: null };
    const done = must(takeResult(deal, around, asked, at(NOW + 5 * DAY))).change.deal;
    expect(late(done, NOW + 5 * DAY)).toEqual([]);
    expect(late(done, NOW + 4 * DAY)).toHaveLength(1);
    const later = must(putOff(deal, around, 1, { day: '2026-12-03', text: 'Ill' }, at(NOW + 5 * DAY))).deal;
    expect(late(later, NOW + 6 * DAY)).toEqual([]);
    expect(late(later, startOfDay('2026-12-04', 'Europe/London'))).toHaveLength(1);
  });
});
