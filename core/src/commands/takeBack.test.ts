import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { personActor } from '../deals/actor.ts';
import type { Deal } from '../deals/deal.ts';
import { standsAt } from '../deals/finding.ts';
import { presentVisit } from '../deals/parts/visits.ts';
import type { StageId, VersionId } from '../ids.ts';
import { at, DAY, dealIn, documentOf, LOST, must, NOW, needs, settingOf, stage, WON } from '../testing/builders.ts';
import { adoptVersion } from './adoptVersion.ts';
import { editDeal } from './edit.ts';
import { type MoveRequest, moveDeal } from './move.ts';
import { canTakeBack, TAKE_BACK_MS, takeBack } from './takeBack.ts';

const setting = settingOf(
  documentOf(
    [
      stage('a', { leave: [needs('l', 'source', { level: 'flag' })] }),
      stage('b', { enter: [needs('area', 'area', { level: 'flag' })] }),
      stage('c', { enter: [needs('notes', 'notes', { level: 'flag' })] }),
    ],
    { skips: 'flag' },
  ),
  { reasons: [{ id: 'price', outcome: 'won', name: 'Price', followUp: 'not_asked', withdrawn: 'no' }] },
);
const move = (deal: Deal, target: MoveRequest['target'], when: number, by = 'priya') => {
  const request = { target, mode: 'ask', text: 'why', reason: 'price', followUp: null } as const;
  const moved = moveDeal(deal, setting, request, at(when, by));
  return moved.ok && moved.value.result === 'moved' ? moved.value.change.deal : null;
};
const target = fc.constantFrom<MoveRequest['target']>(
  { to: 'stage', stage: 'a' as StageId },
  { to: 'stage', stage: 'b' as StageId },
  { to: 'stage', stage: 'c' as StageId },
  WON,
  LOST,
);
const wandering = fc.array(fc.tuple(target, fc.integer({ min: 1, max: 9 * DAY })), { maxLength: 8 });

/** An open deal after any moves that could be made, and when. */
function wander(steps: readonly (readonly [MoveRequest['target'], number])[]): { deal: Deal; when: number } {
  let [deal, when] = [dealIn(setting), NOW];
  for (const [to, pause] of steps) {
    when += pause;
    const moved = move(deal, to, when);
    if (moved?.status.state === 'open') deal = moved;
  }
  return { deal, when };
}

const inForce = ({ findings }: Deal, when: number) =>
  findings
    .filter((finding) => standsAt(finding, when))
    .map(({ key, level, kind }) => `${key} ${level} ${kind}`)
    .sort();
const stays = ({ visits }: Deal) => visits.filter(({ takenBack }) => takenBack === 'no');

describe('a move that is taken back', () => {
  it('leaves path, stays, status, facts and findings as if it had never been made', () => {
    fc.assert(
      fc.property(wandering, target, fc.integer({ min: 1, max: TAKE_BACK_MS }), (steps, to, pause) => {
        const { deal: before, when } = wander(steps);
        const moved = move(before, to, when + 1);
        if (!moved) return;
        const step = must(canTakeBack(moved, setting, { id: personActor('priya'), rank: 'maker' }, when + 1));
        const { deal: back } = takeBack(moved, setting, step, at(when + pause), null);
        expect(back.path).toEqual(before.path);
        expect(stays(back)).toEqual(stays(before));
        expect(presentVisit(back)).toEqual(presentVisit(before));
        expect([back.status, back.values]).toEqual([before.status, before.values]);
        expect(inForce(back, when + pause)).toEqual(inForce(before, when + pause));
        expect(back.revision).toBeGreaterThan(moved.revision);
      }),
      { numRuns: 300 },
    );
  });

  it('one after the other leads back to where the deal began', () => {
    fc.assert(
      fc.property(wandering, (steps) => {
        let { deal, when } = wander(steps);
        for (;;) {
          const step = canTakeBack(deal, setting, { id: personActor('tomas'), rank: 'manager' }, when);
          if (!step.ok) break;
          when += 1;
          deal = takeBack(deal, setting, step.value, at(when, 'tomas'), null).deal;
        }
        expect(deal.path).toHaveLength(1);
        expect(stays(deal)).toHaveLength(1);
        expect(presentVisit(deal)).toMatchObject({ stage: 'a', left: null, enteredAt: NOW });
      }),
    );
  });

  it('keeps what was filled in meanwhile', () => {
    const moved = move(dealIn(setting), { to: 'stage', stage: 'b' as StageId }, NOW + 1);
    if (!moved) throw new Error('The move was refused');
    const filled = must(editDeal(moved, setting, [{ field: 'area', saw: null, value: 300 }], at(NOW + 2))).deal;
    const step = must(canTakeBack(filled, setting, { id: personActor('priya'), rank: 'maker' }, NOW + 3));
    expect(takeBack(filled, setting, step, at(NOW + 3), null).deal.values.area).toBe(300);
  });
});

describe('who may take a move back (S11)', () => {
  const moved = move(dealIn(setting), { to: 'stage', stage: 'b' as StageId }, NOW, 'priya') as Deal;
  const may = (id: string, rank: 'maker' | 'manager', after: number) => {
    const answer = canTakeBack(moved, setting, { id: personActor(id), rank }, NOW + after);
    return answer.ok ? 'may' : answer.error.code;
  };

  it('is its maker within ten minutes, and a manager at any time', () => {
    expect(may('priya', 'maker', TAKE_BACK_MS)).toBe('may');
    expect(may('priya', 'maker', TAKE_BACK_MS + 1)).toBe('too_late');
    expect(may('oskar', 'maker', 1)).toBe('not_yours');
    expect(may('tomas', 'manager', 90 * DAY)).toBe('may');
  });

  it('is nobody where there is no move to take back', () => {
    const answer = canTakeBack(dealIn(setting), setting, { id: personActor('tomas'), rank: 'manager' }, NOW);
    expect(answer).toEqual({ ok: false, error: { code: 'nothing_to_take_back' } });
  });
});

it('is refused where the deal’s version has lost the stage it would go back to (S11)', () => {
  const moved = move(dealIn(setting), { to: 'stage', stage: 'b' as StageId }, NOW + 1) as Deal;
  const shorter = {
    ...setting,
    document: { ...setting.document, stages: setting.document.stages.slice(1) },
    version: 'v2' as VersionId,
  };
  const { deal } = must(
    adoptVersion(moved, { from: setting, to: shorter, transfers: {}, graceUntil: NOW }, at(NOW + 2)),
  );
  expect(canTakeBack(deal, shorter, { id: personActor('tomas'), rank: 'manager' }, NOW + 3)).toEqual({
    ok: false,
    error: { code: 'stage_gone' },
  });
  const step = deal.path.at(-1);
  if (!step) throw new Error('No move');
  expect(() => takeBack(deal, shorter, step, at(NOW + 3), null)).toThrow('has no stage a');
});
