import fc from 'fast-check';
import { expect, it } from 'vitest';
import { expectedFindings } from '../compliance/expectedFindings.ts';
import { actor, personActor } from '../deals/actor.ts';
import type { Deal } from '../deals/deal.ts';
import { standsAt } from '../deals/finding.ts';
import { runsAtHand, runsThatCount } from '../deals/parts/runs.ts';
import { tickedItems } from '../deals/parts/ticks.ts';
import { presentVisit } from '../deals/parts/visits.ts';
import type { Setting } from '../deals/setting.ts';
import { targetFromText } from '../gate/route.ts';
import type { StageId, VersionId } from '../ids.ts';
import { stageOf } from '../processes/document.ts';
import { NO_HOUSE_RULES } from '../processes/houseRules.ts';
import type { Requirement } from '../requirements/kinds.ts';
import { at, DAY, dealIn, documentOf, NOW, needs, published, settingOf, stage } from '../testing/builders.ts';
import { guided, result } from '../testing/steps.ts';
import { adoptVersion } from './adoptVersion.ts';
import { passStep, putOff } from './changeRun.ts';
import { editDeal } from './edit.ts';
import { goOnByItself } from './goOnByItself.ts';
import { moveDeal } from './move.ts';
import { reopenDeal } from './reopen.ts';
import { canTakeBack, takeBack } from './takeBack.ts';
import { takeResult } from './takeResult.ts';
import { canTakeResultBack, takeResultBack } from './takeResultBack.ts';
import { voidDeal } from './voidDeal.ts';

/*
 * Results, moves, returns, skips, takings back and publishes in any order: each stay has one step at hand at most, every run
 * lies within its stay or its debt, and what is kept is what judging afresh would say.
 */

const to = (id: string) => ({ to: 'stage', stage: id as StageId }) as const;
const asks = (id: string, level: 'hold' | 'flag', more: Partial<Requirement>): Requirement =>
  ({ id, level, binds: 'at_move', ...more }) as Requirement;
const lost = { to: 'outcome', outcome: 'lost', reason: null } as const;
const STEPS = [
  guided('one', {
    byItself: { days: 3, result: 'again' },
    results: [result('on'), result('again', { to: 'step', step: 'one' }), result('back', to('a'))],
  }),
  guided('two', {
    afterReturn: 'again',
    captures: [{ field: 'area', need: 'must' }],
    due: { days: 2, counting: 'working', after: 'arrival' },
    results: [result('on'), result('end', { to: 'finish' }), result('lost', lost, { captures: 'not_asked' })],
  }),
  guided('three', {
    results: [result('up', { to: 'move_on' }), result('far', to('d')), result('round', { to: 'step', step: 'one' })],
  }),
];
const version = (name: string, steps: typeof STEPS, more: Parameters<typeof documentOf>[1] = {}): Setting => ({
  ...settingOf(
    documentOf(
      [
        stage('a', { steps: [guided('first', { results: [result('up', { to: 'move_on' })] })] }),
        stage('b', {
          checklist: [{ id: 'tick', text: 't', need: 'optional', level: 'flag', afterReturn: 'again' }],
          steps,
          leave: [
            asks('f', 'flag', { kind: 'steps', of: 'b' }),
            asks('s', 'flag', { kind: 'step', step: 'two', results: ['end'] }),
          ],
        }),
        stage('c', { enter: [needs('crop', 'crop')], steps: [guided('last')] }),
        stage('d', { enter: [{ ...asks('g', 'hold', { kind: 'steps', of: 'c' }), binds: 'must_stay' }] }),
      ],
      more,
    ),
    { houseRules: { ...NO_HOUSE_RULES, step_late: { level: 'hold', since: 0 } } },
  ),
  version: name as VersionId,
});
const VERSIONS = [
  version('v1', STEPS),
  version('v2', STEPS.toReversed()),
  version('v3', STEPS.slice(2)),
  version('v4', []),
  version('v5', STEPS.slice(0, 2), { skips: 'hold' }),
];

interface Standing {
  readonly deal: Deal;
  readonly setting: Setting;
}
type Press = (standing: Standing, when: number) => Deal | null;
const TOMAS = { id: personActor('tomas'), rank: 'manager' } as const;
const among = <T>(list: readonly T[], pick: number): T | undefined => list[pick % Math.max(1, list.length)];

