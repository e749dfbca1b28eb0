import { type DealId, type ProcessId, type PublishReach, requirementSieve, type Setting } from '@ladder/core';
import type { Connection } from '../db/sql.ts';
import { loadDeals } from '../deals/repository/loadDeals.ts';
import { oneAhead } from './oneAhead.ts';
import { BATCH, type LookedAt, lookAtOpenDeals } from './repository/openDeals.ts';

/** Deals to be judged, and how many open ones were looked at by then. */
export interface ReachedDeals {
  readonly ids: readonly DealId[];
  readonly looked: number;
}

/**
 * The open deals that a publish of the version `to` at `now` may bring something, in batches of a size that is judged at
 * once; while one is judged, the next is looked for. Where the publish changes requirements alone, most deals are told apart
 * by what those read, without being judged.
 */
export const reachedDeals = (...asked: Parameters<typeof lookForReached>): AsyncGenerator<ReachedDeals> =>
  oneAhead(lookForReached(...asked));

async function* lookForReached(
  connection: Connection,
  process: ProcessId,
  reach: PublishReach,
  to: Setting,
  now: number,
): AsyncGenerator<ReachedDeals> {
  const sieve = requirementSieve(reach.reach === 'requirements' ? reach.requirements : [], to);
  const caught = async (deals: readonly LookedAt[]): Promise<readonly DealId[]> => {
    const unclear = deals.filter(({ concerned }) => concerned === 'perhaps').map(({ id }) => id);
    const read = unclear.length === 0 ? [] : await loadDeals(connection, unclear, sieve.parts);
    const inTheWay = new Set(read.filter((deal) => sieve.catches(deal, now)).map(({ id }) => id));
    return deals.filter(({ id, concerned }) => concerned === 'surely' || inTheWay.has(id)).map(({ id }) => id);
  };
  let looked = 0;
  let waiting: readonly DealId[] = [];
  for await (const deals of lookAtOpenDeals(connection, process, reach, now)) {
    looked += deals.length;
    waiting = [...waiting, ...(await caught(deals))];
    for (; waiting.length >= BATCH; waiting = waiting.slice(BATCH))
      yield { ids: waiting.slice(0, BATCH), looked: looked - waiting.length + BATCH };
  }
  if (waiting.length > 0) yield { ids: waiting, looked };
}
