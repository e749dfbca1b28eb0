import { randomUUID } from 'node:crypto';
import { DEMO_PASSWORD } from '@ladder/contract';
import type { ProcessDocument, Requirement } from '@ladder/core';
import { ADMINISTRATOR } from '@ladder/demo/company/people.ts';
import { PROCESS_IDS } from '@ladder/demo/demoBook.ts';
import pg from 'pg';
import { type BenchBook, onCopies } from './book/benchBook.ts';
import { Caller } from './load/caller.ts';
import { secondsOf } from './load/inTurns.ts';
import { type Served, serveOurs } from './load/processes.ts';

/*
 * Publishing over a book: words, and one gate; beside the bare rewriting of every open deal's row, head and journal in one
 * transaction. Meanwhile sellers edit: how long the longest of them waits.
 */

const PROCESS = PROCESS_IDS.newBuild;
const SELLERS = 4;

const BARE = [
  'begin',
  `update deals set version_id = (select id from process_versions where process_id = '${PROCESS}' and state = 'live') where process_id = '${PROCESS}' and status = 'open'`,
  `update deal_heads set revision = revision + 1 where deal_id in (select id from deals where process_id = '${PROCESS}' and status = 'open')`,
  `insert into journal (deal_id, kind, stage_id, happened_at, recorded_at, by_id, body)
   select id, 'version_changed', stage_id, now(), now(), (select id from people order by id limit 1), '{}' from deals where process_id = '${PROCESS}' and status = 'open'`,
  'rollback',
];

/** What all but a tenth of the open deals are worth at least. */
const LEAST_OF_NINE_IN_TEN = `select percentile_disc(0.1) within group (order by coalesce(value_minor, 0))::float8 as least from deals where process_id = '${PROCESS}' and status = 'open'`;

type Change = (document: ProcessDocument) => ProcessDocument;
const WORDS: Change = (document) => ({ ...document, purpose: `${document.purpose} Told anew.` });
/** The stage that most deals have come to asks for one thing more, which must stay so. */
const asking =
  (requirement: object): Change =>
  (document) => ({
    ...document,
    stages: document.stages.map((stage, place) => ({
      ...stage,
      enter: [
        ...stage.enter.filter(({ id }) => id !== 'bench'),
        ...(place === 2 ? [{ id: 'bench', level: 'hold', binds: 'must_stay', ...requirement } as Requirement] : []),
      ],
    })),
  });
const worthAtLeast = (minor: number): Change =>
  asking({
    kind: 'criterion',
    criterion: {
      kind: 'at_least',
      left: { of: 'field', field: 'value' },
      right: { of: 'value', value: { minor, currency: 'GBP' } },
    },
  });

const NEARLY_ALL_FAIL = worthAtLeast(Number.MAX_SAFE_INTEGER);

class Administrator {
  constructor(private readonly caller: Caller) {}

  async draft(change: Change): Promise<number> {
    await this.must('POST', `/processes/${PROCESS}/draft`);
    const { document, revision } = JSON.parse(await this.must('GET', `/processes/${PROCESS}/draft`));
    const saved = await this.must(
      'PUT',
      `/processes/${PROCESS}/draft`,
      { document: change(document) },
      { 'If-Match': `"${revision}"` },
    );
    return JSON.parse(saved).revision;
  }

  preview = (): Promise<string> => this.must('GET', `/processes/${PROCESS}/draft/preview`);

  publish = (revision: number): Promise<string> =>
    this.must(
      'POST',
      `/processes/${PROCESS}/draft/publish`,
      { deals: 'move_over', graceDays: 0, transfers: {} },
      { 'If-Match': `"${revision}"` },
    );

  private async must(
    method: string,
    path: string,
    body?: unknown,
    headers: Record<string, string> = {},
  ): Promise<string> {
    const { status, text } = await this.caller.ask(method, `/api/v1${path}`, body, headers);
    if (status >= 300) throw new Error(`${method} ${path} answered ${status}: ${text.slice(0, 500)}`);
    return text;
  }
}

