/** An instant as PostgreSQL reads it from JSON; what never ends, or has no beginning, is infinity there too. */
export function iso(at: number | null): string | null {
  if (at === null) return null;
  if (Number.isFinite(at)) return new Date(at).toISOString();
  return at > 0 ? 'infinity' : '-infinity';
}
