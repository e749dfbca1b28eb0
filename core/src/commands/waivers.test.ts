import { describe, expect, it } from 'vitest';
import type { Deal } from '../deals/deal.ts';
import { standingAt, standsAt } from '../deals/finding.ts';
import { waiversInForce } from '../deals/parts/waivers.ts';
import type { Setting } from '../deals/setting.ts';
import type { StageId, VersionId } from '../ids.ts';
import type { Requirement } from '../requirements/kinds.ts';
import { at, DAY, dealIn, documentOf, LOST, must, NOW, needs, settingOf, stage } from '../testing/builders.ts';
import { addDays } from '../time/day.ts';
import { adoptVersion } from './adoptVersion.ts';
import { editDeal } from './edit.ts';
import { moveDeal } from './move.ts';
import { takeBack } from './takeBack.ts';
import { askWaiver, decideWaiver, revokeWaiver, type WaiverRequest, withdrawWaiver } from './waivers.ts';

const AREA: Requirement = {
  id: 'area',
  level: 'hold',
  binds: 'at_move',
  kind: 'criterion',
  criterion: { kind: 'at_least', left: { of: 'field', field: 'area' }, right: { of: 'value', value: 200 } },
};
const documentWith = (...enter: readonly Requirement[]) =>
  documentOf([stage('a'), stage('b', { enter }), stage('c')], { returns: 'allow', skips: 'hold' });
const SETTING = settingOf(documentWith(needs('crop', 'crop'), AREA));
const TODAY = '2026-11-24';
const TO_B = { to: 'stage', stage: 'b' as StageId } as const;
const REQUEST: WaiverRequest = { target: TO_B, items: ['crop', 'area'], why: ' They sign today ', until: '2026-12-01' };

const move = (deal: Deal, to: string, when = NOW, setting = SETTING) =>
  must(
    moveDeal(
      deal,
      setting,
      { target: { to: 'stage', stage: to as StageId }, mode: 'ask', text: 'why', reason: null, followUp: null },
      at(when),
    ),
  );
const refused = (setting = SETTING): Deal => move(dealIn(setting), 'b', NOW, setting).change.deal;
const asked = (more: Partial<WaiverRequest> = {}, setting = SETTING): Deal =>
  must(askWaiver(refused(setting), setting, { ...REQUEST, ...more }, at(NOW))).deal;
const grant = (deal: Deal, until = '2026-12-01', when = NOW, by = 'tomas', setting = SETTING) =>
  decideWaiver(deal, setting, 1, { how: 'granted', until, word: 'Once' }, at(when, by));
const granted = (until = '2026-12-01'): Deal => must(grant(asked(), until)).deal;
const code = (answer: { ok: true } | { ok: false; error: { code: string } }) => (answer.ok ? 'ok' : answer.error.code);
const found = (deal: Deal, when: number) =>
  deal.findings
    .filter((finding) => standsAt(finding, when))
    .map(({ kind, level }) => `${kind} ${level}`)
    .sort();
/** The first instant after the end of that local day, in London in winter. */
const after = (day: string): number => Date.parse(`${addDays(day, 1)}T00:00:00Z`);

