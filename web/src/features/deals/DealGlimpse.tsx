import { useAppSelector } from '../../client/hooks.ts';
import { useSession } from '../../client/session.ts';
import type { RootState } from '../../client/store.ts';
import { shortDay, shortValue } from '../../parts/format.ts';
import { Loading } from '../../parts/Loading.tsx';
import { StandingBadge } from '../../parts/StandingBadge.tsx';
import { DealHeading } from './DealHeading.tsx';
import { type DealCard, dealsApi, type Lanes } from './dealsApi.ts';

/** Of a deal that was opened from a lane, what the lane knew: shown at once, until the deal itself is there. */
export function DealGlimpse({ id }: { id: string }) {
  const { organisation } = useSession();
  const lanes = useAppSelector((state) => lanesWith(state, id));
  const stage = [...(lanes?.stages ?? []), ...(lanes?.otherStages ?? [])].find(({ cards }) => cards.some(isCard(id)));
  const card = stage?.cards.find(isCard(id));
  if (!lanes || !card) return <Loading />;
  const facts = [
    ['Value', shortValue(card.value)],
    ['Close date', card.closeDate ? shortDay(card.closeDate, organisation.today) : 'none'],
    ['Owner', card.owner ?? 'nobody'],
    ...(card.customer ? [['Customer', card.customer] as const] : []),
  ] as const;
  return (
    <>
      <DealHeading
        process={lanes.process.id}
        crumb={`${lanes.process.name} / ${stage?.name}`}
        name={card.name}
        badge={<StandingBadge standing={card.standing} />}
        facts={facts}
      />
      <Loading />
    </>
  );
}

const isCard =
  (id: string) =>
  (card: DealCard): boolean =>
    card.id === id;

/** The lanes that were read and have the deal among their cards. */
function lanesWith(state: RootState, id: string): Lanes | undefined {
  const read = dealsApi.util
    .selectCachedArgsForQuery(state, 'getLanes')
    .map((asked) => dealsApi.endpoints.getLanes.select(asked)(state).data);
  return read.find(
    (lanes) => lanes && [...lanes.stages, ...lanes.otherStages].some(({ cards }) => cards.some(isCard(id))),
  );
}
