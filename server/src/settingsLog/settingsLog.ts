import type { settingsLog as contract, SettingLogged, TypeOf } from '@ladder/contract';
import { canonicalText } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import type { Context } from '../context.ts';
import { SettingsLogEntryEntity } from '../db/entities/settingsLogEntry.ts';
import { at } from '../db/sql.ts';
import { DEFAULT_LIMIT, readCursor, toPage } from '../http/pages.ts';
import type { Person } from '../session/person.ts';
import { findEntries } from './repository.ts';

/** What was so of a setting, by name; no secret is ever told. */
export type Told = Readonly<Record<string, string | number | boolean | null | readonly string[]>>;

export interface SettingChange {
  readonly what: SettingLogged;
  /** What it is called. */
  readonly subject: string;
  /** Null where it is new. */
  readonly before: Told | null;
  readonly after: Told;
}

/** Who sets something, and when. */
export interface Setter {
  readonly by: string;
  readonly now: number;
}

export const setterOf = ({ clock }: Context, { id }: Person): Setter => ({ by: id, now: clock.now() });

/** Keeps a change in the transaction that makes it; what is left as it was is no change. */
export async function logSetting(tx: EntityManager, change: SettingChange, { by, now }: Setter): Promise<void> {
  if (change.before && canonicalText(change.before) === canonicalText(change.after)) return;
  await tx.getRepository(SettingsLogEntryEntity).insert({ ...change, at: at(now), byId: by } as object);
}

type Entry = TypeOf<typeof contract.entry>;

export async function listSettingsLog(
  context: Context,
  query: { readonly after?: string; readonly limit?: number },
): Promise<unknown> {
  const [limit, cursor] = [query.limit ?? DEFAULT_LIMIT, readCursor(query.after, ['number'])];
  const rows = await findEntries(context.dataSource, limit + 1, cursor?.[0]);
  return toPage(
    rows,
    limit,
    ({ id }) => [Number(id)],
    ({ id, at: when, by, what, subject, before, after }): Entry => ({
      id,
      at: when.toISOString(),
      by,
      what,
      subject,
      changes: changesOf(before ?? {}, after ?? {}),
    }),
  );
}

/** Which parts differ, in words. */
export const changesOf = (before: Told, after: Told): Entry['changes'] =>
  [...new Set([...Object.keys(before), ...Object.keys(after)])]
    .map((part) => ({ part, before: words(before[part]), after: words(after[part]) }))
    .filter((change) => change.before !== change.after);

function words(value: Told[string] | undefined): string | null {
  if (value === undefined || value === null) return null;
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  return typeof value === 'object' ? value.join(', ') || 'none' : String(value);
}
