import type { Instant } from '../time/day.ts';

/** How a message stands; it only goes forward. */
export const MESSAGE_STATES = ['to_confirm', 'queued', 'sent', 'failed', 'given_up', 'dropped'] as const;
export type MessageState = (typeof MESSAGE_STATES)[number];

/** So often a message is tried, at most. */
export const MOST_TRIES = 8;
const MINUTE_MS = 60_000;

/** How a message stands after a try that failed: tried again after 1, 2, 4, … minutes, or given up after the eighth (S62). */
export const afterFailure = (
  tries: number,
  at: Instant,
):
  | { readonly state: 'failed'; readonly nextTryAt: Instant }
  | { readonly state: 'given_up'; readonly nextTryAt: null } =>
  tries >= MOST_TRIES
    ? { state: 'given_up', nextTryAt: null }
    : { state: 'failed', nextTryAt: at + 2 ** (tries - 1) * MINUTE_MS };

/** The parts of an address before and after its @, without anything that could end a header line (RFC 5322, 2.2 and 3.4.1). */
const ADDRESS = /^[^\s@<>()[\]\\,;:"\p{Cc}]{1,64}@[^\s@<>()[\]\\,;:"\p{Cc}]{1,250}$/u;

/** Whether a text is one mail address and nothing else. */
export const isMailAddress = (text: string): boolean => ADDRESS.test(text) && !text.includes('..');

/** Whether a text may stand in a header: one line, without control characters. */
export const isHeaderText = (text: string): boolean => !/\p{Cc}/u.test(text);
