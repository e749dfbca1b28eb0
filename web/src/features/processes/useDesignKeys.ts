import type { ProcessDocument } from '@ladder/core';
import { useCallback } from 'react';
import { useKeys } from '../../parts/useKeys.ts';
import { type Selection, toText } from './useSelection.ts';

/** The keys of the design sheet, as they are told. */
export const DESIGN_KEYS = [
  ['↑ ↓', 'the stage or end before, and the next one'],
  ['Home', 'the first stage'],
  ['↵', 'on to its name, to change it'],
  ['A', 'add a stage'],
  ['R', 'add a requirement to enter the stage'],
  ['F', 'rules, reasons and fields'],
  ['Ctrl Z', 'undo'],
  ['Ctrl Shift Z', 'redo'],
  ['E', 'edit the live version as a draft'],
  ['P', 'publish'],
  ['V', 'versions'],
  ['?', 'these keys'],
] as const;

interface DesignKeys {
  readonly document: ProcessDocument;
  readonly selection: Selection;
  readonly onSelect: (selection: Selection) => void;
  readonly onHelp: () => void;
}

/** What the keys do on the design sheet while nobody is writing and nothing is open over it. */
export function useDesignKeys({ document: design, selection, onSelect, onHelp }: DesignKeys): void {
  useKeys(
    useCallback(
      (event, target) => {
        const all: readonly Selection[] = [
          ...design.stages.map(({ id }) => ({ kind: 'stage', stage: id }) as const),
          ...design.outcomes.map(({ id }) => ({ kind: 'outcome', outcome: id }) as const),
        ];
        const place = all.findIndex((one) => toText(one) === toText(selection));
        const choose = (to: number): boolean => {
          const next = all[Math.min(Math.max(to, 0), all.length - 1)];
          if (next) onSelect(next);
          document.querySelector('.sheet .rung.on')?.scrollIntoView({ block: 'nearest' });
          return next !== undefined;
        };
        const key = event.key.toLowerCase();
        if (event.ctrlKey || event.metaKey) return key === 'z' && press(event.shiftKey ? 'redo' : 'undo');
        switch (key) {
          case 'arrowdown':
            return choose(place + 1);
          case 'arrowup':
            return choose(place - 1);
          case 'home':
            return choose(0);
          case 'enter':
            // On anything else that is pressed with it, it presses that.
            return target?.closest('button, a') ? false : focusName();
          case '?':
            onHelp();
            return true;
          default:
            return key in PRESSED && press(PRESSED[key as keyof typeof PRESSED]);
        }
      },
      [design, selection, onSelect, onHelp],
    ),
  );
}

const PRESSED = { a: 'add-stage', r: 'add-requirement', f: 'process', e: 'edit', p: 'publish', v: 'versions' } as const;

/** Presses what is on the page for it; false where it is not, or cannot be pressed now. */
function press(act: string): boolean {
  const button = document.querySelector<HTMLElement>(`[data-act="${act}"]:not(:disabled)`);
  button?.click();
  return button !== null;
}

function focusName(): boolean {
  const name = document.querySelector<HTMLInputElement>('.design-panel input:not(:disabled)');
  name?.focus();
  return name !== null;
}
