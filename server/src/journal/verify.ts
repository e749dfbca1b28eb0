import type { DealId, ProcessId } from '@ladder/core';
import type { Connection } from '../db/sql.ts';
import { checkpointDigest, entryHash, eventHash, textDigest } from './entryHash.ts';
import {
  type Checkpoint,
  type DealRow,
  type EntryRow,
  type EventRow,
  lastCheckpoint,
  readCheckpoints,
  readDeals,
  readEntries,
  readEvents,
} from './repository.ts';

/** What is wrong with the journal, at the first place where it is. */
export type Broken =
  | {
      /** An entry says another thing than was written, is gone from the middle or from the end, was added, or its text was altered or taken away. */
      readonly what: 'changed' | 'missing' | 'cut off' | 'added' | 'text changed' | 'text gone';
      readonly deal: DealId;
      readonly seq: number;
    }
  | { readonly what: 'head changed'; readonly deal: DealId }
  | { readonly what: 'publish changed' | 'publish missing'; readonly process: ProcessId; readonly event: number }
  | { readonly what: 'checkpoint changed' | 'checkpoint missing'; readonly number: number };

export interface Verification {
  readonly entries: number;
  readonly checkpoint: Checkpoint | null;
  readonly broken: Broken | null;
}

/**
 * Goes through the whole journal: each deal's chain, its texts, its head, and the checkpoints over all of them. Against a
 * checkpoint that was kept elsewhere it also finds what someone who may write everything made to agree since: entries that
 * were cut off or written anew together with their head, and deals that were emptied or deleted.
 */
export async function verifyJournal(connection: Connection, kept: Checkpoint | null = null): Promise<Verification> {
  const checkpoint = await lastCheckpoint(connection);
  const chain = await verifyCheckpoints(connection, kept);
  const book = await verifyDeals(connection);
  const events = verifyEvents(await readEvents(connection));
  return { entries: book.entries, checkpoint, broken: chain.broken ?? book.broken ?? events };
}

/** Each process's chain of what happened to it as a whole; its end is the version that is live. */
function verifyEvents(events: readonly EventRow[]): Broken | null {
  let previous: EventRow | null = null;
  for (const event of events) {
    const before: EventRow | null = previous?.process === event.process ? previous : null;
    const { process } = event;
    const expected = (before?.seq ?? 0) + 1;
    if (event.seq !== expected) return { what: 'publish missing', process, event: expected };
    if (eventHash(before?.hash ?? '', event) !== event.hash)
      return { what: 'publish changed', process, event: event.seq };
    if (event.is_last && !event.is_live) return { what: 'publish missing', process, event: event.seq + 1 };
    previous = event;
  }
  return null;
}

/** The chain of checkpoints, and the kept one in it. */
async function verifyCheckpoints(connection: Connection, kept: Checkpoint | null): Promise<{ broken: Broken | null }> {
  let previous = '';
  let expected = 1;
  for await (const { number, digest, heads } of readCheckpoints(connection)) {
    if (number !== expected) return { broken: { what: 'checkpoint missing', number: expected } };
    if (checkpointDigest(previous, number, heads) !== digest) return { broken: { what: 'checkpoint changed', number } };
    if (kept?.number === number && kept.digest !== digest) return { broken: { what: 'checkpoint changed', number } };
    previous = digest;
    expected++;
  }
  return { broken: kept && kept.number >= expected ? { what: 'checkpoint missing', number: expected } : null };
}

async function verifyDeals(connection: Connection): Promise<{ entries: number; broken: Broken | null }> {
  let entries = 0;
  let first: Found | null = null;
  for await (const deals of readDeals(connection)) {
    const byDeal = await readEntries(connection, deals);
    for (const deal of deals) {
      const own = byDeal.get(deal.deal) ?? [];
      entries += own.length;
      const found = verifyDeal(deal, own);
      if (found && (!first || found.at < first.at)) first = found;
    }
  }
  return { entries, broken: first?.broken ?? null };
}

/** What is broken, and the place in the journal by which the first of several is told. */
interface Found {
  readonly at: number;
  readonly broken: Broken;
}

const AT_THE_END = Number.MAX_SAFE_INTEGER;

function verifyDeal(deal: DealRow, entries: readonly EntryRow[]): Found | null {
  let previous = '';
  for (const [place, entry] of entries.entries()) {
    const broken = verifyEntry(deal, entry, place + 1, previous);
    if (broken) return { at: Number(entry.id), broken };
    previous = entry.hash;
    if (deal.checked_count === entry.seq && deal.checked_hash !== entry.hash)
      return { at: Number(entry.id), broken: { what: 'changed', deal: deal.deal, seq: entry.seq } };
  }
  return verifyEnd(deal, entries, previous);
}

function verifyEntry(deal: DealRow, entry: EntryRow, seq: number, previous: string): Broken | null {
  const at = (what: Extract<Broken, { readonly seq: number }>['what'], place = seq): Broken => ({
    what,
    deal: deal.deal,
    seq: place,
  });
  if (entry.seq > seq) return at('missing');
  if (entry.seq < seq) return at('added', entry.seq);
  if (entryHash(previous, entry) !== entry.hash) return at('changed');
  if (!entry.has_text) return null;
  if (entry.text === null) return entry.erased ? null : at('text gone');
  return textDigest(entry.salt ?? Buffer.alloc(0), entry.text) === entry.digest ? null : at('text changed');
}

/** Whether the chain goes as far as its head and the checkpoints say. */
function verifyEnd(deal: DealRow, entries: readonly EntryRow[], hash: string): Found | null {
  const written = Math.max(deal.count ?? 0, deal.checked_count ?? 0);
  const at = (broken: Broken): Found => ({ at: AT_THE_END, broken });
  if (entries.length < written) return at({ what: 'cut off', deal: deal.deal, seq: entries.length + 1 });
  if (deal.count === null && entries.length === 0) return null;
  if (entries.length > (deal.count ?? 0)) {
    const added = entries[deal.count ?? 0];
    return { at: Number(added?.id ?? AT_THE_END), broken: { what: 'added', deal: deal.deal, seq: added?.seq ?? 0 } };
  }
  return hash === (deal.hash ?? '') ? null : at({ what: 'head changed', deal: deal.deal });
}
