import type { bell as contract, TypeOf } from '@ladder/contract';
import { type DealId, NOTICE_KINDS } from '@ladder/core';
import { type Context, inCommand } from '../context.ts';
import { PersonEntity } from '../db/entities/person.ts';
import { WatcherEntity } from '../db/entities/watcher.ts';
import { openDeal } from '../deals/runCommand.ts';
import { DEFAULT_LIMIT, readCursor, toPage } from '../http/pages.ts';
import type { Person } from '../session/person.ts';
import { countOwn, countUnread, findNotices, findWatchers, markRead } from './repository.ts';

type View = TypeOf<typeof contract.notice>;
type Choices = TypeOf<typeof contract.choices>;
type Watchers = TypeOf<typeof contract.watchers>;

/** What was told to a person, the latest first. */
export async function listNotices(
  context: Context,
  person: Person,
  query: { readonly after?: string; readonly limit?: number },
): Promise<unknown> {
  const [limit, cursor] = [query.limit ?? DEFAULT_LIMIT, readCursor(query.after, ['instant', 'number'])];
  const rows = await findNotices(context.dataSource, person, limit + 1, cursor);
  const processes = rows.flatMap(({ published }) => (published ? [published.process.id] : []));
  const own = await countOwn(context.dataSource, person.id, processes);
  return toPage(
    rows,
    limit,
    ({ at, id }) => [at.toISOString(), Number(id)],
    ({ at, published, ...row }): View => ({
      ...row,
      at: at.toISOString(),
      published: published && { ...published, deals: own.get(published.process.id) ?? 0 },
    }),
  );
}

export const unreadOf = async (context: Context, person: Person): Promise<TypeOf<typeof contract.unread>> => ({
  unread: await countUnread(context.dataSource, person),
});

export const readNotices = (
  context: Context,
  person: Person,
  { notices }: TypeOf<typeof contract.reading>,
): Promise<TypeOf<typeof contract.unread>> =>
  inCommand(context, async (tx) => {
    await markRead(tx, person.id, notices, context.clock.now());
    return { unread: await countUnread(tx, person) };
  });

/** All kinds are in the digest until someone chooses. */
export async function choicesOf(context: Context, { id }: Person): Promise<Choices> {
  const row = await context.dataSource.getRepository(PersonEntity).findOneByOrFail({ id });
  return { digest: row.mailedKinds ?? NOTICE_KINDS };
}

export async function choose(context: Context, { id }: Person, { digest }: Choices): Promise<Choices> {
  const kinds = NOTICE_KINDS.filter((kind) => digest.includes(kind));
  await context.dataSource.getRepository(PersonEntity).update({ id }, { mailedKinds: kinds });
  return { digest: kinds };
}

/** Who watches a deal that the person may see. */
export async function watchersOf(context: Context, person: Person, deal: DealId): Promise<Watchers> {
  await openDeal(context.dataSource, person, deal, []);
  const people = await findWatchers(context.dataSource, deal);
  return { watching: people.some(({ id }) => id === person.id), people };
}

export async function setWatching(
  context: Context,
  person: Person,
  deal: DealId,
  watching: 'yes' | 'no',
): Promise<Watchers> {
  await openDeal(context.dataSource, person, deal, []);
  const row = { dealId: deal, personId: person.id };
  const watchers = context.dataSource.getRepository(WatcherEntity);
  if (watching === 'yes') await watchers.upsert(row, ['dealId', 'personId']);
  else await watchers.delete(row);
  return watchersOf(context, person, deal);
}
