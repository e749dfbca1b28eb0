import type { DealId } from '@ladder/core';
import { Button } from 'react-bootstrap';
import { Eye, EyeFill } from 'react-bootstrap-icons';
import { countOf } from '../../parts/format.ts';
import { useGetWatchersQuery, useSetWatchingMutation } from './watchersApi.ts';

/** Whoever watches a deal is told what others do with it. */
export function WatchButton({ deal }: { readonly deal: DealId }) {
  const { data } = useGetWatchersQuery(deal);
  const [setWatching, { isLoading }] = useSetWatchingMutation();
  if (!data) return null;
  const { watching, people } = data;
  const who = people.length === 0 ? 'Nobody watches it' : `Watched by ${people.map(({ name }) => name).join(', ')}`;
  return (
    <Button
      variant="link"
      size="sm"
      className="watch"
      aria-pressed={watching}
      title={who}
      disabled={isLoading}
      onClick={() => setWatching({ deal, watching: !watching })}
    >
      {watching ? <EyeFill aria-hidden /> : <Eye aria-hidden />} {watching ? 'Watching' : 'Watch'}
      {people.length > 0 && <span className="visually-hidden">, {countOf(people.length, 'person')} in all</span>}
    </Button>
  );
}
