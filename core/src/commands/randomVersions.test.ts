import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { expectedFindings } from '../compliance/expectedFindings.ts';
import { personActor } from '../deals/actor.ts';
import type { Deal } from '../deals/deal.ts';
import { OPEN_ENDED, standingAt, standsAt } from '../deals/finding.ts';
import { presentVisit } from '../deals/parts/visits.ts';
import type { Setting } from '../deals/setting.ts';
import type { StageId, VersionId } from '../ids.ts';
import { stageOf } from '../processes/document.ts';
import { type HouseRules, NO_HOUSE_RULES } from '../processes/houseRules.ts';
import type { Requirement } from '../requirements/kinds.ts';
import { at, DAY, dealIn, documentOf, NOW, needs, published, settingOf, stage } from '../testing/builders.ts';
import { recordActivity } from './activity.ts';
import { adoptVersion } from './adoptVersion.ts';
import { editDeal } from './edit.ts';
import { moveDeal } from './move.ts';
import { canTakeBack, takeBack } from './takeBack.ts';
import { tickItem } from './tick.ts';

/* Publishing again and again, with days of grace, between a seller's commands and takings back, on clocks that jump. */

const item = { id: 'tick', text: 'Called', need: 'must', level: 'hold', afterReturn: 'keep' } as const;
const RULES: HouseRules = { ...NO_HOUSE_RULES, idle: { level: 'hold', since: 0 } };
const active: Requirement = {
  id: 'active',
  level: 'hold',
  binds: 'must_stay',
  kind: 'criterion',
  criterion: { kind: 'less', left: { of: 'journey', fact: 'days_since_activity' }, right: { of: 'value', value: 4 } },
};
const version = (name: string, document: Setting['document'], houseRules = NO_HOUSE_RULES): Setting => ({
  ...settingOf(document, { houseRules }),
  version: name as VersionId,
});
const VERSIONS: readonly Setting[] = [
  version('bare', documentOf([stage('a'), stage('b'), stage('c')], { skips: 'allow' })),
  version(
    'asking',
    documentOf([
      stage('a', { checklist: [item], leave: [needs('l', 'source')] }),
      stage('b', { enter: [needs('area', 'area'), needs('crop', 'crop', { level: 'flag' })] }),
      stage('c', { enter: [needs('notes', 'notes')] }),
    ]),
  ),
  version(
    'asking less',
    documentOf([
      stage('a', { checklist: [item] }),
      stage('b', { enter: [needs('area', 'area', { level: 'flag' })] }),
      stage('c'),
    ]),
  ),
  version(
    'reading the clock',
    documentOf(
      [
        stage('a', { enter: [active] }),
        stage('b', { leave: [{ ...active, id: 'later', binds: 'at_move', level: 'flag' }] }),
        stage('c', { enter: [{ ...needs('flag', 'crop', { level: 'flag' }), binds: 'at_move' }] }),
      ],
      { skips: 'hold' },
    ),
    RULES,
  ),
  version(
    'without b',
    documentOf([stage('a', { enter: [needs('area', 'area')] }), stage('c', { enter: [needs('n', 'notes')] })]),
  ),
];

interface Standing {
  readonly deal: Deal;
  readonly setting: Setting;
}
type Step = (standing: Standing, when: number) => Standing;

const editing: fc.Arbitrary<Step> = fc
  .tuple(fc.constantFrom('area', 'crop', 'notes', 'source'), fc.boolean())
  .map(([field, isFilled]) => ({ deal, setting }, when) => {
    const value = isFilled ? { area: 300, crop: 'herbs', notes: 'x', source: 'fair' }[field] : null;
    const edited = editDeal(
      deal,
      setting,
      [{ field, saw: deal.values[field] ?? null, value: value ?? null }],
      at(when),
    );
    return { setting, deal: edited.ok ? edited.value.deal : deal };
  });
const moving: fc.Arbitrary<Step> = fc
  .tuple(fc.constantFrom('a', 'b', 'c'), fc.constantFrom('ask' as const, 'force' as const))
  .map(([target, mode]) => ({ deal, setting }, when) => {
    const request = {
      target: { to: 'stage', stage: target as StageId },
      mode,
      text: 'why',
      reason: null,
      followUp: null,
    } as const;
    const moved = moveDeal(deal, setting, request, at(when));
    return { setting, deal: moved.ok ? moved.value.change.deal : deal };
  });
const ticking: fc.Arbitrary<Step> = fc.constant(({ deal, setting }, when) => {
  const ticked = tickItem(deal, setting, 'tick', 'ticked', at(when));
  return { setting, deal: ticked.ok ? ticked.value.deal : deal };
});
const takingBack: fc.Arbitrary<Step> = fc.constant(({ deal, setting }, when) => {
  const step = canTakeBack(deal, setting, { id: personActor('tomas'), rank: 'manager' }, when);
  return { setting, deal: step.ok ? takeBack(deal, setting, step.value, at(when), null).deal : deal };
});
const calling: fc.Arbitrary<Step> = fc.integer({ min: 0, max: 20 * DAY }).map((ago) => ({ deal, setting }, when) => ({
  setting,
  deal: recordActivity(deal, setting, 'call', 'x', { ...at(when), happenedAt: when - ago }).deal,
}));
const publishing: fc.Arbitrary<Step> = fc
  .tuple(
    fc.constantFrom(...VERSIONS),
    fc.integer({ min: 0, max: 9 }),
    fc.constantFrom('a', 'b', 'c'),
    fc.constantFrom('a', 'c'),
  )
  .map(([to, graceDays, removed, sentTo]) => ({ deal, setting: from }, when) => {
    const graceUntil = when + graceDays * DAY;
    const next = published(from, { ...to, version: `${to.version} ${from.publishes.length}` as VersionId }, graceUntil);
    const plan = { from, to: next, transfers: { [removed]: sentTo as StageId }, graceUntil };
    const adopted = adoptVersion(deal, plan, at(when, 'maren'));
    return adopted.ok ? { setting: next, deal: adopted.value.deal } : { setting: from, deal };
  });
