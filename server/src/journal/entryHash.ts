import { createHash } from 'node:crypto';
import type { DealId, ProcessId, StageId } from '@ladder/core';

/** A journal entry as it is read to be verified; what PostgreSQL keeps as jsonb comes as its text. */
export interface HashedEntry {
  readonly deal: DealId;
  readonly seq: number;
  readonly kind: string;
  readonly stage: StageId;
  /** Microseconds since 1970, as decimal texts. */
  readonly happened: string;
  readonly recorded: string;
  readonly by: string | null;
  readonly body: string;
  readonly digest: string | null;
}

/**
 * The hash of an entry behind the one before it, in hex, by the bytes that docs/formats.md writes down: computed here and
 * not by the database, which whoever tampers with it may have taught another function.
 */
export function entryHash(previous: string, entry: HashedEntry): string {
  const parts = [
    JSON.stringify(previous),
    JSON.stringify(entry.deal),
    String(entry.seq),
    JSON.stringify(entry.kind),
    JSON.stringify(entry.stage),
    entry.happened,
    entry.recorded,
    JSON.stringify(entry.by),
    entry.body,
    JSON.stringify(entry.digest),
  ];
  return sha256(`[${parts.join(', ')}]`);
}

/** What happened to a process as a whole, as it is read to be verified. */
export interface HashedEvent extends Omit<HashedEntry, 'deal' | 'stage' | 'digest'> {
  readonly process: ProcessId;
}

/** The same of an event of a process. */
export function eventHash(previous: string, event: HashedEvent): string {
  const parts = [
    JSON.stringify(previous),
    JSON.stringify(event.process),
    String(event.seq),
    JSON.stringify(event.kind),
    event.happened,
    event.recorded,
    JSON.stringify(event.by),
    event.body,
  ];
  return sha256(`[${parts.join(', ')}]`);
}

/** What a text's digest should be, in hex. */
export const textDigest = (salt: Buffer, text: string): string =>
  createHash('sha256').update(salt).update(text, 'utf8').digest('hex');

export interface CheckedHead {
  readonly deal: DealId;
  readonly count: number;
  readonly hash: string;
}

/** The digest of a checkpoint, in hex: over the one before, its number, and each head that changed since, by deal. */
export function checkpointDigest(previous: string, number: number, heads: readonly CheckedHead[]): string {
  const lines = heads.map(({ deal, count, hash }) => `${deal} ${count} ${hash}\n`);
  return sha256(`${previous} ${number}\n${lines.join('')}`);
}

const sha256 = (text: string): string => createHash('sha256').update(text, 'utf8').digest('hex');