const press: fc.Arbitrary<Press> = fc.oneof(
  {
    weight: 5,
    arbitrary: fc.tuple(fc.nat(5), fc.nat(5), fc.constantFrom(null, 300)).map(
      ([which, how, area]): Press =>
        ({ deal, setting }, when) => {
          const run = among(runsAtHand(deal, setting.document), which);
          const step = run && stageOf(setting.document, run.stage)?.steps.find(({ id }) => id === run.step);
          const chosen = step && among(step.results, how);
          if (!run || !chosen) return null;
          const captures = area === null ? [] : [{ field: 'area', saw: deal.values.area ?? null, value: area }];
          const asked = { run: run.seq, result: chosen.id, captures, text: 'why', reason: null, followUp: null };
          const taken = takeResult(deal, setting, asked, at(when));
          return taken.ok ? taken.value.change.deal : null;
        },
    ),
  },
  {
    weight: 3,
    arbitrary: fc
      .tuple(
        fc.constantFrom('stage:a', 'stage:b', 'stage:c', 'stage:d', 'won', 'lost'),
        fc.constantFrom('ask' as const, 'force' as const),
      )
      .map(
        ([target, mode]): Press =>
          ({ deal, setting }, when) => {
            const asked = { target: targetFromText(target), mode, text: 'why', reason: null, followUp: null };
            const moved = moveDeal(deal, setting, asked, at(when));
            return moved.ok ? moved.value.change.deal : null;
          },
      ),
  },
  {
    weight: 2,
    arbitrary: fc.nat(9).map(
      (which): Press =>
        ({ deal, setting }, when) => {
          const run = among(
            runsThatCount(deal).filter(({ end }) => end?.how === 'result'),
            which,
          );
          const taken = run && canTakeResultBack(deal, setting, run.seq, TOMAS, when);
          return taken?.ok ? takeResultBack(deal, setting, taken.value, at(when), 'no').deal : null;
        },
    ),
  },
  {
    weight: 1,
    arbitrary: fc.constant<Press>(({ deal, setting }, when) => {
      const step = canTakeBack(deal, setting, TOMAS, when);
      return step.ok ? takeBack(deal, setting, step.value, at(when), null).deal : null;
    }),
  },
  {
    weight: 1,
    arbitrary: fc.constantFrom(null, 'herbs').map(
      (crop): Press =>
        ({ deal, setting }, when) => {
          const edited = editDeal(
            deal,
            setting,
            [{ field: 'crop', saw: deal.values.crop ?? null, value: crop }],
            at(when),
          );
          return edited.ok ? edited.value.deal : null;
        },
    ),
  },
  {
    weight: 1,
    arbitrary: fc.nat(3).map(
      (which): Press =>
        ({ deal, setting }, when) => {
          const run = among(runsAtHand(deal, setting.document), which);
          const later = run && putOff(deal, setting, run.seq, { day: '2027-02-01', text: 'why' }, at(when));
          const passed = run && later?.ok ? passStep(later.value.deal, setting, run.seq, 'maud', at(when)) : null;
          return passed?.ok ? passed.value.deal : null;
        },
    ),
  },
);
const reopening = fc.constant<Press>(({ deal, setting }, when) => {
  const reopened = reopenDeal(deal, setting, 'They called again', at(when));
  return reopened.ok ? reopened.value.deal : null;
});
const clock = fc.constant<Press>(
  ({ deal, setting }, when) => goOnByItself(deal, setting, { ...at(when), by: actor('process', 'p') }).deal,
);
const voiding = fc.constant<Press>(({ deal, setting }, when) =>
  deal.status.state === 'voided' ? null : voidDeal(deal, setting, at(when), 'test').deal,
);
const publish = fc.nat(VERSIONS.length - 1);
const script = fc.array(
  fc.tuple(
    fc.oneof(
      { weight: 27, arbitrary: press },
      { weight: 6, arbitrary: clock },
      { weight: 1, arbitrary: voiding },
      { weight: 3, arbitrary: reopening },
      { weight: 3, arbitrary: publish },
    ),
    fc.integer({ min: 0, max: 4 * DAY }),
  ),
  { maxLength: 24 },
);

