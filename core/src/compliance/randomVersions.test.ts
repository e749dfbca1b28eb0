import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { adoptVersion } from '../deals/adoptVersion.ts';
import { type Deal, presentVisit } from '../deals/deal.ts';
import { editDeal } from '../deals/edit.ts';
import { moveDeal } from '../deals/move.ts';
import type { Setting } from '../deals/setting.ts';
import { tickItem } from '../deals/tick.ts';
import { stageOf } from '../processes/document.ts';
import { at, DAY, dealIn, documentOf, NOW, needs, settingOf, stage } from '../testing/builders.ts';
import { expectedFindings } from './expectedFindings.ts';
import { OPEN_ENDED, standsAt } from './finding.ts';

/* Publishing again and again, with days of grace, between a seller's commands: what is kept stays what judging afresh says. */

const item = { id: 'tick', text: 'Called', need: 'must', level: 'hold', afterReturn: 'keep' } as const;
const version = (name: string, document: Setting['document']): Setting => ({ ...settingOf(document), version: name });
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
      target: { to: 'stage', stage: target },
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
const publishing: fc.Arbitrary<Step> = fc
  .tuple(fc.constantFrom(...VERSIONS), fc.integer({ min: 0, max: 9 }), fc.constantFrom('a', 'c'))
  .map(([to, graceDays, sentTo]) => ({ deal, setting: from }, when) => ({
    setting: to,
    deal: adoptVersion(
      deal,
      { from, to, transfers: { b: sentTo }, graceUntil: when + graceDays * DAY },
      at(when, 'maren'),
    ).deal,
  }));
const script = fc.array(
  fc.tuple(fc.oneof(editing, moving, ticking, publishing), fc.integer({ min: 1, max: 5 * DAY })),
  { maxLength: 14 },
);

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
    after(standing, when);
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

  it('always stands in a stage that its version has, in one open stay, with its ticks and facts', () => {
    fc.assert(
      fc.property(script, (steps) => {
        play(steps, ({ deal, setting }) => {
          expect(deal.version).toBe(setting.version);
          expect(stageOf(setting.document, presentVisit(deal).stage)).toBeDefined();
          expect(deal.visits.filter(({ leftAt, takenBack }) => leftAt === null && takenBack === 'no')).toHaveLength(1);
          expect(deal.values.owner).toBe('priya');
        });
      }),
      { numRuns: 100 },
    );
  });

  it('is held by nothing new until the grace has run out', () => {
    const [bare, asking] = VERSIONS as [Setting, Setting];
    const { deal } = adoptVersion(
      dealIn(bare),
      {
        from: bare,
        to: { ...asking, document: documentOf([stage('a', { enter: [needs('n', 'notes')] })]) },
        transfers: {},
        graceUntil: NOW + 5 * DAY,
      },
      at(NOW + DAY),
    );
    const levels = (when: number) => inForce(deal.findings, when);
    expect(levels(NOW + DAY)).toEqual(['requirement:n flag gate_changed']);
    expect(levels(NOW + 5 * DAY - 1)).toEqual(['requirement:n flag gate_changed']);
    expect(levels(NOW + 5 * DAY)).toEqual(['requirement:n hold gate_changed']);
  });
});
