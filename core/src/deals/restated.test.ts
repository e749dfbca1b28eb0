import fc from 'fast-check';
import { expect, it } from 'vitest';
import type { StageId } from '../ids.ts';
import type { Day } from '../time/day.ts';
import { OPEN_ENDED } from './finding.ts';
import type { DealState } from './parts/states.ts';
import { restated } from './states.ts';

const state = (from: number, to: number, stage: string): DealState => ({
  from,
  to,
  stage: stage as StageId,
  status: 'open',
  enteredAt: 0,
  enteredDay: '2026-01-01' as Day,
  moveOnDay: null,
  owner: null,
  team: null,
  value: null,
  currency: 'GBP',
  closeDate: null,
  standing: 'clear',
  findings: 0,
  kinds: '',
  owed: 0,
});

/** States one after the other from some instant on, the last without end. */
const states = fc
  .array(fc.record({ lasts: fc.integer({ min: 1, max: 6 }), stage: fc.constantFrom('a', 'b', 'c') }), { maxLength: 6 })
  .chain((pieces) =>
    fc.integer({ min: 0, max: 8 }).map((begin) => {
      let from = begin;
      return pieces.map(({ lasts, stage }, place) => {
        const to = place === pieces.length - 1 ? OPEN_ENDED : from + lasts;
        const piece = state(from, to, stage);
        from = to;
        return piece;
      });
    }),
  );

const said = (list: readonly DealState[], instant: number): string[] =>
  list.filter(({ from, to }) => from <= instant && instant < to).map(({ stage }) => stage);

it('with what was and without what is said instead, the states after a change say of any instant before it what those before it said', () => {
  fc.assert(
    fc.property(states, states, fc.integer({ min: 0, max: 40 }), (before, after, at) => {
      const { was, is } = restated(before, after, at);
      for (let instant = 0; instant < at; instant++)
        expect([...said(after, instant), ...said(was, instant)].sort()).toEqual(
          [...said(before, instant), ...said(is, instant)].sort(),
        );
      for (const { from, to } of [...was, ...is]) {
        expect(from).toBeLessThan(to);
        expect(to).toBeLessThanOrEqual(at);
      }
    }),
  );
});

it('what goes on as it was, or is otherwise from the change on, says nothing otherwise of the time before it', () => {
  fc.assert(
    fc.property(states, fc.integer({ min: 0, max: 40 }), (before, at) => {
      const since = before.filter(({ from }) => from < at).map((one) => ({ ...one, to: Math.min(one.to, at) }));
      const after = [...since, state(at, OPEN_ENDED, 'new')];
      expect(restated(before, after, at)).toEqual({ was: [], is: [] });
    }),
  );
});