function play(
  steps: readonly (readonly [Press | number, number])[],
  check: (standing: Standing, when: number) => void,
): void {
  let standing: Standing = { setting: VERSIONS[0] as Setting, deal: dealIn(VERSIONS[0] as Setting) };
  let when = NOW;
  for (const [what, pause] of steps) {
    when += pause + 1;
    standing =
      typeof what === 'number'
        ? adopt(standing, VERSIONS[what] as Setting, when)
        : { ...standing, deal: what(standing, when) ?? standing.deal };
    check(standing, when);
  }
}

function adopt({ deal, setting }: Standing, next: Setting, when: number): Standing {
  if (deal.status.state !== 'open' || next.version === setting.version) return { deal, setting };
  const target = published(setting, next, when + 5 * DAY);
  const adopted = adoptVersion(
    deal,
    { from: setting, to: target, transfers: {}, graceUntil: when + 5 * DAY },
    at(when, 'maren'),
  );
  return adopted.ok ? { deal: adopted.value.deal, setting: target } : { deal, setting };
}

const said = (findings: Deal['findings'], when: number): readonly string[] =>
  findings
    .filter((finding) => standsAt(finding, when))
    .map(({ key, level }) => `${key} ${level}`)
    .sort();

it('has one step at hand in a stay, within it, and findings that judging afresh agrees with', () => {
  fc.assert(
    fc.property(script, (steps) => {
      play(steps, ({ deal, setting }, when) => {
        expect(said(deal.findings, when)).toEqual(said(expectedFindings(deal, setting, when).findings, when));
        const counted = runsThatCount(deal);
        const open = counted.filter(({ end }) => end === null);
        const threads = open.map(({ stage: of, visitSeq, owed }) => `${of} ${visitSeq} ${owed}`);
        expect(new Set(threads).size).toBe(threads.length);
        if (deal.status.state !== 'open') expect(open).toEqual([]);
        const present = presentVisit(deal);
        for (const run of counted) {
          const stay = deal.visits.find(({ seq }) => seq === run.visitSeq);
          if (!stay) throw new Error('A run of no stay');
          expect(stay.takenBack).toBe('no');
          expect(run.begunAt).toBeGreaterThanOrEqual(stay.enteredAt);
          expect(run.end?.at ?? when).toBeGreaterThanOrEqual(run.begunAt);
          if (run.owed === 'yes') continue;
          expect(run.stage).toBe(stay.stage);
          if (run.end === null) expect(run.visitSeq).toBe(present.seq);
          expect(run.end?.at ?? 0).toBeLessThanOrEqual(stay.left?.at ?? Number.POSITIVE_INFINITY);
        }
      });
    }),
    { numRuns: 600 },
  );
});

it('is as it was once a result is taken back', () => {
  fc.assert(
    fc.property(script, fc.nat(5), fc.nat(5), (steps, which, how) => {
      let last: readonly [Standing, number] | null = null;
      play(steps, (standing, when) => {
        last = [standing, when];
      });
      if (!last) return;
      const [{ deal, setting }, when] = last as readonly [Standing, number];
      const run = among(runsAtHand(deal, setting.document), which);
      const step = run && stageOf(setting.document, run.stage)?.steps.find(({ id }) => id === run.step);
      const chosen = step && among(step.results, how);
      if (!run || !chosen || deal.status.state !== 'open') return;
      const asked = { run: run.seq, result: chosen.id, captures: [], text: 'why', reason: null, followUp: null };
      const taken = takeResult(deal, setting, asked, at(when + 1));
      if (!taken.ok || taken.value.move?.result === 'held') return;
      const after = taken.value.change.deal;
      const back = canTakeResultBack(after, setting, run.seq, TOMAS, when + 2);
      if (!back.ok) throw new Error(JSON.stringify(back.error));
      const undone = takeResultBack(after, setting, back.value, at(when + 2, 'tomas'), 'no').deal;
      const ends = (one: Deal) => runsThatCount(one).map(({ goesOn: _wait, ...run }) => run);
      expect(ends(undone)).toEqual(ends(deal));
      expect(presentVisit(undone)).toEqual(presentVisit(deal));
      expect(undone.status).toEqual(deal.status);
      expect(undone.values).toEqual(deal.values);
      expect(tickedItems(undone, setting.document)).toEqual(tickedItems(deal, setting.document));
    }),
    { numRuns: 300 },
  );
});
