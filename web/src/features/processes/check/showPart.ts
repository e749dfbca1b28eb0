const ATTEMPTS = 20;

/** Brings a part of the panel into view and to the keyboard, once the panel shows it; its head where there is no such part. */
export function showPart(part: string | null, attempts = ATTEMPTS): void {
  requestAnimationFrame(() => {
    const panel = document.querySelector('.design-panel');
    const found =
      part === null
        ? panel?.querySelector<HTMLElement>('h2')
        : panel?.querySelector<HTMLElement>(`[data-part="${CSS.escape(part)}"]`);
    if (!found) {
      if (attempts > 0) showPart(attempts > 1 ? part : null, attempts - 1);
      return;
    }
    found.tabIndex = -1;
    found.focus({ preventScroll: true });
    found.scrollIntoView({ block: 'center' });
  });
}
