import { spawn } from 'node:child_process';
import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { buildWeb } from './build.mjs';
import { claim } from './claim.mjs';
import { ROOT, SERVER, SERVER_ARGS } from './command.mjs';
import { ensureDatabase, loadDemo, migrateDatabase } from './database.mjs';
import { installPackages, packagesAreStale, requireUsableFolder } from './packages.mjs';
import { step } from './progress.mjs';

const DATABASE = 'ladder';
const PID_FILE = `${ROOT}/.ladder/server.pid`;
const LOCK_FILE = `${ROOT}/.ladder/start.lock`;
const developing = process.argv.includes('--dev');
const stopping = [];
let port;

/** An existing server instead of a private cluster; migrations need an address of their own (another role). */
function givenDatabase() {
  const { DATABASE_URL, MIGRATION_DATABASE_URL } = process.env;
  if (!DATABASE_URL) return null;
  if (!MIGRATION_DATABASE_URL)
    throw new Error(
      'With DATABASE_URL, set MIGRATION_DATABASE_URL too: the same database under the role that owns its tables.',
    );
  return { DATABASE_URL, MIGRATION_DATABASE_URL };
}

async function privateDatabase() {
  const { startCluster } = await import('./cluster.mjs');
  let cluster;
  await step('Starting PostgreSQL', async () => {
    cluster = await startCluster('postgres');
    stopping.push(() => cluster.stop());
    await ensureDatabase(cluster, DATABASE);
  });
  cluster.ended.then(() => shutDown('PostgreSQL ended', 1));
  return { DATABASE_URL: cluster.serverUrl(DATABASE), MIGRATION_DATABASE_URL: cluster.ownerUrl(DATABASE) };
}

/** The demo company has known passwords: it goes into a database of our own, or where it is asked for by name. */
const wantsDemo = (isGiven) => !isGiven || process.env.LOAD_DEMO === 'yes';

function startProcess(command, args, env, cwd = ROOT) {
  const child = spawn(command, args, { cwd, env, stdio: 'inherit', detached: true });
  const ended = new Promise((resolve) => child.on('exit', resolve));
  stopping.push(async () => {
    if (child.exitCode === null && child.signalCode === null) process.kill(-child.pid, 'SIGTERM');
    await ended;
  });
  void ended.then(() => shutDown(`${args.at(-1)} ended`, 1));
  return child;
}

/** What the server is told: everything but the address of the role that owns the tables, which it must never have. */
function serverEnvironment(more) {
  const { MIGRATION_DATABASE_URL: _owner, ...env } = process.env;
  return { ...env, ...more };
}

const runs = (pid, file) =>
  existsSync(`/proc/${pid}/cmdline`) && readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(file);

/** Ends a server of this checkout whose start was killed; any other process that has its number by now is left alone. */
async function endLeftServer() {
  if (!existsSync(PID_FILE)) return;
  const server = Number(readFileSync(PID_FILE, 'utf8'));
  if (runs(server, SERVER)) {
    process.kill(server, 'SIGTERM');
    for (let tries = 0; runs(server, SERVER) && tries < 150; tries++)
      await new Promise((resolve) => setTimeout(resolve, 100));
  }
  rmSync(PID_FILE, { force: true });
}

/** The port that is asked for, 4600 where none is, and any free one for 0. */
async function choosePort() {
  const text = process.env.PORT || '4600';
  if (!/^\d{1,5}$/.test(text) || Number(text) > 65_535)
    throw new Error(`PORT must be a whole number from 0 to 65535, not “${text}”.`);
  const { freePort } = await import('./cluster.mjs');
  if (Number(text) === 0) return String(await freePort());
  await new Promise((resolve, reject) => {
    const probe = createServer();
    probe.on('error', () => reject(new Error(`Port ${text} is in use. Choose another: PORT=4700 npm start`)));
    probe.listen(Number(text), '127.0.0.1', () => probe.close(resolve));
  });
  return text;
}

let shuttingDown = false;
async function shutDown(reason, code) {
  if (shuttingDown) return;
  shuttingDown = true;
  console.log(`\n${reason}: stopping.`);
  for (const stop of stopping.reverse()) await stop().catch((error) => console.error(error.message));
  process.exit(code);
}

async function waitUntilHealthy() {
  for (let tries = 0; tries < 300; tries++) {
    const answer = await fetch(`http://127.0.0.1:${port}/api/v1/health`).catch(() => null);
    if (answer?.ok) return;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error(`The server did not answer on port ${port} within 30 seconds.`);
}

async function start() {
  requireUsableFolder();
  const release = claim(LOCK_FILE, 'Dusty Ladder is running, or being started, from this checkout already.');
  stopping.push(async () => release());
  await endLeftServer();
  port = await choosePort();
  if (packagesAreStale()) await step('Installing npm packages', installPackages);
  const given = givenDatabase();
  const urls = given ?? (await privateDatabase());
  await step('Migrating the database', () => migrateDatabase(urls));
  if (wantsDemo(given)) await step('Loading the demo company', () => loadDemo(urls));
  if (developing) startProcess('npx', ['vite', '--port', '4601'], serverEnvironment({ API_PORT: port }), `${ROOT}/web`);
  else await step('Building the web application', buildWeb);
  const watch = developing ? ['--watch'] : [];
  const environment = serverEnvironment({
    DATABASE_URL: urls.DATABASE_URL,
    PORT: port,
    HOST: '127.0.0.1',
    WEB_ROOT: `${ROOT}/web/dist`,
    LOG_LEVEL: process.env.LOG_LEVEL || 'warn',
  });
  const server = startProcess('node', [...watch, ...SERVER_ARGS], environment);
  writeFileSync(PID_FILE, String(server.pid));
  stopping.push(async () => rmSync(PID_FILE, { force: true }));
  await step('Starting the server', waitUntilHealthy);
  console.log(`\nDusty Ladder is at http://127.0.0.1:${developing ? 4601 : port}\n`);
  if (wantsDemo(given)) tellSignIns();
  console.log('Ctrl+C stops it.');
}

function tellSignIns() {
  console.log('Demo sign-ins (password “glasshouse” for all):');
  console.log('  maren@hollin-marsh.example   administrator');
  console.log('  tomas@hollin-marsh.example   manager');
  console.log('  priya@hollin-marsh.example   seller, Growers North');
  console.log('  lena@hollin-marsh.example    viewer\n');
}

for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => shutDown(signal, 0));
start().catch((error) => {
  console.error(`\n${error.message}`);
  return shutDown('Could not start', 1);
});
