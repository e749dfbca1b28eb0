import { describe, expect, it } from 'vitest';
import { OPEN_ENDED, standingAt } from '../deals/finding.ts';
import type { DealState } from '../deals/parts/states.ts';
import { presentVisit } from '../deals/parts/visits.ts';
import type { DealId, ProcessId, StageId } from '../ids.ts';
import { at, DAY, dealIn, documentOf, must, NOW, needs, settingOf, stage } from '../testing/builders.ts';
import { createDeal, type ImportedHistory } from './create.ts';
import { editDeal, type FieldEdit } from './edit.ts';
import { voidDeal } from './voidDeal.ts';

const document = documentOf([
  stage('a', { target: { days: 5, counting: 'working' }, enter: [needs('r', 'crop')] }),
  stage('b', { enter: [needs('s', 'area')] }),
]);
const setting = settingOf(document);
const imported = (history: Partial<ImportedHistory>, stageId = 'b') =>
  createDeal(
    {
      id: 'deal' as DealId,
      process: 'process' as ProcessId,
      externalId: 'X1',
      name: 'Imported',
      stage: stageId as StageId,
      values: { owner: 'priya', notes: '' },
      partyValues: {},
    },
    setting,
    at(NOW),
    { createdAt: NOW - 40 * DAY, enteredAt: NOW - 20 * DAY, lastActivityAt: null, ...history },
  );

describe('an imported deal', () => {
  it('stands in its stage since the day the file names, with the day by which it should move on', () => {
    const { deal } = imported({});
    expect(deal.createdAt).toBe(NOW - 40 * DAY);
    expect(presentVisit(deal)).toMatchObject({ stage: 'b', enteredDay: '2026-11-04', moveOnDay: '2026-11-14' });
  });

  it('counts its target in working days where the stage says so: five from Wednesday 4 November is the 11th', () => {
    expect(presentVisit(imported({}, 'a').deal).moveOnDay).toBe('2026-11-11');
  });

  it('is recorded as imported, its start at the instant it entered, all its facts kept', () => {
    const { records } = imported({});
    const move = records.flatMap((record) => (record.kind === 'move' ? [record.move] : []))[0];
    expect(move).toMatchObject({
      kind: 'start',
      to: 'b',
      day: '2026-11-04',
      owner: 'priya',
      verdict: { answer: 'holds', items: [{ id: 's', state: 'missing' }] },
      snapshot: { values: { owner: 'priya', notes: null } },
    });
    expect(records.flatMap((record) => (record.kind === 'journal' ? [record.entry.body.kind] : []))).toEqual([
      'imported',
    ]);
  });

  it('is refused by no gate: what is unmet is found from the moment of the import on', () => {
    const { deal } = imported({});
    expect(standingAt(deal.findings, NOW)).toBe('held');
    expect(standingAt(deal.findings, NOW - 1)).toBe('clear');
  });

  it('knows its last activity', () => {
    expect(imported({ lastActivityAt: NOW - DAY }).deal.lastActivityAt).toBe(NOW - DAY);
  });
});

