const MOST = 100;
const revisions = new Map<string, number>();

/** Remembers at which revision one's own change left a deal. */
export function rememberOwnRevision(deal: string, revision: number): void {
  const latest = Math.max(revision, ownRevision(deal));
  revisions.delete(deal);
  revisions.set(deal, latest);
  for (const oldest of revisions.keys()) {
    if (revisions.size <= MOST) break;
    revisions.delete(oldest);
  }
}

/** The revision at which one's own last change left a deal; 0 where there was none. */
export const ownRevision = (deal: string): number => revisions.get(deal) ?? 0;
