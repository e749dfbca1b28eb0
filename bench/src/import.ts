import { execFile } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { DEMO_PASSWORD } from '@ladder/contract';
import { ADMINISTRATOR, PEOPLE } from '@ladder/demo/company/people.ts';
import { PROCESS_IDS } from '@ladder/demo/demoBook.ts';
import pg from 'pg';
import { type BenchBook, BOOK_DAY, SIZES, startBenchCluster } from './book/benchBook.ts';
import { Caller } from './load/caller.ts';
import { secondsOf } from './load/inTurns.ts';
import { type Served, serveOurs } from './load/processes.ts';

/*
 * An import of many rows, from the press to its end, beside the very rows that it wrote copied bare by COPY into the same
 * tables of the same book, with their triggers, keys and indexes.
 */

const ROWS = 10_000;
/** Of an import before it, which is not counted: what a server and its threads load once, they have loaded by then. */
const FIRST_ROWS = 20;
const PROCESS = PROCESS_IDS.newBuild;
const DAY = 86_400_000;

/** A file as an administrator brings it: a customer in twenty rows each, a few facts, a history of its own. */
function csv(name: string, rows: number): string {
  const head = 'External id,Name,Customer,Value,Owner,Stage,Created,Entered stage,Close date';
  const day = (days: number): string => new Date(BOOK_DAY + days * DAY).toISOString().slice(0, 10);
  const stages = ['Site brief', 'Survey', 'Outline design'];
  const lines = Array.from({ length: rows }, (_, n) =>
    [
      `${name}-${n}`,
      `Imported glasshouse ${n}`,
      `Imported grower ${name} ${Math.floor(n / 20)}`,
      20_000 + (n % 900) * 100,
      PEOPLE[2 + (n % 4)]?.email,
      stages[n % 3],
      day(-60 - (n % 30)),
      day(-1 - (n % 50)),
      day(10 + (n % 90)),
    ].join(','),
  );
  return [head, ...lines].join('\n');
}

interface Import {
  readonly id: string;
  readonly state: string;
  readonly created: number;
  readonly bad: number;
}

async function importInto(book: BenchBook): Promise<{ readonly id: string; readonly seconds: number }> {
  const server = await serveOurs(book.serverUrl);
  const caller = new Caller(server.url);
  await caller.signIn(ADMINISTRATOR.email, DEMO_PASSWORD);
  await importFile(server, caller, 'first', FIRST_ROWS);
  const { id, seconds, memory } = await importFile(server, caller, 'bench', ROWS);
  console.log(`import at ${book.openDeals} memory ${memory.toFixed(0)} MB above idle`);
  caller.close();
  await server.stop();
  return { id, seconds };
}

/** Uploads a file and runs it; tells the seconds of the run, and how much more memory the server had in it than before. */
async function importFile(
  server: Served,
  caller: Caller,
  name: string,
  rows: number,
): Promise<{ readonly id: string; readonly seconds: number; readonly memory: number }> {
  const uploaded = await caller.ask('POST', `/api/v1/imports?fileName=bench.csv&process=${PROCESS}`, csv(name, rows), {
    'Content-Type': 'text/csv',
  });
  if (uploaded.status !== 201) throw new Error(`The upload was answered ${uploaded.status}: ${uploaded.text}`);
  const { import: begun, preview } = JSON.parse(uploaded.text) as { import: Import; preview: { settings: object } };
  const idle = server.memory();
  let most = idle;
  const seconds = await secondsOf(async () => {
    const { status, text } = await caller.ask('POST', `/api/v1/imports/${begun.id}/run`, preview.settings);
    if (status !== 202) throw new Error(`The import was answered ${status}: ${text.slice(0, 500)}`);
    for (;;) {
      most = Math.max(most, server.memory());
      const { state, created, bad } = await caller.read<Import>(`/api/v1/imports/${begun.id}`);
      if (state === 'running') await new Promise((resolve) => setTimeout(resolve, 250));
      else if (state === 'done' && created === rows) return;
      else throw new Error(`The import ended as ${state}, with ${created} made and ${bad} bad`);
    }
  });
  return { id: begun.id, seconds, memory: most - idle };
}

/** The tables that an import wrote, in an order in which they can be filled, each with how its rows are found. */
async function writtenBy(client: pg.Client, importId: string): Promise<readonly (readonly [string, string])[]> {
  const { rows } = await client.query<{ name: string }>(
    `select c.relname as name from pg_class c join pg_attribute a on a.attrelid = c.oid and a.attname = 'deal_id'
     where c.relkind = 'r' order by c.relname <> 'deal_heads', c.relname`,
  );
  const written: (readonly [string, string])[] = ['customers', 'deals'].map((table) => [
    table,
    `t.import_id = '${importId}'`,
  ]);
  for (const { name } of rows) {
    const which = `t.deal_id in (select id from deals where import_id = '${importId}')`;
    const { rowCount } = await client.query(`select from ${name} t where ${which} limit 1`);
    if (rowCount) written.push([name, which]);
  }
  return written;
}

/** What the database makes by itself. */
const MADE = [
  ...['id', 'seq', 'previous_hash', 'hash', 'text_digest'].map((column) => `journal.${column}`),
  ...['journal_count', 'journal_hash', 'checked_count'].map((column) => `deal_heads.${column}`),
];

/** Commands of psql that copy what an import wrote to files, or the files into the tables. */
async function copies(
  client: pg.Client,
  folder: string,
  importId: string,
): Promise<{ readonly out: string; readonly back: string }> {
  const lines: { readonly out: string; readonly back: string }[] = [];
  for (const [table, which] of await writtenBy(client, importId)) {
    const { rows } = await client.query<{ name: string }>(
      `select attname as name from pg_attribute where attrelid = $1::regclass and attnum > 0 and not attisdropped and attgenerated = '' order by attnum`,
      [table],
    );
    const columns = rows.map(({ name }) => name).filter((name) => !MADE.includes(`${table}.${name}`));
    const list = columns.map((name) => `"${name}"`).join(', ');
    const file = `'${join(folder, table)}' (format binary)`;
    lines.push({
      out: `\\copy (select ${columns.map((name) => `t."${name}"`).join(', ')} from ${table} t where ${which}) to ${file}`,
      back: `\\copy ${table} (${list}) from ${file}`,
    });
  }
  return {
    out: lines.map(({ out }) => out).join('\n'),
    back: ['begin;', ...lines.map(({ back }) => back), 'commit;'].join('\n'),
  };
}

const psql = (url: string, commands: string): Promise<unknown> => {
  const running = promisify(execFile)('psql', ['--no-psqlrc', '--quiet', '--set=ON_ERROR_STOP=1', url]);
  running.child.stdin?.end(commands);
  return running;
};

const cluster = await startBenchCluster();
const folder = mkdtempSync(join(tmpdir(), 'bench-import-'));
try {
  for (const size of SIZES) {
    const book = await cluster.copyOf(size);
    const { id, seconds } = await importInto(book);
    const client = new pg.Client({ connectionString: book.ownerUrl });
    await client.connect();
    const { out, back } = await copies(client, folder, id);
    await client.end();
    await psql(book.ownerUrl, out);
    const fresh = await cluster.copyOf(size);
    const bare = await secondsOf(() => psql(fresh.ownerUrl, back));
    console.log(
      `import at ${size} ${(seconds / bare).toFixed(2)} times bare COPY (${seconds.toFixed(2)} s and ${bare.toFixed(2)} s for ${ROWS} rows)`,
    );
  }
} finally {
  rmSync(folder, { recursive: true, force: true });
  await cluster.stop();
}
