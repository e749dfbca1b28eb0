const STORED = 'ladder-presses';
const KEPT_MS = 24 * 3_600_000;
const MOST = 50;

interface Press {
  readonly key: string;
  readonly at: number;
}

type Presses = Readonly<Record<string, Press>>;

/*
 * One key for one intention: the same request, sent again because its answer was lost, carries the key that it carried
 * before, also after the page was loaded anew. The server then does nothing twice.
 */

/** The Idempotency-Key of a request that is about to be sent. */
export function keyOfPress(request: string, now: number): string {
  const presses = recent(readPresses(), now);
  const known = presses[request]?.key;
  if (known) return known;
  const key = crypto.randomUUID();
  writePresses({ ...presses, [request]: { key, at: now } });
  return key;
}

/** The request was answered for good: sent again, it means a new intention. */
export function pressAnswered(request: string): void {
  const { [request]: _answered, ...others } = readPresses();
  writePresses(others);
}

function recent(presses: Presses, now: number): Presses {
  const kept = Object.entries(presses).filter(([, { at }]) => now - at < KEPT_MS);
  return Object.fromEntries(kept.slice(-MOST));
}

function readPresses(): Presses {
  try {
    return JSON.parse(sessionStorage.getItem(STORED) ?? '{}') as Presses;
  } catch {
    return {};
  }
}

function writePresses(presses: Presses): void {
  try {
    sessionStorage.setItem(STORED, JSON.stringify(presses));
  } catch {
    // Where the browser keeps nothing, a key lives as long as its request.
  }
}
