import type { ProcessId } from '@ladder/core';
import type { Context } from '../context.ts';
import { DEFAULT_LIMIT, readCursor, toPage } from '../http/pages.ts';
import { notFound } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import { versionsOf } from '../setting/repository/versions.ts';
import { findProcesses, seesDrafts } from './repository/processes.ts';

/** Processes that the person may see, each with the open deals that they may see. */
export async function listProcesses(
  context: Context,
  person: Person,
  query: { after?: string; limit?: number },
): Promise<unknown> {
  const [limit, cursor] = [query.limit ?? DEFAULT_LIMIT, readCursor(query.after, ['text'])];
  const rows = await findProcesses(context.dataSource, person, limit + 1, cursor?.[0]);
  const versions = await versionsOf(
    context.dataSource,
    person,
    rows.map(({ id }) => id),
  );
  const live = new Map(
    versions.flatMap(({ process, ...version }) => (version.state === 'live' ? [[process, version] as const] : [])),
  );
  return toPage(
    rows,
    limit,
    (row) => [row.name_fold],
    (row) => ({
      id: row.id,
      name: row.name,
      purpose: row.document?.purpose ?? '',
      kind: row.kind,
      openDeals: openDealsIn(versions, row.id),
      stages: row.document?.stages.length ?? 0,
      live: live.get(row.id) ?? null,
      closedToNew: row.closed,
      draft:
        row.draft_number === null || !seesDrafts(person)
          ? null
          : { number: row.draft_number, savedAt: row.draft_saved?.toISOString() ?? '' },
    }),
  );
}

const openDealsIn = (
  versions: readonly { readonly process: ProcessId; readonly openDeals: number }[],
  id: ProcessId,
): number => versions.filter(({ process }) => process === id).reduce((sum, version) => sum + version.openDeals, 0);

/** Of the processes that are listed first, the live one that most of the open deals are in that the person sees. */
export async function busiestProcess({ dataSource }: Context, person: Person): Promise<ProcessId> {
  const ids = (await findProcesses(dataSource, person, DEFAULT_LIMIT, undefined)).map(({ id }) => id);
  const versions = await versionsOf(dataSource, person, ids);
  const live = ids.filter((id) => versions.some(({ process, state }) => process === id && state === 'live'));
  const [busiest] = live.toSorted((a, b) => openDealsIn(versions, b) - openDealsIn(versions, a));
  if (!busiest) throw notFound('process');
  return busiest;
}
