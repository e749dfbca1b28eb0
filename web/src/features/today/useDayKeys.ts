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
  useKeys(useCallback((event, target) => !event.ctrlKey && !event.metaKey && act(event.key, keys, target), [keys]));
}

/** Whether the key meant anything. What is typed after “n”, before one can write, is no key: “l” would put the deal off. */
function act(key: string, keys: DayKeys, target: HTMLElement | null): boolean {
  if (isAboutToWrite) return true;
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

/** Presses a button of the pane; of a deal that is still being read, once it is there. Whether there is one, or may be. */
function pressIn(selector: string): boolean {
  const button = document.querySelector<HTMLButtonElement>(selector);
  if (button) button.click();
  else if (document.querySelector(BUSY)) void pressOnceRead(selector);
  else return false;
  return true;
}

const BUSY = '.day-pane[aria-busy="true"]';
const LOOKED_AGAIN_MS = 40;
const MOST_LOOKS = 50;

async function pressOnceRead(selector: string): Promise<void> {
  await onceRead();
  document.querySelector<HTMLButtonElement>(selector)?.click();
}

async function onceRead(): Promise<void> {
  for (let looks = 0; looks < MOST_LOOKS && document.querySelector(BUSY); looks++)
    await new Promise((resolve) => setTimeout(resolve, LOOKED_AGAIN_MS));
}

let isAboutToWrite = false;

async function write(): Promise<void> {
  isAboutToWrite = true;
  await onceRead();
  document.getElementById(COMPOSE_ID)?.focus();
  isAboutToWrite = false;
}
