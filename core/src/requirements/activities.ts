import { atLeast } from '../criteria/satisfy/claim.ts';
import {
  ACTIVITY_KINDS,
  ACTIVITY_SPANS,
  ACTIVITY_WORDS,
  type ActivityCounts,
  type ActivityKind,
  type ActivitySpan,
} from '../facts/activityKind.ts';
import type { ItemBase } from './item.ts';
import type { RequirementKind } from './kind.ts';

interface ActivitiesItem extends ItemBase {
  readonly kind: 'activities';
  readonly activity: ActivityKind;
  /** So many at least. */
  readonly least: number;
  readonly within: ActivitySpan;
}

const isEnough = (counts: ActivityCounts | null, activity: ActivityKind, least: number): boolean | null =>
  counts === null ? null : counts[activity] >= least;

/** So many calls, messages, meetings, visits or notes happened, in this stay or ever. */
export const activitiesKind: RequirementKind<ActivitiesItem, 'requirement', 'activities'> = {
  kind: 'activities',
  written: 'requirement',
  finding: { kind: 'activities', name: 'Activity missing' },
  shape: {
    activity: { is: 'one_of', values: ACTIVITY_KINDS },
    least: { is: 'count' },
    within: { is: 'one_of', values: ACTIVITY_SPANS },
  },
  wording: [],
  needs: () => ['activities', 'visits'],
  judge({ activity, least, within }, { activityCounts }) {
    const count = activityCounts[within]?.[activity];
    if (count === undefined) return { state: 'missing', explanation: null };
    return { state: count >= least ? 'met' : 'unmet', explanation: null, found: String(count) };
  },
  remedy: ({ activity }) => ({ kind: 'log', activity }),
  asks: ({ activity, least, within }) => [
    { text: `${least} ${ACTIVITY_WORDS[activity][least === 1 ? 'one' : 'many']}`, strong: true },
    { text: ` at least${within === 'stay' ? ' in this stage' : ''}`, strong: false },
  ],
  actual: (_item, { found }) => (found === null ? 'not recorded' : found === '0' ? 'none yet' : `${found} so far`),
  compile: ({ activity, least, within }) => ({
    as: 'test',
    // One test for each span: a name read by a key that changes costs several times one that stays.
    test:
      within === 'stay'
        ? ({ facts }) => isEnough(facts.activityCounts.stay, activity, least)
        : ({ facts }) => isEnough(facts.activityCounts.ever, activity, least),
  }),
  turns: () => [],
  reads: () => [],
  criteria: () => [],
  met: ({ activity, least, within }) => atLeast({ of: 'activities', activity, within }, least),
  problems: ({ least }, _catalogue, pointer) =>
    Number.isInteger(least) && least >= 1 && least <= 1_000
      ? []
      : [{ pointer: `${pointer}/least`, detail: 'Say how many: a whole number from 1 to 1,000.' }],
};