/** Edits of sellers until they are told to stop; gives the seconds that each took. */
function sell(
  callers: readonly Caller[],
  deals: readonly string[],
): { readonly stop: () => Promise<readonly number[]> } {
  let isOver = false;
  const seconds: number[] = [];
  const seller = async (caller: Caller, place: number): Promise<void> => {
    for (let turn = place; !isOver; turn += callers.length) {
      const note = { kind: 'note', text: `Turn ${turn}` };
      const answer = await caller.ask('POST', `/api/v1/deals/${deals[turn % deals.length]}/activities`, note, {
        'Idempotency-Key': randomUUID(),
      });
      if (answer.status >= 400) throw new Error(`A seller was answered ${answer.status}: ${answer.text.slice(0, 300)}`);
      seconds.push(answer.seconds);
    }
  };
  const all = Promise.all(callers.map(seller));
  return {
    stop: async () => {
      isOver = true;
      await all;
      return seconds;
    },
  };
}

const percentile = (list: readonly number[], part: number): number =>
  [...list].sort((a, b) => a - b)[Math.min(list.length - 1, Math.floor(list.length * part))] ?? 0;

async function measureBook(book: BenchBook): Promise<void> {
  const bare = new pg.Client({ connectionString: book.ownerUrl, options: '-c jit=off' });
  await bare.connect();
  const rewriting = await secondsOf(async () => {
    for (const statement of BARE) await bare.query(statement);
  });
  await bare.query('vacuum analyze');
  const { rows } = await bare.query(LEAST_OF_NINE_IN_TEN);
  await bare.end();
  const server = await serveOurs(book.serverUrl);
  const callers = Array.from({ length: SELLERS + 1 }, () => new Caller(server.url));
  for (const caller of callers) await caller.signIn(ADMINISTRATOR.email, DEMO_PASSWORD);
  const administrator = new Administrator(callers[0] as Caller);
  const { items } = await (callers[0] as Caller).read<{ items: { id: string }[] }>(
    `/api/v1/deals?process=${PROCESS}&limit=200`,
  );
  const deals = items.map(({ id }) => id);
  const tell = (what: string, seconds: number): void =>
    console.log(
      `publish at ${book.openDeals} ${what} ${(seconds / rewriting).toFixed(3)} times the bare rewriting (${seconds.toFixed(2)} s and ${rewriting.toFixed(2)} s)`,
    );
  // The first is not counted: what a server reads once, it has read by then.
  await administrator.publish(await administrator.draft(WORDS));
  const changes: readonly (readonly [string, Change])[] = [
    ['words', WORDS],
    ['one gate that one in ten fails', worthAtLeast(rows[0].least)],
    ['one gate that nearly all fail', NEARLY_ALL_FAIL],
  ];
  const idle = server.memory();
  const most = await mostMemory(server, async () => {
    for (const [what, change] of changes) {
      const revision = await administrator.draft(change);
      tell(`preview of ${what}`, await secondsOf(administrator.preview));
      tell(what, await secondsOf(() => administrator.publish(revision)));
    }
  });
  console.log(`publish at ${book.openDeals} memory ${(most - idle).toFixed(0)} MB above idle`);
  const calm = await during(callers.slice(1), deals, () => new Promise((resolve) => setTimeout(resolve, 5_000)));
  const back = await administrator.draft(worthAtLeast(0));
  const busy = await during(callers.slice(1), deals, () => administrator.publish(back));
  console.log(
    `publish at ${book.openDeals} a seller waits ${percentile(busy, 1).toFixed(2)} s at most, ${percentile(busy, 0.99).toFixed(2)} s at 99 of 100 (else ${percentile(calm, 1).toFixed(2)} and ${percentile(calm, 0.99).toFixed(2)} s)`,
  );
  for (const caller of callers) caller.close();
  await server.stop();
}

async function during(
  callers: readonly Caller[],
  deals: readonly string[],
  work: () => Promise<unknown>,
): Promise<readonly number[]> {
  const selling = sell(callers, deals);
  await work();
  return selling.stop();
}

async function mostMemory(server: Served, work: () => Promise<unknown>): Promise<number> {
  let most = server.memory();
  const timer = setInterval(() => {
    most = Math.max(most, server.memory());
  }, 200);
  await work();
  clearInterval(timer);
  return most;
}

await onCopies(measureBook);
