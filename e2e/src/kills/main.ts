import { setTimeout as pause } from 'node:timers/promises';
import { DEMO_PASSWORD } from '@ladder/contract';
import { PEOPLE } from '@ladder/demo/company/people.ts';
import { seededNumbers } from '@ladder/server/testing/seededNumbers.ts';
import { Caller } from './caller.ts';
import { Company } from './company.ts';
import { type Beliefs, importFiles, publish, sell, type Work } from './people.ts';
import { verify } from './verify.ts';

/* Eight people work, and are told of what they did, while server and database are killed again and again: `npm run kills -- COUNT SEED`. */

const [count, seed] = [Number(process.argv[2] ?? 200), Number(process.argv[3] ?? 1)];
const below = seededNumbers(seed);
const STAGES = 30;

async function makeProcess(administrator: Caller): Promise<{ process: string; stages: readonly string[] }> {
  const made = await administrator.ask('POST', '/processes', {
    name: 'Killed often',
    kind: 'deal',
    currency: 'GBP',
    firstStage: 'Rung 1',
  });
  const address = `/processes/${made.id}/draft`;
  const { document, revision } = await administrator.ask('GET', address);
  const [first] = document.stages;
  const stages = Array.from({ length: STAGES }, (_none, place) => ({
    ...first,
    id: `rung${place + 1}`,
    name: `Rung ${place + 1}`,
  }));
  const saved = await administrator.ask(
    'PUT',
    address,
    { document: { ...document, stages, sections: [{ id: 'main', name: 'Deal', fields: ['source'] }] } },
    { 'If-Match': `"${revision}"` },
  );
  const how = { deals: 'move_over', graceDays: 0, transfers: {} };
  await administrator.ask('POST', `${address}/publish`, how, { 'If-Match': `"${saved.revision}"` });
  return { process: made.id, stages: stages.map(({ id }) => id) };
}

/** What dies, and for how long it stays away. Now and then the second dies while the first is away. */
async function kill(company: Company): Promise<string> {
  const what = ['server', 'server', 'database', 'both'][below(4)] as string;
  if (what !== 'database') await company.killServer();
  if (what !== 'server') await company.killDatabase();
  await pause(below(1_000));
  if (what !== 'server') await company.startDatabase();
  if (what !== 'database') await company.startServer();
  return what;
}

/** The eight: one administrator publishes, another imports, six sell. */
async function signIn(url: string): Promise<readonly Caller[]> {
  const eight = PEOPLE.slice(0, 8);
  const callers = await Promise.all(eight.map(({ email }) => new Caller(url, email, DEMO_PASSWORD).signIn()));
  await callers[0]?.ask('PATCH', `/accounts/${eight[1]?.id}`, { role: 'administrator' });
  return callers;
}

async function run(company: Company): Promise<readonly string[]> {
  const [maren, tomas, ...sellers] = (await signIn(company.url)) as [Caller, Caller, ...Caller[]];
  const made = await makeProcess(maren);
  const beliefs: Beliefs = { deals: [], imports: [], published: 1 };
  let isOver = false;
  const work = (place: number): Work => ({
    ...made,
    beliefs,
    below: seededNumbers(seed * 100 + place),
    goesOn: () => !isOver,
  });
  const busy = Promise.all([
    publish(maren, work(0)),
    importFiles(tomas, work(1)),
    ...sellers.map((seller, place) => sell(seller, work(place + 2), PEOPLE[place + 2]?.name ?? '')),
  ]);
  await Promise.race([killAgainAndAgain(company, beliefs), busy]);
  isOver = true;
  await busy;
  const told = beliefs.deals.reduce((sum, { moves, activities }) => sum + moves + activities.length, 0);
  const again = [maren, tomas, ...sellers].reduce((sum, { asked }) => sum + asked, 0);
  console.log(
    `${beliefs.deals.length} deals begun, ${told} moves and activities, ${beliefs.imports.length} imports, ${beliefs.published} versions; ${again} requests asked again.`,
  );
  return verify(company, made.process, made.stages, beliefs);
}

async function killAgainAndAgain(company: Company, beliefs: Beliefs): Promise<void> {
  const killed: Record<string, number> = {};
  for (let number = 1; number <= count; number++) {
    await pause(500 + below(4_000));
    if (!company.serverRuns) throw new Error('The server ended, and nobody killed it.');
    const what = await kill(company);
    killed[what] = (killed[what] ?? 0) + 1;
    if (number % 20 === 0 || number === count)
      console.log(`${number} kills ${JSON.stringify(killed)}: ${beliefs.deals.length} deals begun so far`);
  }
}

console.log(`${count} kills, seed ${seed}`);
const company = await Company.open();
for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.once(signal, () => company.close().finally(() => process.exit(1)));
try {
  const problems = await run(company);
  console.log(problems.length === 0 ? 'Nothing was lost, doubled or halved.' : problems.join('\n'));
  process.exitCode = problems.length === 0 ? 0 : 1;
} finally {
  await company.close();
}
