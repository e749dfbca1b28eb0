import type { ItemBase } from './item.ts';
import type { RequirementKind } from './kind.ts';

interface DecisionItem extends ItemBase {
  readonly kind: 'decision';
  readonly rule: 'returns';
}

/** The process's own rule stands in the way; nothing the seller fills in changes that. */
export const decisionKind: RequirementKind<DecisionItem, 'rule', 'criterion'> = {
  kind: 'decision',
  written: 'rule',
  finding: { kind: 'criterion', name: 'Criterion not met' },
  shape: {},
  wording: [],
  needs: () => [],
  judge: () => ({ state: 'unmet', explanation: null }),
  remedy: () => ({ kind: 'decide' }),
  asks: () => [
    { text: 'Going back', strong: true },
    { text: ' needs an administrator’s decision', strong: false },
  ],
  actual: () => null,
  compile: () => ({ as: 'test', test: () => false }),
  turns: () => [],
  reads: () => [],
  criteria: () => [],
  met: ({ rule }) => ({ kind: 'deed', deed: `decision ${rule}`, done: true }),
  problems: () => [],
};