describe('dated intervals (S22)', () => {
  const edit = (deal: ReturnType<typeof dealIn>, change: Omit<FieldEdit, 'saw'>, when: number) =>
    must(editDeal(deal, setting, [{ ...change, saw: deal.values[change.field] ?? null }], at(when))).deal;
  const of = (states: readonly DealState[], asked: 'owner' | 'value') =>
    states.map((state) => [state[asked], state.from, state.to]);

  it('tell who owned it and what it was worth, when', () => {
    const first = dealIn(setting, { value: { minor: 100, currency: 'GBP' } });
    const later = edit(
      edit(first, { field: 'owner', value: 'oskar' }, NOW + DAY),
      { field: 'owner', value: 'bea' },
      NOW + 2 * DAY,
    );
    expect(of(later.states, 'owner')).toEqual([
      ['priya', NOW, NOW + DAY],
      ['oskar', NOW + DAY, NOW + 2 * DAY],
      ['bea', NOW + 2 * DAY, OPEN_ENDED],
    ]);
    expect(of(later.states, 'value').map(([value]) => value)).toEqual([100, 100, 100]);
  });

  it('leave no empty interval where it changes twice at one instant', () => {
    const twice = edit(
      edit(dealIn(setting), { field: 'owner', value: 'oskar' }, NOW),
      { field: 'owner', value: 'bea' },
      NOW,
    );
    expect(of(twice.states, 'owner')).toEqual([['bea', NOW, OPEN_ENDED]]);
  });

  it('are the very same objects where nothing that is asked changes', () => {
    const deal = dealIn(setting);
    const noted = edit(deal, { field: 'notes', value: 'A word' }, NOW + DAY);
    expect(noted.states[0]).toBe(deal.states[0]);
    expect(noted.states).toHaveLength(1);
  });

  it('of an imported deal go back to the day on which it entered its stage', () => {
    const { states } = imported({}).deal;
    expect(states.map(({ from, to, standing, enteredDay }) => [from, to, standing, enteredDay])).toEqual([
      [NOW - 20 * DAY, NOW, 'clear', '2026-11-04'],
      [NOW, OPEN_ENDED, 'held', '2026-11-04'],
    ]);
  });

  it('of a voided deal say nothing else, for any day', () => {
    const { deal } = voidDeal(
      edit(dealIn(setting), { field: 'owner', value: 'bea' }, NOW + DAY),
      setting,
      at(NOW + 2 * DAY),
      'Twice',
    );
    expect(deal.states.map(({ status, to }) => [status, to])).toEqual([['voided', OPEN_ENDED]]);
  });
});

describe('editing', () => {
  const deal = dealIn(setting, { notes: 'first' });
  const codes = (edits: readonly FieldEdit[]) => {
    const edited = editDeal(deal, setting, edits, at(NOW));
    return edited.ok ? 'written' : edited.error.map(({ code }) => code);
  };

  it('writes nothing and raises no revision where nothing changes', () => {
    const same = must(editDeal(deal, setting, [{ field: 'notes', saw: 'first', value: 'first' }], at(NOW)));
    expect(same).toEqual({ deal, records: [] });
  });

  it('takes a value that someone else wrote already for written', () => {
    expect(codes([{ field: 'notes', saw: 'older', value: 'first' }])).toBe('written');
  });

  it('tells every edit that cannot be, and makes none of them', () => {
    expect(
      codes([
        { field: 'area', saw: null, value: 1 },
        { field: 'gone', saw: null, value: 1 },
        { field: 'credit', saw: null, value: true },
        { field: 'survey', saw: null, value: '2026-02-30' },
        { field: 'notes', saw: 'older', value: 'mine' },
      ]),
    ).toEqual(['no_such_field', 'no_such_field', 'bad_value', 'changed_meanwhile']);
    expect(deal.values.area).toBeUndefined();
  });

  it('counts how often the close date moved, setting it the first time not among them', () => {
    const set = (from: typeof deal, value: string) =>
      must(editDeal(from, setting, [{ field: 'close_date', saw: from.values.close_date ?? null, value }], at(NOW)))
        .deal;
    const once = set(deal, '2026-12-01');
    expect([once.closeDateMoves, set(set(once, '2026-12-08'), '2026-12-15').closeDateMoves]).toEqual([0, 2]);
  });
});

it('voiding ends every finding and keeps why', () => {
  const { deal, records } = voidDeal(dealIn(setting), setting, at(NOW + DAY), 'Entered twice');
  expect(deal.status).toMatchObject({ state: 'voided' });
  expect(standingAt(deal.findings, NOW + DAY)).toBe('clear');
  expect(standingAt(deal.findings, NOW)).toBe('held');
  expect(records).toMatchObject([{ kind: 'journal', entry: { body: { kind: 'voided' }, text: 'Entered twice' } }]);
});