/* The clock of another server, or one that was set, may lie behind. */
const jump = fc.integer({ min: -2 * DAY, max: 5 * DAY });
const script = fc.array(fc.tuple(fc.oneof(editing, moving, ticking, takingBack, calling, publishing), jump), {
  maxLength: 16,
});

const inForce = (findings: Deal['findings'], when: number) =>
  findings
    .filter((finding) => standsAt(finding, when))
    .map(({ key, level, kind }) => `${key} ${level} ${kind}`)
    .sort();

function play(steps: readonly (readonly [Step, number])[], after: (standing: Standing, when: number) => void): void {
  let standing: Standing = { setting: VERSIONS[0] as Setting, deal: dealIn(VERSIONS[0] as Setting) };
  let when = NOW;
  for (const [step, pause] of steps) {
    when += pause;
    standing = step(standing, when);
    after(standing, standing.deal.settledAt);
  }
}

describe('a deal that is moved over from version to version', () => {
  it('keeps the findings that judging it afresh would find, now and as the grace runs out', () => {
    fc.assert(
      fc.property(script, (steps) => {
        play(steps, ({ deal, setting }, when) => {
          const instants = deal.findings
            .flatMap(({ openedAt, closedAt }) => [openedAt, closedAt - 1, closedAt])
            .filter((instant) => instant >= when && instant < OPEN_ENDED);
          for (const instant of [when, ...instants])
            expect(inForce(deal.findings, instant)).toEqual(
              inForce(expectedFindings(deal, setting, instant).findings, instant),
            );
        });
      }),
      { numRuns: 300 },
    );
  });

  it('has a state for every instant from the first on: where it stood, how it stood, and by which version', () => {
    fc.assert(
      fc.property(script, (steps) => {
        play(steps, ({ deal, setting }, when) => {
          const stays = deal.visits.filter(({ takenBack }) => takenBack === 'no');
          const turns = [
            ...deal.findings.flatMap(({ openedAt, closedAt }) => [openedAt, closedAt]),
            ...stays.map(({ enteredAt }) => enteredAt),
            when,
          ];
          const first = deal.states[0]?.from ?? OPEN_ENDED;
          for (const instant of turns.filter((turn) => turn >= first && turn < OPEN_ENDED)) {
            const state = deal.states.find(({ from, to }) => from <= instant && instant < to);
            expect(state?.standing).toBe(standingAt(deal.findings, instant));
            expect(state?.findings).toBe(inForce(deal.findings, instant).length);
            expect(state?.stage).toBe(stays.findLast(({ enteredAt }) => enteredAt <= instant)?.stage);
          }
          expect(deal.versions.at(-1)?.version).toBe(setting.version);
        });
      }),
      { numRuns: 300 },
    );
  });

  it('always stands in a stage that its version has, in one open stay, with its facts (S11)', () => {
    fc.assert(
      fc.property(script, (steps) => {
        play(steps, ({ deal, setting }) => {
          expect(deal.version).toBe(setting.version);
          expect(stageOf(setting.document, presentVisit(deal).stage)).toBeDefined();
          expect(deal.visits.filter(({ left, takenBack }) => left === null && takenBack === 'no')).toHaveLength(1);
          expect(deal.values.owner).toBe('priya');
        });
      }),
      { numRuns: 300 },
    );
  });

  it('has stays, intervals and findings that end after they begin and follow each other, whatever the clock does', () => {
    fc.assert(
      fc.property(script, (steps) => {
        play(steps, ({ deal }) => {
          for (const { enteredAt, enteredDay, left } of deal.visits) {
            expect(left?.at ?? enteredAt).toBeGreaterThanOrEqual(enteredAt);
            expect((left?.day ?? enteredDay) >= enteredDay).toBe(true);
          }
          inOrder(
            deal.visits
              .filter(({ takenBack }) => takenBack === 'no')
              .map(({ enteredAt, left }) => [enteredAt, left?.at ?? OPEN_ENDED]),
          );
          expect(deal.states.map(({ to }) => to)).toEqual([
            ...deal.states.slice(1).map(({ from }) => from),
            OPEN_ENDED,
          ]);
          for (const { from, to } of deal.states) expect(to).toBeGreaterThan(from);
          for (const key of new Set(deal.findings.map((finding) => finding.key))) {
            const found = deal.findings
              .filter((finding) => finding.key === key)
              .sort((a, b) => a.openedAt - b.openedAt);
            inOrder(found.map(({ openedAt, closedAt }) => [openedAt, closedAt]));
            for (const { openedAt, closedAt } of found) expect(closedAt).toBeGreaterThan(openedAt);
          }
        });
      }),
      { numRuns: 300 },
    );
  });
});

function inOrder(periods: readonly (readonly [number, number])[]): void {
  for (const [place, [from]] of periods.entries()) expect(from).toBeGreaterThanOrEqual(periods[place - 1]?.[1] ?? 0);
}
