import {
  DEAL_PART_NAMES,
  type Deal,
  type DealId,
  type DealPartName,
  type DealWith,
  type FactPartName,
  type ProcessId,
  type PublishReach,
  requirementSieve,
  type Setting,
} from '@ladder/core';
import type { Connection } from '../db/sql.ts';
import { loadDeals } from '../deals/repository/loadDeals.ts';
import { oneAhead } from './oneAhead.ts';
import { BATCH, type LookedAt, type LookedFor, lookAtOpenDeals } from './repository/openDeals.ts';

/** Deals to be judged, and how many open ones were looked at by then. */
export interface ReachedDeals {
  readonly ids: readonly DealId[];
  readonly looked: number;
}

/** A publish, and whom it may bring something. */
export interface Publishing {
  readonly process: ProcessId;
  readonly reach: PublishReach;
  /** What surrounds a deal by the version that is live; null where none is. */
  readonly from: Setting | null;
  /** The same once the draft is. */
  readonly to: Setting;
  readonly now: number;
}

/**
 * The open deals that a publish may bring something, in batches of a size that is judged at once; while one is judged, the
 * next is looked for. Where the publish changes requirements alone, most deals are told apart by what those read, without
 * being judged: whoever is not in the way of one, neither as it was nor as it will be, has no finding that hangs on it.
 */
export function reachedDeals(
  connection: Connection,
  { process, reach, from, to, now }: Publishing,
  lookedFor: LookedFor,
): AsyncGenerator<ReachedDeals> {
  const requirements = reach.reach === 'requirements' ? reach.requirements : [];
  const sieves = [to, ...(from ? [from] : [])].map((setting) => requirementSieve(requirements, setting));
  const parts = [...new Set(sieves.flatMap((sieve) => sieve.parts))];
  const looks = oneAhead(lookAtOpenDeals(connection, process, reach, lookedFor, now));
  const inTheWay = (deal: DealWith<FactPartName>): boolean => sieves.some((sieve) => sieve.catches(deal, now));
  return oneAhead(batchesOf(oneAhead(withParts(connection, looks, parts)), inTheWay));
}

const JUDGED_BY = DEAL_PART_NAMES.filter((name): name is Exclude<DealPartName, 'tasks'> => name !== 'tasks');

/** The deals to be judged. No finding hangs on tasks, of which many have many: they are left out. */
export const loadToJudge = async (connection: Connection, ids: readonly DealId[]): Promise<readonly Deal[]> =>
  (await loadDeals(connection, ids, JUDGED_BY)).map((deal) => ({ ...deal, tasks: [] }));

/** Deals that were looked at, with the parts of those that it is unclear of. */
interface Read {
  readonly deals: readonly LookedAt[];
  readonly unclear: readonly DealWith<FactPartName>[];
}

async function* withParts(
  connection: Connection,
  looks: AsyncIterable<readonly LookedAt[]>,
  parts: readonly FactPartName[],
): AsyncGenerator<Read> {
  for await (const deals of looks) {
    const ids = deals.filter(({ concerned }) => concerned === 'perhaps').map(({ id }) => id);
    yield { deals, unclear: ids.length === 0 ? [] : await loadDeals(connection, ids, parts) };
  }
}

async function* batchesOf(
  reads: AsyncIterable<Read>,
  inTheWay: (deal: DealWith<FactPartName>) => boolean,
): AsyncGenerator<ReachedDeals> {
  let looked = 0;
  let waiting: readonly DealId[] = [];
  for await (const { deals, unclear } of reads) {
    looked += deals.length;
    const caught = new Set(unclear.filter(inTheWay).map(({ id }) => id));
    const reached = deals.filter(({ id, concerned }) => concerned === 'surely' || caught.has(id));
    waiting = [...waiting, ...reached.map(({ id }) => id)];
    for (; waiting.length >= BATCH; waiting = waiting.slice(BATCH))
      yield { ids: waiting.slice(0, BATCH), looked: looked - waiting.length + BATCH };
  }
  if (waiting.length > 0) yield { ids: waiting, looked };
}
