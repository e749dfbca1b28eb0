/** An instant as PostgreSQL reads it from JSON; what never ends is infinity. */
export const iso = (at: number | null): string | null =>
  at === null ? null : at === Number.POSITIVE_INFINITY ? 'infinity' : new Date(at).toISOString();
