import { useEffect } from 'react';

const WRITING = 'input, textarea, select, [contenteditable="true"]';

/** What keys do on a page while nobody is writing and nothing is open over it; `act` says whether one meant anything. */
export function useKeys(act: (event: KeyboardEvent, target: HTMLElement | null) => boolean): void {
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const target = event.target instanceof HTMLElement ? event.target : null;
      if (event.altKey || event.defaultPrevented) return;
      if (target?.closest(WRITING) || document.querySelector('.modal.show, .dropdown-menu.show')) return;
      if (act(event, target)) event.preventDefault();
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, [act]);
}
