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
const ROUNDS = 4;
const SECONDS = 4;
/** The first round is not counted: until a server's code has been compiled for what is asked of it, it is not what people wait for. */
const WARMING_SECONDS = 12;

/** A deal as a client knows it. */
interface Known {
  readonly id: string;
  revision: number;
  stage: string;
  energy: number | null;
  /** Of its process, in their order. */
  readonly stages: readonly string[];
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
  page: async (caller, { id }) =>
    void (await must(caller, 'GET', `/api/v1/deals/${id}?known=${await settingKnown(caller, id)}`)),
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

let setting: Promise<string> | null = null;
/** The setting of the deals that are pressed on: all follow one version. */
const settingKnown = (caller: Caller, deal: string): Promise<string> => {
  setting ??= caller.read<{ setting: { id: string } }>(`/api/v1/deals/${deal}`).then((read) => read.setting.id);
  return setting;
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
  const deal = await caller.read<{ revision: number; stage: string; values: { energy_use?: number } }>(
    `/api/v1/deals/${id}`,
  );
  return { id, revision: deal.revision, stage: deal.stage, energy: deal.values.energy_use ?? null };
}

/** Rates of everything, in turns, so that what disturbs one disturbs all. */
async function measureBook(book: BenchBook): Promise<ReadonlyMap<string, number>> {
  const [own, other]: readonly Served[] = [await serveOurs(book.serverUrl), await serveBare(book.ownerUrl)];
  const [callers, bareCallers] = [
    await signedIn(own?.url ?? ''),
    Array.from({ length: CLIENTS }, () => new Caller(other?.url ?? '')),
  ];
  const picked = await pickDeals(callers[0] as Caller);
  // What the bare handler does to deals that it moves is no history that ours could go on with.
  const [deals, forBareMoves] = [picked.slice(0, CLIENTS * DEALS_A_CLIENT), picked.slice(CLIENTS * DEALS_A_CLIENT)];
  const contenders = [
    ...Object.entries(OURS).map(([name, press]) => [name, callers, deals, press] as const),
    ...Object.entries(BARE).map(
      ([name, press]) => [`bare ${name}`, bareCallers, name === 'move' ? forBareMoves : deals, press] as const,
    ),
  ];
  const rates = new Map(contenders.map(([name]) => [name, [] as number[]]));
  for (let round = 0; round <= ROUNDS; round++)
    for (const [name, asking, pressed, press] of contenders) {
      const measured = await rate(asking, pressed, press, round === 0 ? WARMING_SECONDS : SECONDS);
      if (round > 0) rates.get(name)?.push(measured);
      // The bare handler writes what our clients have not seen.
      if (name === 'bare edit')
        for (const deal of deals) Object.assign(deal, await asItIs(callers[0] as Caller, deal.id));
    }
  for (const caller of [...callers, ...bareCallers]) caller.close();
  await own?.stop();
  await other?.stop();
  return new Map([...rates].map(([name, list]) => [name, median(list)]));
}

const cluster = await startBenchCluster();
try {
  const small = await measureBook(await cluster.copyOf(SIZES[0] ?? 0));
  const large = await measureBook(await cluster.copyOf(SIZES[1] ?? 0));
  for (const name of Object.keys(OURS)) {
    const others = name === 'move' ? ['bare move', 'bare edit'] : [`bare ${name}`];
    for (const [size, rates, other] of [
      ...others.map((other) => [SIZES[0], small, other] as const),
      ...others.map((other) => [SIZES[1], large, other] as const),
    ])
      console.log(
        `command ${name} at ${size} ${((rates.get(name) ?? 0) / (rates.get(other) ?? 1)).toFixed(2)} of the rate of ${other} (ours ${rates.get(name)?.toFixed(0)}, other ${rates.get(other)?.toFixed(0)} a second)`,
      );
    console.log(
      `command ${name} costs ${((small.get(name) ?? 0) / (large.get(name) ?? 1)).toFixed(2)} times as much in the large book`,
    );
  }
} finally {
  await cluster.stop();
}