describe('a waiver', () => {
  it('is asked for, granted for a shorter time, and lets the move pass with it recorded', () => {
    const deal = asked();
    expect(deal.waivers).toMatchObject([
      { seq: 1, request: 1, requirement: 'crop', why: 'They sign today', decision: null, verdict: { answer: 'holds' } },
      { seq: 2, request: 1, requirement: 'area' },
    ]);
    expect(standingAt(deal.findings, NOW)).toBe('held');
    const decided = must(grant(deal, '2026-11-26'));
    expect(decided.records).toMatchObject([
      { entry: { body: { kind: 'waiver_decided', how: 'granted', until: '2026-11-26' }, text: 'Once' } },
    ]);
    expect(standingAt(decided.deal.findings, NOW)).toBe('clear');
    expect(decided.deal.revision).toBe(deal.revision + 1);
    const { result, verdict, change } = move(decided.deal, 'b', NOW + DAY);
    expect([result, verdict.answer]).toEqual(['moved', 'passes']);
    expect(verdict.items.map(({ state }) => state)).toEqual(['waived', 'waived']);
    expect(change.deal.path.at(-1)?.waived).toEqual(['crop', 'area']);
    expect(change.records).toMatchObject([
      {
        move: {
          verdict: { items: [{ state: 'waived' }, { state: 'waived' }] },
          snapshot: { waived: ['crop', 'area'] },
        },
      },
      { entry: { body: { kind: 'moved', waived: ['crop', 'area'] } } },
    ]);
  });

  it('stands as a finding of how it entered until what was waived is met, and its end opens what it covered (S17, S25)', () => {
    const there = move(granted('2026-11-26'), 'b', NOW).change.deal;
    const end = after('2026-11-26');
    expect(found(there, NOW)).toEqual(['on_waiver flag']);
    expect(found(there, end - 1)).toEqual(['on_waiver flag']);
    // What must stay so holds again from that very instant; what was judged at the move alone does not.
    expect(found(there, end)).toEqual(['field hold', 'on_waiver flag']);
    const edits = [
      { field: 'crop', saw: null, value: 'herbs' },
      { field: 'area', saw: null, value: 300 },
    ];
    const met = must(editDeal(there, SETTING, edits, at(NOW + DAY))).deal;
    expect(found(met, NOW + DAY)).toEqual([]);
    expect(found(met, end)).toEqual([]);
  });

  it('is asked for once while it is open; what is new of it is another request', () => {
    const first = must(askWaiver(refused(), SETTING, { ...REQUEST, items: ['crop'] }, at(NOW))).deal;
    expect(must(askWaiver(first, SETTING, { ...REQUEST, items: ['crop'], why: 'Again' }, at(NOW))).deal).toBe(first);
    const both = must(askWaiver(first, SETTING, REQUEST, at(NOW + DAY))).deal;
    expect(both.waivers.map(({ request, requirement }) => [request, requirement])).toEqual([
      [1, 'crop'],
      [2, 'area'],
    ]);
  });

  it('is refused where it is wrong: no reason, past, too long, or not in the way', () => {
    const ask = (more: Partial<WaiverRequest>) => code(askWaiver(refused(), SETTING, { ...REQUEST, ...more }, at(NOW)));
    expect(ask({ why: ' ' })).toBe('text_needed');
    expect(ask({ items: [] })).toBe('nothing_asked');
    expect(ask({ until: '2026-11-23' })).toBe('in_the_past');
    expect(ask({ until: addDays(TODAY, 30) })).toBe('ok');
    expect(ask({ until: addDays(TODAY, 31) })).toBe('too_long');
    expect(ask({ items: ['gone'] })).toBe('not_holding');
    expect(ask({ target: { to: 'stage', stage: 'x' as StageId } })).toBe('move');
  });

  it('is granted by nobody who asked, never wider, and once (S61)', () => {
    expect(code(grant(asked(), '2026-12-01', NOW, 'priya'))).toBe('own');
    expect(code(grant(asked(), '2026-12-02'))).toBe('wider');
    expect(code(grant(asked(), '2026-11-23'))).toBe('in_the_past');
    expect(code(grant(granted()))).toBe('decided');
    expect(code(decideWaiver(asked(), SETTING, 9, { how: 'refused', word: 'No' }, at(NOW, 'tomas')))).toBe(
      'no_such_request',
    );
    expect(code(decideWaiver(asked(), SETTING, 1, { how: 'refused', word: ' ' }, at(NOW, 'tomas')))).toBe(
      'text_needed',
    );
    const no = must(decideWaiver(asked(), SETTING, 1, { how: 'refused', word: 'Not this one' }, at(NOW, 'tomas'))).deal;
    expect([no.waivers[0]?.decision?.how, standingAt(no.findings, NOW)]).toEqual(['refused', 'held']);
  });

  it('is withdrawn by who asked, and revoked by who granted, from then on', () => {
    expect(code(withdrawWaiver(asked(), SETTING, 1, at(NOW, 'tomas')))).toBe('not_yours');
    const gone = must(withdrawWaiver(asked(), SETTING, 1, at(NOW))).deal;
    expect(code(grant(gone))).toBe('decided');
    const there = move(granted(), 'b').change.deal;
    expect(code(revokeWaiver(there, SETTING, 1, 'No', at(NOW + DAY)))).toBe('not_yours');
    const revoked = must(revokeWaiver(there, SETTING, 1, 'They did not sign', at(NOW + DAY, 'tomas'))).deal;
    expect(found(revoked, NOW + DAY)).toEqual(['field hold', 'on_waiver flag']);
    expect(code(revokeWaiver(revoked, SETTING, 1, 'Again', at(NOW + DAY, 'tomas')))).toBe('not_in_force');
  });
});

