import { isDeepStrictEqual } from 'node:util';
import { DEAL_PART_NAMES, type Deal, type DealId } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { inOrder } from '../../db/inOrder.ts';
import { kept } from '../../db/keepingClient.ts';
import { KeptBySource } from '../../db/keptBySource.ts';
import { type Connection, sql } from '../../db/sql.ts';
import { onceCommitted } from '../../db/transactions.ts';
import { MARK, MARKED } from '../../setting/repository/settings.ts';
import { followedBy } from './followed.ts';
import { type HeadRow, loadRows, toDeal } from './loadDeals.ts';
import { storedParts } from './storedParts.ts';
import { changesRow, type DealWrite } from './writeDeals.ts';

/*
 * Whoever works on a deal asks for it again with every press, and gathering its parts takes the database longer than most
 * presses. So a server keeps whole deals as they were read or written last, and asks first which transactions last wrote the rows
 * that they are made of: while those are the same, so is the deal. Whatever writes a part of a deal writes its head (S34).
 */

/** The transactions that last wrote a deal's row, its head, and the rows of its customer and contact. */
interface WrittenBy {
  readonly row: string;
  readonly head: string;
  readonly customer: string | null;
  readonly contact: string | null;
}

/** What a deal is known by, as it was looked at. */
interface Marks extends WrittenBy {
  /** Of its setting; null where this transaction has written that. */
  readonly mark: string | null;
  readonly version: Deal['version'];
  /** This transaction, where it has written anything. */
  readonly own: string | null;
}

/** A deal with all its parts, and what they were known by then. */
export interface WholeDeal extends Omit<Marks, 'version'> {
  readonly deal: Deal;
}

const keptDeals = new KeptBySource<DealId, WholeDeal>(600);

/** Where it is asked for, every deal that was kept is read as well and compared: for tests, and for whoever doubts. */
const IS_CHECKED = process.env.LADDER_CHECK_KEPT === 'yes';

const MARKS = `${MARK} as mark, own.id::text as own, d.xmin::text as row, h.xmin::text as head, cu.xmin::text as customer, co.xmin::text as contact`;

/** One deal with all its parts; null where there is none. */
export async function loadWholeDeal(connection: Connection, id: DealId): Promise<WholeDeal | null> {
  const known = keptDeals.get(connection, id);
  if (!known) return readWhole(connection, id);
  const [marks, read] = await inOrder(lookAt(connection, id), IS_CHECKED ? readWhole(connection, id) : NOT_READ);
  if (!marks) return null;
  if (!isSame(known, marks)) return readWhole(connection, id);
  if (read) requireSame(known, read);
  return { ...known, own: marks.own };
}

async function lookAt(connection: Connection, id: DealId): Promise<Marks | null> {
  const [marks] = await sql<Marks>(
    connection,
    kept(`select fv.id as version, ${MARKS}
     from deals d join deal_heads h on h.deal_id = d.id ${followedBy('d')}
     left join customers cu on cu.id = d.customer_id left join contacts co on co.id = d.contact_id ${MARKED}
     where d.id = :id::uuid`),
    { id },
  );
  return marks ?? null;
}

async function readWhole(connection: Connection, id: DealId): Promise<WholeDeal | null> {
  const [read] = await loadRows<HeadRow & Omit<Marks, 'version'>>(
    connection,
    [id],
    DEAL_PART_NAMES,
    `${MARKS}, `,
    MARKED,
  );
  if (!read) return null;
  const { mark, own, row, head, customer, contact, ...rest } = read;
  const whole = { deal: toDeal(rest, DEAL_PART_NAMES), mark, own, row, head, customer, contact };
  if (!isOwn(whole)) keptDeals.keep(connection, id, whole);
  return whole;
}

/** What a transaction has written it may write again, and nothing would tell. */
export const isOwn = ({ own, row, head, customer, contact }: Omit<Marks, 'version' | 'mark'>): boolean =>
  own !== null && [row, head, customer, contact].includes(own);

const isSame = (known: WholeDeal, marks: Marks): boolean =>
  !isOwn(marks) &&
  known.mark !== null &&
  known.mark === marks.mark &&
  known.deal.version === marks.version &&
  known.row === marks.row &&
  known.head === marks.head &&
  known.customer === marks.customer &&
  known.contact === marks.contact;

/** Keeps a deal as a transaction leaves it, once it is committed. */
export function keepWritten(tx: EntityManager, loaded: WholeDeal, write: DealWrite): void {
  const { deal } = write.change;
  if (deal === loaded.deal) return;
  const { own } = loaded;
  const parts = storedParts().map(({ asRead }) => (asRead ? asRead(deal, loaded.deal) : {}));
  const isElsewhere = ['customer', 'contact'].some((party) => deal.values[party] !== loaded.deal.values[party]);
  const isTold = own !== null && !isOwn(loaded) && !isElsewhere && deal.version === loaded.deal.version;
  if (!isTold || parts.includes(null)) {
    forgetDeal(tx, deal.id);
    return;
  }
  const row = changesRow(write) ? own : loaded.row;
  const written = { ...loaded, deal: Object.assign({ ...deal }, ...parts), row, head: own, own: null };
  onceCommitted(tx, () => keptDeals.keep(tx, deal.id, written));
}

/** Keeps a deal no longer of which a transaction has written what is told by nothing of it. */
export const forgetDeal = (tx: EntityManager, id: DealId): void => onceCommitted(tx, () => keptDeals.forget(tx, id));

const NOT_READ = Promise.resolve(null);

/** Where both were as they are when they were read: someone may have come in between. */
function requireSame(known: WholeDeal, read: WholeDeal): void {
  if (isSame(known, { ...read, version: read.deal.version }) && !isDeepStrictEqual(known.deal, read.deal))
    throw new Error(`A deal was kept as ${JSON.stringify(known.deal)} and is ${JSON.stringify(read.deal)}`);
}
