import type { DealId } from '@ladder/core';
import { useSession } from '../../client/session.ts';
import { dayOf, shortDay } from '../../parts/format.ts';
import { Pieces } from '../../parts/Pieces.tsx';
import { useListJournalInfiniteQuery } from '../deals/dealsApi.ts';

const SHOWN = 3;

/** What happened last, in a few lines. */
export function LastEntries({ deal }: { deal: DealId }) {
  const { organisation } = useSession();
  const { currentData } = useListJournalInfiniteQuery(deal);
  return currentData?.pages[0]?.items.slice(0, SHOWN).map((entry) => (
    <p key={`${entry.of} ${entry.seq}`} className="journal-line">
      <Pieces says={entry.says} />
      {entry.text && <q> {entry.text}</q>}{' '}
      <small className="muted">{shortDay(dayOf(entry.happenedAt, organisation), organisation.today)}</small>
    </p>
  ));
}
