import { randomUUID } from 'node:crypto';
import { DEMO_PASSWORD } from '@ladder/contract';
import { ADMINISTRATOR } from '@ladder/demo/company/people.ts';
import { PROCESS_IDS } from '@ladder/demo/demoBook.ts';
import { type BenchBook, SIZES, startBenchCluster } from './book/benchBook.ts';
import { Caller } from './load/caller.ts';
import { median } from './load/inTurns.ts';
import { type Served, serveBare, serveOurs } from './load/processes.ts';

/*
 * Edits, moves and deal pages a second with eight clients, beside a bare handler that writes the rows of an edit or a
 * move in six round trips and reads one, in turns on the same database, at two sizes of the book.
 */

const CLIENTS = 8;
const DEALS_A_CLIENT = 40;
const ROUNDS = 5;
const SECONDS = 3;
/** The first round is not counted: until a server's code has been compiled for what is asked of it, it is not what people wait for. */
const WARMING_SECONDS = 10;

/** A deal as a client knows it. */
interface Known {
  readonly id: string;
  revision: number;
  stage: string;
  energy: number | null;
  /** Of its process, in their order. */
  readonly stages: readonly string[];
  /** What surrounds it, by the name that the web knows it by. */
  readonly setting: string;
}
type Press = (caller: Caller, deal: Known, turn: number) => Promise<void>;

const OURS: Readonly<Record<string, Press>> = {
  edit: async (caller, deal, turn) => {
    const change = { field: 'energy_use', saw: deal.energy, value: turn % 2_000 };
    const answer = await must(caller, 'PATCH', `/api/v1/deals/${deal.id}`, { changes: [change] });
    deal.energy = turn % 2_000;
    deal.revision = revisionIn(answer);
  },
  move: async (caller, deal) => {
    const stage = stageBeside(deal);
    const body = { target: { to: 'stage', stage }, revision: deal.revision, mode: 'force', text: 'So it was' };
    const answer = await must(caller, 'POST', `/api/v1/deals/${deal.id}/moves`, body);
    deal.stage = stage;
    deal.revision = revisionIn(answer);
  },
  // As the web asks for every deal but the first of a version.
  page: async (caller, { id, setting }) => void (await must(caller, 'GET', `/api/v1/deals/${id}?known=${setting}`)),
};
const BARE: Readonly<Record<string, Press>> = {
  edit: async (caller, { id }, turn) =>
    void (await must(caller, 'PATCH', `/deals/${id}`, { field: 'energy_use', value: turn % 2_000 })),
  move: async (caller, deal) => {
    deal.stage = stageBeside(deal);
    await must(caller, 'POST', `/deals/${deal.id}/moves`, { stage: deal.stage });
  },
  page: async (caller, { id }) => void (await must(caller, 'GET', `/deals/${id}`)),
};

const revisionIn = (answer: string): number => Number(/"revision":(\d+)/.exec(answer)?.[1]);

const stageBeside = ({ stage, stages }: Known): string => {
  const place = stages.indexOf(stage);
  return stages[place === 0 ? 1 : place - 1] ?? '';
};

async function must(caller: Caller, method: string, path: string, body?: unknown): Promise<string> {
  const key: Record<string, string> = method === 'GET' ? {} : { 'Idempotency-Key': randomUUID() };
  const { status, text } = await caller.ask(method, path, body, key);
  if (status !== 200) throw new Error(`${method} ${path} answered ${status}: ${text.slice(0, 300)}`);
  return text;
}

/** Presses a second over so many seconds, each client on deals of its own. */
async function rate(
  callers: readonly Caller[],
  deals: readonly Known[],
  press: Press,
  seconds: number,
): Promise<number> {
  const began = performance.now();
  let presses = 0;
  const client = async (caller: Caller, place: number): Promise<void> => {
    const own = deals.slice(place * DEALS_A_CLIENT, (place + 1) * DEALS_A_CLIENT);
    for (let turn = 1; performance.now() - began < seconds * 1_000; turn++) {
      const deal = own[turn % own.length];
      if (deal) await press(caller, deal, presses++ + 1);
    }
  };
  await Promise.all(callers.map(client));
  return presses / ((performance.now() - began) / 1_000);
}

async function signedIn(url: string): Promise<readonly Caller[]> {
  const callers = Array.from({ length: CLIENTS }, () => new Caller(url));
  for (const caller of callers) await caller.signIn(ADMINISTRATOR.email, DEMO_PASSWORD);
  return callers;
}