describe('what happens to the deal meanwhile', () => {
  const overtaken = (deal: Deal, setting: Setting = SETTING) => grant(deal, '2026-12-01', NOW, 'tomas', setting);

  it('overtakes a request: the deal has moved or closed, or the requirement was published away (S61)', () => {
    const lost = must(
      moveDeal(asked(), SETTING, { target: LOST, mode: 'ask', text: null, reason: null, followUp: null }, at(NOW)),
    ).change.deal;
    expect(overtaken(lost)).toMatchObject({ error: { code: 'overtaken', by: 'closing' } });
    const edits = [
      { field: 'crop', saw: null, value: 'herbs' },
      { field: 'area', saw: null, value: 300 },
    ];
    const moved = move(must(editDeal(asked(), SETTING, edits, at(NOW))).deal, 'b').change.deal;
    expect(moved.waivers.map(({ decision }) => decision?.how)).toEqual(['lapsed', 'lapsed']);
    expect(overtaken(moved)).toMatchObject({ error: { code: 'overtaken', by: 'move' } });
    const to = { ...settingOf(documentWith(needs('crop', 'crop'))), version: 'v2' as VersionId };
    const plan = { from: SETTING, to, transfers: {}, graceUntil: NOW };
    const published = must(adoptVersion(asked(), plan, at(NOW + 1, 'maren'))).deal;
    expect(grant(published, '2026-12-01', NOW + 1, 'tomas', to)).toMatchObject({
      error: { code: 'overtaken', by: 'publish' },
    });
  });

  it('ends one in force: its requirement changes, not its words alone; the deal goes back, or closes', () => {
    const plan = (requirement: Requirement) => ({
      from: SETTING,
      to: { ...settingOf(documentWith(requirement, AREA)), version: 'v2' as VersionId },
      transfers: {},
      graceUntil: NOW,
    });
    const inForce = (requirement: Requirement) =>
      waiversInForce(must(adoptVersion(granted(), plan(requirement), at(NOW + 1, 'maren'))).deal, NOW + 1).map(
        (one) => one.requirement,
      );
    expect(inForce(needs('crop', 'crop', { message: 'Please' }))).toEqual(['crop', 'area']);
    expect(inForce(needs('crop', 'notes'))).toEqual(['area']);
    const there = move(granted(), 'b').change.deal;
    const back = move(there, 'a', NOW + DAY).change.deal;
    expect(waiversInForce(back, NOW + DAY)).toEqual([]);
    expect(move(back, 'b', NOW + DAY).result).toBe('held');
    const undone = takeBack(back, SETTING, back.path.at(-1) as never, at(NOW + DAY + 1), null).deal;
    expect(waiversInForce(undone, NOW + DAY + 1)).toHaveLength(2);
  });

  it('leaves it in force where it was not used: it covers until it ends, used or not', () => {
    const deal = granted('2026-11-26');
    expect(move(deal, 'b', after('2026-11-26') - 1).result).toBe('moved');
    expect(move(deal, 'b', after('2026-11-26')).result).toBe('held');
  });
});

it('lets a process that holds skips be skipped over (S8)', () => {
  const deal = must(
    askWaiver(dealIn(SETTING), SETTING, { ...REQUEST, target: { to: 'stage', stage: 'c' as StageId } }, at(NOW)),
  ).deal;
  const { result, change } = move(must(grant(deal)).deal, 'c');
  expect([result, found(change.deal, NOW)]).toEqual(['moved', ['on_waiver flag']]);
});
