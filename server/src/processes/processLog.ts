import type { processes as contract, TypeOf } from '@ladder/contract';
import type { ProcessId } from '@ladder/core';
import type { Context } from '../context.ts';
import { DEFAULT_LIMIT, readCursor, toPage } from '../http/pages.ts';
import { changesOf, type Told } from '../settingsLog/settingsLog.ts';
import { findLogEntries } from './repository/processes.ts';

type Entry = TypeOf<typeof contract.log>['items'][number];

/** What was changed of a process beside its versions (S27). */
export async function listProcessLog(
  context: Context,
  process: ProcessId,
  query: { readonly after?: string; readonly limit?: number },
): Promise<unknown> {
  const [limit, cursor] = [query.limit ?? DEFAULT_LIMIT, readCursor(query.after, ['number'])];
  const rows = await findLogEntries(context.dataSource, process, limit + 1, cursor?.[0]);
  return toPage(
    rows,
    limit,
    ({ id }) => [Number(id)],
    ({ id, at, by, what, before, after }): Entry => ({
      id,
      at: at.toISOString(),
      by,
      what,
      changes: changesOf(told(before), told(after)),
    }),
  );
}

/** What stands within is told under the names of both: `house rules, idle`. */
function told(value: unknown, above = ''): Told {
  if (value === null || value === undefined) return above === '' ? {} : { [above]: null };
  if (Array.isArray(value)) return { [above]: value.map(nameOf) };
  if (typeof value !== 'object') return { [above]: value as string | number | boolean };
  return Object.assign(
    {},
    ...Object.entries(value).map(([part, one]) =>
      told(one, above === '' ? inWords(part) : `${above}, ${inWords(part)}`),
    ),
  );
}

const inWords = (name: string): string =>
  name.replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`).replaceAll('_', ' ');

/** One of a list: a reason by its name, with what else is so of it. */
function nameOf(one: unknown): string {
  if (typeof one !== 'object' || one === null || !('name' in one)) return String(one);
  const also = [
    'withdrawn' in one && one.withdrawn === 'yes' ? 'withdrawn' : '',
    'followUp' in one && one.followUp === 'asked' ? 'asks a follow-up' : '',
  ].filter((word) => word !== '');
  return also.length > 0 ? `${String(one.name)} (${also.join(', ')})` : String(one.name);
}
