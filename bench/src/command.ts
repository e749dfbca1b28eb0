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
/** Of each kind: for edits, for moves, and for moves by hand. A server keeps some hundreds of deals that were worked on last. */
const DEALS_A_CLIENT = 30;
const DEALS_A_KIND = CLIENTS * DEALS_A_CLIENT;
/* Short and many: a machine's speed swings by half within a minute, and less from one press to what it is compared with. */
const ROUNDS = 8;
const SECONDS = 2;
/** Before each, not counted: others had the processor since, and a server that is at work has what it needs near. */
const RUN_IN_SECONDS = 1;
/**
 * The first round is not counted: until a server's code has been compiled for what is asked of it, it is not what people wait
 * for.
 */
const WARMING_SECONDS = 16;

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
  const counts = performance.now() + RUN_IN_SECONDS * 1_000;
  const ends = counts + seconds * 1_000;
  let [presses, counted] = [0, 0];
  const client = async (caller: Caller, place: number): Promise<void> => {
    const own = deals.slice(place * DEALS_A_CLIENT, (place + 1) * DEALS_A_CLIENT);
    for (let turn = 1; performance.now() < ends; turn++) {
      const deal = own[turn % own.length];
      if (deal) await press(caller, deal, ++presses);
      if (performance.now() >= counts) counted++;
    }
  };
  await Promise.all(callers.map(client));
  return counted / ((performance.now() - counts) / 1_000);
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
  for (let next: string | null = ''; next !== null && deals.length < 3 * DEALS_A_KIND; ) {
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

/** Presses for so many seconds, and gives how many there were a second. */
type Pressing = (seconds: number) => Promise<number>;

/** A book with who presses on it, and on what. */
interface Pressed {
  readonly size: number;
  readonly presses: ReadonlyMap<string, Pressing>;
  readonly close: () => Promise<void>;
}

const ofKind = (picked: readonly Known[], kind: number): readonly Known[] =>
  picked.slice(kind * DEALS_A_KIND, (kind + 1) * DEALS_A_KIND);

async function pressOn({ serverUrl, ownerUrl, openDeals }: BenchBook): Promise<Pressed> {
  const [own, bare]: readonly [Served, Served] = [await serveOurs(serverUrl), await serveBare(ownerUrl)];
  const callers = await signedIn(own.url);
  const bareCallers = Array.from({ length: CLIENTS }, () => new Caller(bare.url));
  const picked = await pickDeals(callers[0] as Caller);
  // Deals that are moved again and again have a history like no other, and what the bare handler makes of it ours could not go on with.
  const [edited, moved, movedBare] = [ofKind(picked, 0), ofKind(picked, 1), ofKind(picked, 2)];
  const ours =
    (name: string): Pressing =>
    (seconds) =>
      rate(callers, name === 'move' ? moved : edited, OURS[name] as Press, seconds);
  const bares =
    (name: string): Pressing =>
    async (seconds) => {
      const measured = await rate(bareCallers, name === 'move' ? movedBare : edited, BARE[name] as Press, seconds);
      // The bare handler writes what our clients have not seen.
      if (name === 'edit') for (const deal of edited) Object.assign(deal, await asItIs(callers[0] as Caller, deal.id));
      return measured;
    };
  // Each stands beside what it is compared with.
  const presses = new Map(
    Object.keys(OURS).flatMap((name): [string, Pressing][] => [
      [name, ours(name)],
      [`bare ${name}`, bares(name)],
    ]),
  );
  const close = async (): Promise<void> => {
    for (const caller of [...callers, ...bareCallers]) caller.close();
    await own.stop();
    await bare.stop();
  };
  return { size: openDeals, presses, close };
}

/** Of one book in one round, by what was pressed. */
type Rates = ReadonlyMap<string, number>;

/** Rates on all books, round by round, each in turns, so that what disturbs one disturbs all. */
async function measured(books: readonly Pressed[]): Promise<readonly (readonly Rates[])[]> {
  const rounds: Map<string, number>[][] = [];
  for (let round = 0; round <= ROUNDS; round++) {
    const rates = books.map(() => new Map<string, number>());
    for (const name of books[0]?.presses.keys() ?? [])
      for (const [place, { presses }] of books.entries())
        rates[place]?.set(name, (await presses.get(name)?.(round === 0 ? WARMING_SECONDS : SECONDS)) ?? 0);
    if (round > 0) rounds.push(rates);
  }
  return rounds;
}

const cluster = await startBenchCluster();
try {
  const books: Pressed[] = [];
  for (const size of SIZES) books.push(await pressOn(await cluster.copyOf(size)));
  const rounds = await measured(books);
  const rateOf = (round: readonly Rates[], place: number, name: string): number => round[place]?.get(name) ?? 0;
  const usual = (of: (round: readonly Rates[]) => number): number => median(rounds.map(of));
  for (const name of Object.keys(OURS)) {
    for (const other of name === 'move' ? ['bare move', 'bare edit'] : [`bare ${name}`])
      for (const [place, { size }] of books.entries()) {
        const [ours, theirs] = [name, other].map((one) => usual((round) => rateOf(round, place, one)).toFixed(0));
        const ratio = usual((round) => rateOf(round, place, name) / rateOf(round, place, other)).toFixed(2);
        console.log(
          `command ${name} at ${size} ${ratio} of the rate of ${other} (ours ${ours}, other ${theirs} a second)`,
        );
      }
    const costs = (one: string): string =>
      usual((round) => rateOf(round, 0, one) / rateOf(round, books.length - 1, one)).toFixed(2);
    console.log(
      `command ${name} costs ${costs(name)} times as much in the large book (by the bare handler ${costs(`bare ${name}`)})`,
    );
  }
  for (const book of books) await book.close();
} finally {
  await cluster.stop();
}
