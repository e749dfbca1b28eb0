import { randomUUID } from 'node:crypto';
import { DEMO_PASSWORD } from '@ladder/contract';
import { ADMINISTRATOR } from '@ladder/demo/company/people.ts';
import { PROCESS_IDS } from '@ladder/demo/demoBook.ts';
import { type BenchBook, onCopies } from './book/benchBook.ts';
import { Caller } from './load/caller.ts';
import { median } from './load/inTurns.ts';
import { serveOurs } from './load/processes.ts';

/*
 * How long a page of one deal and a note take while others, who see all deals, load the lanes of a large process without a pause, beside how long
 * they take alone.
 */

const PROCESS = PROCESS_IDS.newBuild;
const LOADING = 8;
const SECONDS = 10;

type Asked = (caller: Caller, deal: string) => Promise<{ readonly status: number; readonly seconds: number }>;
const ASKED: Readonly<Record<string, Asked>> = {
  'deal page': (caller, deal) => caller.ask('GET', `/api/v1/deals/${deal}`),
  note: (caller, deal) =>
    caller.ask(
      'POST',
      `/api/v1/deals/${deal}/activities`,
      { kind: 'note', text: 'Said' },
      { 'Idempotency-Key': randomUUID() },
    ),
};

/** Asks again and again until it is over; gives the seconds that each took. */
async function keepAsking(isOver: () => boolean, ask: () => ReturnType<Asked>): Promise<readonly number[]> {
  const seconds: number[] = [];
  while (!isOver()) {
    const answer = await ask();
    if (answer.status >= 400) throw new Error(`It was answered ${answer.status}`);
    seconds.push(answer.seconds);
  }
  return seconds;
}

async function measureBook(book: BenchBook): Promise<void> {
  const server = await serveOurs(book.serverUrl);
  const callers = Array.from({ length: LOADING + 2 }, () => new Caller(server.url));
  for (const caller of callers) await caller.signIn(ADMINISTRATOR.email, DEMO_PASSWORD);
  const own = callers.slice(0, 2);
  const { items } = await (own[0] as Caller).read<{ items: { id: string }[] }>(
    `/api/v1/deals?process=${PROCESS}&limit=2`,
  );
  const measured = async (loading: readonly Caller[]): Promise<readonly number[]> => {
    let over = false;
    const isOver = () => over;
    setTimeout(() => {
      over = true;
    }, SECONDS * 1_000);
    const lanes = loading.map((caller) =>
      keepAsking(isOver, () => caller.ask('GET', `/api/v1/processes/${PROCESS}/lanes`)),
    );
    const asked = await Promise.all(
      Object.values(ASKED).map((ask, place) =>
        keepAsking(isOver, () => ask(own[place] as Caller, items[place]?.id ?? '')),
      ),
    );
    await Promise.all(lanes);
    return asked.map(median);
  };
  await measured([]);
  const [alone, beside] = [await measured([]), await measured(callers.slice(2))];
  for (const [place, name] of Object.keys(ASKED).entries()) {
    const [one, other] = [(beside[place] ?? 0) * 1_000, (alone[place] ?? 0) * 1_000];
    console.log(
      `crowd at ${book.openDeals} ${name} ${(one / other).toFixed(1)} times as long as alone (${one.toFixed(0)} and ${other.toFixed(0)} ms)`,
    );
  }
  for (const caller of callers) caller.close();
  await server.stop();
}

await onCopies(measureBook);
