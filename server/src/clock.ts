/** Where the server's time comes from; tests and the demo wire one that they can move. */
export interface Clock {
  /** Milliseconds since 1970-01-01T00:00Z. */
  now(): number;
}

export const systemClock: Clock = { now: () => Date.now() };
