import { allOf, atLeast } from '../criteria/satisfy/claim.ts';
import type { StageId } from '../ids.ts';
import type { GateFacts, ItemBase, Level } from './item.ts';
import type { RequirementKind } from './kind.ts';

export const NEEDS = ['must', 'optional'] as const;
export const AFTER_RETURN = ['keep', 'again'] as const;
/** Who ticks an item: whoever may change the deal where nothing is said. */
export const TICKERS = ['owner', 'manager'] as const;

/** Something that a person ticks. */
export interface ChecklistItem {
  readonly id: string;
  readonly text: string;
  /** `must` items are asked before leaving, at their level; `optional` ones never. */
  readonly need: (typeof NEEDS)[number];
  readonly level: Level;
  /** Ticked anew on every stay, or kept from an earlier one (S7). */
  readonly afterReturn: (typeof AFTER_RETURN)[number];
  readonly who?: (typeof TICKERS)[number];
  /** A kind of document that is attached as evidence for the tick. */
  readonly document?: string;
  /** The administrator's own words to the seller. */
  readonly message?: string;
}

interface ChecklistGateItem extends ItemBase {
  readonly kind: 'checklist';
  readonly text: string;
  readonly afterReturn: ChecklistItem['afterReturn'];
  readonly who?: NonNullable<ChecklistItem['who']>;
  readonly document?: string;
}

/** An item as a gate asks it. It stays owed like a field: unticking it later is a finding. */
export const toGateItem = (
  { id, level, text, afterReturn, who, document, message }: ChecklistItem,
  stage: StageId,
): ChecklistGateItem => ({
  id,
  level,
  text,
  afterReturn,
  ...(who ? { who } : {}),
  ...(document ? { document } : {}),
  ...(message ? { message } : {}),
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
    who: { is: 'maybe', of: { is: 'one_of', values: TICKERS } },
    document: { is: 'maybe', of: { is: 'key' } },
    message: { is: 'maybe', of: { is: 'words', most: 2_000 } },
  },
  wording: ['text'],
  needs: ({ document }) => (document === undefined ? ['ticks'] : ['ticks', 'documents']),
  judge: (item, facts) => ({ state: stateOf(item, facts), explanation: null }),
  // Without its evidence it is not ticked: that comes first.
  remedy: ({ id, document }, _judged, facts) =>
    document !== undefined && !hasDocument(document, facts) ? { kind: 'attach', document } : { kind: 'tick', item: id },
  asks: ({ text, document, who }, _catalogue, nameOf) => [
    { text, strong: true },
    { text: who ? ` is ticked by ${TICKER_WORDS[who]}` : ' is ticked', strong: false },
    ...(document === undefined
      ? []
      : [
          { text: ', with ', strong: false },
          { text: nameOf(document) ?? 'a kind of document that is gone', strong: true },
          { text: ' attached', strong: false },
        ]),
  ],
  actual: (_item, { state }) =>
    ({ met: 'ticked', missing: 'ticked, its document not attached' })[state as string] ?? 'not ticked',
  // The row was read from the gate's own facts, which carry the ticks.
  compile: (item) => ({
    as: 'test',
    test: ({ facts }) => ({ met: true, unmet: false, missing: null })[stateOf(item, facts as GateFacts)],
  }),
  turns: () => [],
  reads: () => [],
  criteria: () => [],
  met: ({ id, document }) => {
    const tick = { kind: 'deed', deed: `tick ${id}`, done: true } as const;
    return document === undefined ? tick : allOf(tick, atLeast({ of: 'documents', document }, 1));
  },
  problems: ({ text, document }, _catalogue, pointer, nameOf) => [
    ...(text.trim() === '' ? [{ pointer: `${pointer}/text`, detail: 'A checklist item needs a text.' }] : []),
    ...(document !== undefined && nameOf(document) === undefined
      ? [{ pointer: `${pointer}/document`, detail: 'This kind of document is gone. Choose another.' }]
      : []),
  ],
};

export const TICKER_WORDS: Readonly<Record<(typeof TICKERS)[number], string>> = {
  owner: 'the owner',
  manager: 'a manager',
};

const hasDocument = (document: string, { documentCounts }: Pick<GateFacts, 'documentCounts'>): boolean =>
  (documentCounts?.[document] ?? 0) > 0;

function stateOf({ id, document }: ChecklistGateItem, facts: GateFacts): 'met' | 'unmet' | 'missing' {
  if (!facts.ticked.has(id)) return 'unmet';
  return document === undefined || hasDocument(document, facts) ? 'met' : 'missing';
}