async function pickDeals(caller: Caller): Promise<readonly Known[]> {
  const { live } = await caller.read<{ live: { document: { stages: { id: string }[] } } }>(
    `/api/v1/processes/${PROCESS_IDS.newBuild}`,
  );
  const stages = live.document.stages.map(({ id }) => id);
  const deals: Known[] = [];
  for (let next: string | null = ''; next !== null && deals.length < CLIENTS * DEALS_A_CLIENT * 2; ) {
    const page: { items: { id: string }[]; next: string | null } = await caller.read(
      `/api/v1/deals?process=${PROCESS_IDS.newBuild}&limit=100${next ? `&after=${next}` : ''}`,
    );
    for (const { id } of page.items) deals.push({ stages, ...(await asItIs(caller, id)) });
    next = page.next;
  }
  return deals;
}

async function asItIs(caller: Caller, id: string): Promise<Omit<Known, 'stages'>> {
  const { revision, stage, values, setting } = await caller.read<{
    revision: number;
    stage: string;
    values: { energy_use?: number };
    setting: { id: string };
  }>(`/api/v1/deals/${id}`);
  return { id, revision, stage, energy: values.energy_use ?? null, setting: setting.id };
}

/** A book with who presses on it, and on what. */
interface Pressed {
  readonly size: number;
  /** Presses by their name, each for so many seconds. Gives how many there were a second. */
  readonly presses: ReadonlyMap<string, (seconds: number) => Promise<number>>;
  readonly close: () => Promise<void>;
}

async function pressOn({ serverUrl, ownerUrl, openDeals }: BenchBook): Promise<Pressed> {
  const [own, bare]: readonly [Served, Served] = [await serveOurs(serverUrl), await serveBare(ownerUrl)];
  const callers = await signedIn(own.url);
  const bareCallers = Array.from({ length: CLIENTS }, () => new Caller(bare.url));
  const picked = await pickDeals(callers[0] as Caller);
  // What the bare handler does to deals that it moves is no history that ours could go on with.
  const [deals, forBareMoves] = [picked.slice(0, CLIENTS * DEALS_A_CLIENT), picked.slice(CLIENTS * DEALS_A_CLIENT)];
  const presses = new Map<string, (seconds: number) => Promise<number>>();
  for (const [name, press] of Object.entries(OURS))
    presses.set(name, (seconds) => rate(callers, deals, press, seconds));
  for (const [name, press] of Object.entries(BARE))
    presses.set(`bare ${name}`, async (seconds) => {
      const measured = await rate(bareCallers, name === 'move' ? forBareMoves : deals, press, seconds);
      // The bare handler writes what our clients have not seen.
      if (name === 'edit') for (const deal of deals) Object.assign(deal, await asItIs(callers[0] as Caller, deal.id));
      return measured;
    });
  const close = async (): Promise<void> => {
    for (const caller of [...callers, ...bareCallers]) caller.close();
    await own.stop();
    await bare.stop();
  };
  return { size: openDeals, presses, close };
}

type Rates = ReadonlyMap<string, number>;

/** Rates of everything on all books, in turns, so that what disturbs one disturbs all. */
async function measured(books: readonly Pressed[]): Promise<readonly Rates[]> {
  const rates = books.map(({ presses }) => new Map([...presses.keys()].map((name) => [name, [] as number[]])));
  for (let round = 0; round <= ROUNDS; round++)
    for (const name of books[0]?.presses.keys() ?? [])
      for (const [place, { presses }] of books.entries()) {
        const one = await presses.get(name)?.(round === 0 ? WARMING_SECONDS : SECONDS);
        if (round > 0) rates[place]?.get(name)?.push(one ?? 0);
      }
  return rates.map((each) => new Map([...each].map(([name, list]) => [name, median(list)])));
}

const cluster = await startBenchCluster();
try {
  const books: Pressed[] = [];
  for (const size of SIZES) books.push(await pressOn(await cluster.copyOf(size)));
  const all = await measured(books);
  const of = (rates: Rates | undefined, name: string): number => rates?.get(name) ?? 0;
  for (const name of Object.keys(OURS)) {
    for (const other of name === 'move' ? ['bare move', 'bare edit'] : [`bare ${name}`])
      for (const [place, { size }] of books.entries()) {
        const [ours, theirs] = [of(all[place], name), of(all[place], other)];
        console.log(
          `command ${name} at ${size} ${(ours / theirs).toFixed(2)} of the rate of ${other} (ours ${ours.toFixed(0)}, other ${theirs.toFixed(0)} a second)`,
        );
      }
    const costs = (one: string): string => (of(all[0], one) / of(all.at(-1), one)).toFixed(2);
    console.log(
      `command ${name} costs ${costs(name)} times as much in the large book (by the bare handler ${costs(`bare ${name}`)})`,
    );
  }
  for (const book of books) await book.close();
} finally {
  await cluster.stop();
}
