import type { GateFacts, ItemBase } from './item.ts';
import type { RequirementKind } from './kind.ts';

interface StepsItem extends ItemBase {
  readonly kind: 'steps';
  /** The stage whose steps it is about. */
  readonly of: string;
}

/** The steps of a stage are gone through to an end. */
export const stepsKind: RequirementKind<StepsItem, 'requirement', 'steps'> = {
  kind: 'steps',
  written: 'requirement',
  finding: { kind: 'steps', name: 'Steps unfinished' },
  shape: { of: { is: 'key' } },
  wording: [],
  needs: () => ['runs'],
  judge: ({ of }, { stepsFinished }) => ({
    state: stepsFinished === null ? 'missing' : stepsFinished.has(of) ? 'met' : 'unmet',
    explanation: null,
  }),
  remedy: ({ of }) => ({ kind: 'steps', stage: of }),
  asks: ({ of }, _catalogue, nameOf) => [
    { text: 'Steps', strong: true },
    { text: ` of ${nameOf(of) ?? 'a stage that is gone'} are finished`, strong: false },
  ],
  actual: (_item, { state }) => (state === 'met' ? 'finished' : state === 'missing' ? 'not recorded' : 'not finished'),
  // The row was read from the gate's own facts, which carry the runs.
  compile: ({ of }) => ({ as: 'test', test: ({ facts }) => (facts as GateFacts).stepsFinished?.has(of) ?? null }),
  turns: () => [],
  reads: () => [],
  criteria: () => [],
  met: ({ of }) => ({ kind: 'deed', deed: `steps ${of}`, done: true }),
  problems({ of }, _catalogue, pointer, nameOf) {
    const detail = of === '' ? 'Choose the stage whose steps are meant.' : 'The stage whose steps are meant is gone.';
    return nameOf(of) === undefined ? [{ pointer: `${pointer}/of`, detail }] : [];
  },
};
