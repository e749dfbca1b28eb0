/*
 * What this browser remembers between visits, if it keeps such things: conveniences alone, so that one that keeps nothing
 * works as on a first visit.
 */

export function recall(key: string): string | null {
  try {
    return localStorage.getItem(key);
  } catch {
    return null;
  }
}

export function remember(key: string, value: string): void {
  try {
    localStorage.setItem(key, value);
  } catch {
    // Nothing is kept.
  }
}
