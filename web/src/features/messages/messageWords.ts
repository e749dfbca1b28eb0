import type { MessageState } from '@ladder/core';
import { countOf } from '../../parts/format.ts';
import type { Message } from './messagesApi.ts';

export const STATE_NAMES: Readonly<Record<MessageState, string>> = {
  to_confirm: 'to confirm',
  queued: 'queued',
  sent: 'sent',
  failed: 'failed',
  given_up: 'given up',
  dropped: 'not sent',
};

/** How a state looks: what waits for someone or goes wrong is marked. */
export const STATE_LOOKS: Readonly<Record<MessageState, string>> = {
  to_confirm: 'flagged',
  queued: 'clear',
  sent: 'clear',
  failed: 'flagged',
  given_up: 'held',
  dropped: 'clear',
};

/** Why it is not sent yet, and what comes next. */
export function messageNote({ state, problem, tries, nextTryAt }: Message, timeZone: string): string {
  const why = problem ?? '';
  if (state === 'failed' && nextTryAt !== null) {
    const time = new Date(nextTryAt).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit', timeZone });
    return `${why} Tried ${countOf(tries, 'time')}; again at ${time}.`;
  }
  return state === 'given_up' ? `${why} Tried ${countOf(tries, 'time')}.` : why;
}
