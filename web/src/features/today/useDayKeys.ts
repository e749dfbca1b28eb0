import { useCallback } from 'react';
import { useKeys } from '../../parts/useKeys.ts';
import { COMPOSE_ID } from '../deals/composeIds.ts';

export interface DayKeys {
  readonly move: (by: -1 | 1) => void;
  readonly first: () => void;
  readonly open: () => void;
  readonly undo: () => void;
  readonly help: () => void;
}

/** The keys, as they are told. */
export const DAY_KEYS = [
  ['↑ ↓', 'the deal before, and the next one'],
  ['Home', 'the first deal'],
  ['↵', 'open the deal'],
  ['1 to 9', 'give a step its result'],
  ['D', 'done, and on to the next one'],
  ['L', 'later: another day'],
  ['N', 'write a note, or log a call'],
  ['U', 'undo what was done last'],
  ['?', 'these keys'],
] as const;

/** What the keys do while nobody is writing and nothing is open over the page. */
export function useDayKeys(keys: DayKeys): void {
  useKeys(useCallback((event, target) => !event.ctrlKey && !event.metaKey && act(event, keys, target), [keys]));
}

const PRESSING = /^[1-9dlnu?]$/;

/** Whether the key meant anything. What is typed after “n”, before one can write, is no key: “l” would put the deal off. */
function act({ key, repeat }: KeyboardEvent, keys: DayKeys, target: HTMLElement | null): boolean {
  if (isAboutToWrite) return true;
  // Held down, a key does once what it does, but for those that only lead on.
  if (repeat && PRESSING.test(key)) return true;
  waiting.abort();
  waiting = new AbortController();
  if (/^[1-9]$/.test(key)) return pressIn(`.day-pane [data-key="${key}"]`);
  switch (key) {
    case 'ArrowDown':
    case 'j':
      keys.move(1);
      return true;
    case 'ArrowUp':
    case 'k':
      keys.move(-1);
      return true;
    case 'Home':
      keys.first();
      return true;
    case 'Enter':
      // On anything else that is pressed with it, it presses that.
      if (target?.closest('button:not(.day-row), a')) return false;
      keys.open();
      return true;
    case 'd':
      return pressIn('.day-pane [data-act="done"]');
    case 'l':
      return pressIn('.day-pane [data-act="later"]');
    case 'n':
      void write();
      return true;
    case 'u':
      keys.undo();
      return true;
    case '?':
      keys.help();
      return true;
    default:
      return false;
  }
}

/** Presses a button of the pane; where it is still to come, once it is there. Whether there is one, or may be. */
function pressIn(selector: string): boolean {
  const isComing = document.querySelector(`${selector}, ${BUSY}`) !== null;
  if (isComing) void pressOnceThere(`${selector}:not(:disabled)`);
  return isComing;
}

/** The pane while its deal is read, or while what is next is asked for after something was done. */
const BUSY = '.day-pane[aria-busy="true"]';
const LOOKED_AGAIN_MS = 40;
const MOST_LOOKS = 250;

const pause = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, LOOKED_AGAIN_MS));

let waiting = new AbortController();

/** A button that cannot be pressed yet waits for the answer to the press before. Whatever else is pressed meanwhile comes instead. */
async function pressOnceThere(selector: string): Promise<void> {
  const { signal } = waiting;
  window.addEventListener('pointerdown', () => waiting.abort(), { once: true, signal });
  for (let looks = 0; looks < MOST_LOOKS && !signal.aborted; looks++) {
    const button = document.querySelector<HTMLButtonElement>(selector);
    if (button) {
      waiting.abort();
      return button.click();
    }
    await pause();
  }
}

async function onceRead(): Promise<void> {
  for (let looks = 0; looks < MOST_LOOKS && document.querySelector(BUSY); looks++) await pause();
}

let isAboutToWrite = false;

async function write(): Promise<void> {
  isAboutToWrite = true;
  await onceRead();
  document.getElementById(COMPOSE_ID)?.focus();
  isAboutToWrite = false;
}
