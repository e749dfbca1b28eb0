import type { StageId } from '../ids.ts';
import type { GateFacts, ItemBase, Level } from './item.ts';
import type { RequirementKind } from './kind.ts';

export const NEEDS = ['must', 'optional'] as const;
export const AFTER_RETURN = ['keep', 'again'] as const;

/** Something that a person ticks. */
export interface ChecklistItem {
  readonly id: string;
  readonly text: string;
  /** `must` items are asked before leaving, at their level; `optional` ones never. */
  readonly need: (typeof NEEDS)[number];
  readonly level: Level;
  /** Ticked anew on every stay, or kept from an earlier one (S7). */
  readonly afterReturn: (typeof AFTER_RETURN)[number];
}

interface ChecklistGateItem extends ItemBase {
  readonly kind: 'checklist';
  readonly text: string;
  readonly afterReturn: ChecklistItem['afterReturn'];
}

/** An item as a gate asks it. It stays owed like a field: unticking it later is a finding. */
export const toGateItem = ({ id, level, text, afterReturn }: ChecklistItem, stage: StageId): ChecklistGateItem => ({
  id,
  level,
  text,
  afterReturn,
  stage,
  at: 'checklist',
  binds: 'must_stay',
  kind: 'checklist',
});

/** Someone has ticked an item of a stage's checklist. */
export const checklistKind: RequirementKind<ChecklistGateItem, 'checklist', 'checklist'> = {
  kind: 'checklist',
  written: 'checklist',
  finding: { kind: 'checklist', name: 'Checklist open' },
  shape: {
    text: { is: 'words', most: 500 },
    need: { is: 'one_of', values: NEEDS },
    afterReturn: { is: 'one_of', values: AFTER_RETURN },
  },
  wording: ['text'],
  needs: () => ['ticks'],
  judge: ({ id }, { ticked }) => ({ state: ticked.has(id) ? 'met' : 'unmet', explanation: null }),
  remedy: ({ id }) => ({ kind: 'tick', item: id }),
  asks: ({ text }) => [
    { text, strong: true },
    { text: ' is ticked', strong: false },
  ],
  actual: (_item, { state }) => (state === 'met' ? 'ticked' : 'not ticked'),
  // The row was read from the gate's own facts, which carry the ticks.
  compile: ({ id }) => ({ as: 'test', test: ({ facts }) => (facts as GateFacts).ticked.has(id) }),
  turns: () => [],
  reads: () => [],
  criteria: () => [],
  met: ({ id }) => ({ kind: 'deed', deed: `tick ${id}`, done: true }),
  problems: ({ text }, _catalogue, pointer) =>
    text.trim() === '' ? [{ pointer: `${pointer}/text`, detail: 'A checklist item needs a text.' }] : [],
};
