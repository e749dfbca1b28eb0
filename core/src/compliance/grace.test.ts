import { describe, expect, it } from 'vitest';
import { adoptVersion } from '../commands/adoptVersion.ts';
import { editDeal } from '../commands/edit.ts';
import { moveDeal } from '../commands/move.ts';
import type { Deal } from '../deals/deal.ts';
import { standsAt } from '../deals/finding.ts';
import type { Setting } from '../deals/setting.ts';
import type { StageId, VersionId } from '../ids.ts';
import type { Stage } from '../processes/document.ts';
import { at, DAY, dealIn, documentOf, must, NOW, needs, published, settingOf, stage } from '../testing/builders.ts';

/* Days of grace, requirement by requirement (S28). */

const asking = (version: string, enter: Stage['enter'], others: readonly Stage[] = [stage('b')]): Setting => ({
  ...settingOf(documentOf([stage('a', { enter }), ...others], { skips: 'allow' })),
  version: version as VersionId,
});
const publish = (deal: Deal, from: Setting, to: Setting, when: number, days: number, transfers = {}) => {
  const graceUntil = when + days * DAY;
  const setting = published(from, to, graceUntil);
  return { setting, deal: must(adoptVersion(deal, { from, to: setting, transfers, graceUntil }, at(when))).deal };
};
const inForce = (deal: Deal, when: number): readonly string[] =>
  deal.findings.filter((finding) => standsAt(finding, when)).map(({ kind, level }) => `${kind} ${level}`);

const bare = asking('bare', []);
const asks = asking('asks', [needs('n', 'notes')]);

describe('days of grace', () => {
  it('last as long as they were given, whatever is published meanwhile', () => {
    const first = publish(dealIn(bare), bare, asks, NOW + DAY, 10);
    const reworded = asking('reworded', [needs('n', 'notes', { message: 'Please' })]);
    const { deal } = publish(first.deal, first.setting, reworded, NOW + 2 * DAY, 0);
    expect(inForce(deal, NOW + 11 * DAY - 1)).toEqual(['gate_changed flag']);
    expect(inForce(deal, NOW + 11 * DAY)).toEqual(['gate_changed hold']);
  });

  it('are not given by a change of words', () => {
    const held = dealIn(asks);
    expect(inForce(held, NOW)).toEqual(['field hold']);
    const reworded = asking('reworded', [needs('n', 'notes', { message: 'Please fill this in' })]);
    const { deal } = publish(held, asks, reworded, NOW + DAY, 30);
    expect(inForce(deal, NOW + DAY)).toEqual(['field hold']);
    expect(deal.findings).toHaveLength(1);
  });

  it('are not given for what failed already: only what is new flags', () => {
    const atLeast = (value: number, id = 'area'): Stage['enter'][number] => ({
      id,
      level: 'hold',
      binds: 'must_stay',
      kind: 'criterion',
      criterion: { kind: 'at_least', left: { of: 'field', field: 'area' }, right: { of: 'value', value } },
    });
    const [low, high] = [asking('low', [atLeast(200)]), asking('high', [atLeast(300)])];
    const small = publish(dealIn(low, { area: 100 }), low, high, NOW + DAY, 10).deal;
    expect(inForce(small, NOW + DAY)).toEqual(['criterion hold']);
    const middling = publish(dealIn(low, { area: 250 }), low, high, NOW + DAY, 10);
    expect(inForce(middling.deal, NOW + DAY)).toEqual(['gate_changed flag']);
    const shrunk = must(
      editDeal(middling.deal, middling.setting, [{ field: 'area', saw: 250, value: 100 }], at(NOW + 2 * DAY)),
    ).deal;
    expect(inForce(shrunk, NOW + 2 * DAY)).toEqual(['criterion hold']);
  });

  it('cover what comes to be missing while they last, and not what is entered after the publish', () => {
    const filled = publish(dealIn(bare, { notes: 'x' }), bare, asks, NOW + DAY, 10);
    const emptied = must(
      editDeal(filled.deal, filled.setting, [{ field: 'notes', saw: 'x', value: null }], at(NOW + 2 * DAY)),
    ).deal;
    expect(inForce(emptied, NOW + 2 * DAY)).toEqual(['gate_changed flag']);
    const later = asking('later', [], [stage('b', { enter: [needs('m', 'crop')] })]);
    const { deal, setting } = publish(dealIn(bare), bare, later, NOW + DAY, 10);
    const request = {
      target: { to: 'stage', stage: 'b' as StageId },
      mode: 'force',
      text: 'x',
      reason: null,
      followUp: null,
    } as const;
    const forced = must(moveDeal(deal, setting, request, at(NOW + 2 * DAY))).change.deal;
    expect(inForce(forced, NOW + 2 * DAY)).toContain('field hold');
  });

  it('are given for what the new stage of a transferred deal asks of it, and for that only once', () => {
    const two = asking('two', [], [stage('b', { enter: [needs('m', 'crop')] })]);
    const moved = {
      ...settingOf(documentOf([stage('b', { enter: [needs('m', 'crop')] })])),
      version: 'without a' as VersionId,
    };
    const { deal, setting } = publish(dealIn(two), two, moved, NOW + DAY, 5, { a: 'b' });
    expect(inForce(deal, NOW + DAY)).toEqual(['gate_changed flag']);
    expect(inForce(deal, NOW + 6 * DAY)).toEqual(['gate_changed hold']);
    const again = publish(deal, setting, { ...moved, version: 'again' as VersionId }, NOW + 2 * DAY, 30).deal;
    expect(inForce(again, NOW + 6 * DAY)).toEqual(['gate_changed hold']);
  });

  it('are given anew where the level or how long it binds has changed, and never shorter than before', () => {
    const flagged = asking('flagged', [needs('n', 'notes', { level: 'flag' })]);
    const soft = dealIn(flagged);
    expect(inForce(soft, NOW)).toEqual(['field flag']);
    const first = publish(soft, flagged, asks, NOW + DAY, 10);
    expect(inForce(first.deal, NOW + DAY)).toEqual(['gate_changed flag']);
    const moved = asking('moved', [needs('n', 'notes', { binds: 'at_move' })]);
    const second = publish(first.deal, first.setting, moved, NOW + 2 * DAY, 1);
    const third = publish(second.deal, second.setting, { ...asks, version: 'back' as VersionId }, NOW + 3 * DAY, 1);
    expect(inForce(third.deal, NOW + 11 * DAY - 1)).toEqual(['gate_changed flag']);
    expect(inForce(third.deal, NOW + 11 * DAY)).toEqual(['gate_changed hold']);
  });
});
