const KEY = 'ladder.process';

/** The process whose deals were looked at last in this browser, if it keeps such things. */
export function lastProcess(): string | null {
  try {
    return localStorage.getItem(KEY);
  } catch {
    return null;
  }
}

export function rememberProcess(id: string): void {
  try {
    localStorage.setItem(KEY, id);
  } catch {
    // A browser that keeps nothing begins with the process of most deals each time.
  }
}
