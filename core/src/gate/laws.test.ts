import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Values } from '../facts/value.ts';
import type { StageId } from '../ids.ts';
import { type ProcessDocument, RULES } from '../processes/document.ts';
import { isOpen } from '../requirements/item.ts';
import { CATALOGUE, documentOf, factsOf, LOST, needs, stage, WON, wonAsking } from '../testing/builders.ts';
import { assembleGate } from './assemble.ts';
import { compileGate } from './compileGate.ts';
import { type MoveTarget, nextTarget, routeTo } from './route.ts';
import { judgeGate } from './verdict.ts';

const FILLED: Values = {
  area: 300,
  crop: 'herbs',
  notes: 'x',
  paid: true,
  survey: '2026-12-01',
  cost: { minor: 1, currency: 'GBP' },
};
const FIELD_IDS = Object.keys(FILLED);
const level = fc.constantFrom('hold' as const, 'flag' as const);
const requirement = (id: string) =>
  fc
    .tuple(fc.constantFrom(...FIELD_IDS), level, fc.option(fc.constantFrom(...FIELD_IDS)))
    .map(([field, asked, applies]) =>
      needs(id, field, {
        level: asked,
        ...(applies ? { appliesWhen: { kind: 'set', left: { of: 'field', field: applies } } } : {}),
      }),
    );
const someStage = (place: number) =>
  fc
    .record({
      enter: fc.option(requirement(`enter ${place}`)),
      leave: fc.option(requirement(`leave ${place}`)),
      item: fc.option(level),
    })
    .map(({ enter, leave, item }) =>
      stage(`s${place}`, {
        enter: enter ? [enter] : [],
        leave: leave ? [leave] : [],
        checklist: item
          ? [{ id: `item ${place}`, text: 'Called', need: 'must', level: item, afterReturn: 'keep' }]
          : [],
      }),
    );
const document: fc.Arbitrary<ProcessDocument> = fc
  .record({
    stages: fc.tuple(someStage(0), someStage(1), someStage(2), someStage(3)),
    skips: fc.constantFrom(...RULES),
    returns: fc.constantFrom(...RULES),
    won: fc.option(requirement('won')),
  })
  .map(({ stages, skips, returns, won }) =>
    documentOf(stages, { skips, returns, outcomes: wonAsking(...(won ? [won] : [])) }),
  );
const target: fc.Arbitrary<MoveTarget> = fc.oneof(
  fc.constantFrom('s0', 's1', 's2', 's3').map((id): MoveTarget => ({ to: 'stage', stage: id as StageId })),
  fc.constantFrom<MoveTarget>(WON, LOST),
);
const from = fc.constantFrom('s0', 's1', 's2', 's3');
const facts = fc
  .tuple(
    fc.subarray(FIELD_IDS),
    fc.subarray(['item 0', 'item 1', 'item 2', 'item 3']),
    fc.subarray(['enter 1', 'enter 2', 'won']),
  )
  .map(([filled, ticked, waived]) =>
    factsOf(Object.fromEntries(filled.map((id) => [id, FILLED[id] ?? null])), {
      ticked: new Set(ticked),
      waived: new Set(waived),
    }),
  );

/** The gate of a move, where there is such a move. */
function gateOf(of: ProcessDocument, start: string, to: MoveTarget) {
  const route = routeTo(of, start as StageId, to);
  return route.ok ? assembleGate(of, start as StageId, to, route.value) : null;
}

describe('whatever a process asks', () => {
  it('a gate holds where a holding item is open, flags where only a flagging one is, and passes else', () => {
    fc.assert(
      fc.property(document, from, target, facts, (of, start, to, known) => {
        const items = gateOf(of, start, to);
        if (!items) return;
        const { answer, items: judged } = judgeGate(items, known, CATALOGUE);
        const open = judged.filter(({ state }) => isOpen(state)).map(({ item }) => item.level);
        expect(answer).toBe(open.includes('hold') ? 'holds' : open.length > 0 ? 'flags' : 'passes');
      }),
    );
  });

  it('compiled it gives the same answer, and counts what holds', () => {
    fc.assert(
      fc.property(document, from, target, facts, (of, start, to, known) => {
        const items = gateOf(of, start, to);
        if (!items) return;
        const verdict = judgeGate(items, known, CATALOGUE);
        const compiled = compileGate(items, CATALOGUE);
        expect(compiled.answer(known)).toBe(verdict.answer);
        expect(compiled.missing(known)).toBe(
          verdict.items.filter(({ state, item }) => isOpen(state) && item.level === 'hold').length,
        );
      }),
    );
  });

  it('every open item names a remedy, and filling and ticking all of them opens the gate', () => {
    fc.assert(
      fc.property(document, from, target, facts, (of, start, to, known) => {
        const items = gateOf(of, start, to);
        if (!items) return;
        for (const { state, remedy } of judgeGate(items, known, CATALOGUE).items)
          expect(remedy.kind === 'none').toBe(!isOpen(state));
        const right = factsOf(FILLED, { ticked: new Set(['item 0', 'item 1', 'item 2', 'item 3']) });
        const { answer } = judgeGate(items, right, CATALOGUE);
        const isHeldReturn = items.some(({ kind }) => kind === 'decision');
        expect(answer).toBe(isHeldReturn ? 'holds' : 'passes');
      }),
    );
  });

  it('asks nothing twice, and passes over only what lies between', () => {
    fc.assert(
      fc.property(document, from, target, (of, start, to) => {
        const route = routeTo(of, start as StageId, to);
        if (!route.ok) return;
        const items = assembleGate(of, start as StageId, to, route.value);
        expect(new Set(items.map(({ id }) => id)).size).toBe(items.length);
        for (const { stage: asking, passedOver } of items)
          expect(passedOver).toBe(asking !== null && (route.value.over as readonly string[]).includes(asking));
      }),
    );
  });

  it('an allowed skip asks no more than a flagged one, and a flagged one holds no more than an allowed', () => {
    fc.assert(
      fc.property(document, facts, (of, known) => {
        const to: MoveTarget = { to: 'stage', stage: 's3' as StageId };
        const ask = (skips: ProcessDocument['skips']) => gateOf({ ...of, skips }, 's0', to) ?? [];
        const holding = (skips: ProcessDocument['skips']) =>
          judgeGate(ask(skips), known, CATALOGUE).items.filter(
            ({ state, item }) => isOpen(state) && item.level === 'hold',
          ).length;
        expect(ask('allow').length).toBeLessThanOrEqual(ask('flag').length);
        expect(ask('flag').length).toBe(ask('hold').length);
        expect(holding('flag')).toBe(holding('allow'));
        expect(holding('hold')).toBeGreaterThanOrEqual(holding('flag'));
      }),
    );
  });

  it('moving on leads from rung to rung to won', () => {
    fc.assert(
      fc.property(document, (of) => {
        const path: string[] = ['s0'];
        for (let next = nextTarget(of, 's0' as StageId); next.to === 'stage'; next = nextTarget(of, next.stage))
          path.push(next.stage);
        expect(path).toEqual(of.stages.map(({ id }) => id));
      }),
      { numRuns: 10 },
    );
  });
});
