import { dateText } from '../criteria/phrase.ts';
import type { Day } from '../time/day.ts';
import { type EventKind, plain, strong } from './event.ts';
import { requirementsOf, targetWords } from './stageWords.ts';

/* Why a waiver is asked for, and what was said as it was decided, stands apart as the entry's free text. */

interface OfRequest {
  /** Which of the deal's requests it is about. */
  readonly request: number;
}

const OF_REQUEST = { request: { is: 'count' } } as const;

interface Asked extends OfRequest {
  readonly target: string;
  readonly items: readonly string[];
  readonly until: Day;
}

const waiverAsked: EventKind<'waiver_asked', Asked> = {
  kind: 'waiver_asked',
  shape: { ...OF_REQUEST, target: { is: 'name' }, items: { is: 'list', of: { is: 'name' } }, until: { is: 'day' } },
  says: ({ target, items, until }, words) => [
    strong('Waiver asked for'),
    plain(` ${requirementsOf(items.length)} to ${targetWords(target, words)}, until ${dateText(until)}`),
  ],
};

interface Decided extends OfRequest {
  readonly how: 'granted' | 'refused';
  readonly until: Day | null;
}

const waiverDecided: EventKind<'waiver_decided', Decided> = {
  kind: 'waiver_decided',
  shape: {
    ...OF_REQUEST,
    how: { is: 'one_of', values: ['granted', 'refused'] },
    until: { is: 'or_none', of: { is: 'day' } },
  },
  says: ({ how, until }) => [strong(`Waiver ${how}`), plain(until === null ? '' : ` until ${dateText(until)}`)],
};

const waiverWithdrawn: EventKind<'waiver_withdrawn', OfRequest> = {
  kind: 'waiver_withdrawn',
  shape: OF_REQUEST,
  says: () => [plain('Asks for the waiver no longer')],
};

const waiverRevoked: EventKind<'waiver_revoked', OfRequest> = {
  kind: 'waiver_revoked',
  shape: OF_REQUEST,
  says: () => [strong('Waiver revoked')],
};

export const WAIVER_EVENTS = [waiverAsked, waiverDecided, waiverWithdrawn, waiverRevoked] as const;
