import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { buildWeb } from './build.mjs';
import { startCluster } from './cluster.mjs';
import { ROOT, typescript } from './command.mjs';
import { ensureDatabase, loadDemo, migrateDatabase } from './database.mjs';
import { installPackages, packagesAreStale } from './packages.mjs';
import { step } from './progress.mjs';

const DATABASE = 'ladder';
const SERVER = `${ROOT}/server/src/main.ts`;
const PID_FILE = `${ROOT}/.ladder/server.pid`;
const developing = process.argv.includes('--dev');
const port = process.env.PORT ?? '4600';
const stopping = [];

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
  let cluster;
  await step('Starting PostgreSQL', async () => {
    cluster = await startCluster('postgres');
    stopping.push(() => cluster.stop());
    await ensureDatabase(cluster, DATABASE);
  });
  cluster.ended.then(() => shutDown('PostgreSQL ended', 1));
  return { DATABASE_URL: cluster.serverUrl(DATABASE), MIGRATION_DATABASE_URL: cluster.ownerUrl(DATABASE) };
}

function startProcess(command, args, env, cwd = ROOT) {
  const child = spawn(command, args, { cwd, env: { ...process.env, ...env }, stdio: 'inherit', detached: true });
  const ended = new Promise((resolve) => child.on('exit', resolve));
  stopping.push(async () => {
    if (child.exitCode === null && child.signalCode === null) process.kill(-child.pid, 'SIGTERM');
    await ended;
  });
  ended.then(() => shutDown(`${args.at(-1)} ended`, 1));
  return child;
}

const runs = (pid, file) =>
  existsSync(`/proc/${pid}/cmdline`) && readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(file);

/** Ends a server of this checkout whose start was killed. One whose start still runs is left alone, and so is any other process. */
async function endLeftServer() {
  if (!existsSync(PID_FILE)) return;
  const [starter, server] = readFileSync(PID_FILE, 'utf8').split(' ').map(Number);
  if (runs(starter, 'start.mjs')) throw new Error('Dusty Ladder is running from this checkout already.');
  if (runs(server, SERVER)) {
    process.kill(server, 'SIGTERM');
    for (let tries = 0; runs(server, SERVER) && tries < 100; tries++)
      await new Promise((resolve) => setTimeout(resolve, 100));
  }
  rmSync(PID_FILE, { force: true });
}

function requireFreePort() {
  return new Promise((resolve, reject) => {
    const probe = createServer();
    probe.on('error', () => reject(new Error(`Port ${port} is in use. Choose another: PORT=4700 npm start`)));
    probe.listen(Number(port), '127.0.0.1', () => probe.close(resolve));
  });
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
  await endLeftServer();
  await requireFreePort();
  if (packagesAreStale()) await step('Installing npm packages', installPackages);
  const urls = givenDatabase() ?? (await privateDatabase());
  await step('Migrating the database', () => migrateDatabase(urls));
  await step('Loading the demo company', () => loadDemo(urls));
  if (developing) startProcess('npx', ['vite', '--port', '4601'], { API_PORT: port }, `${ROOT}/web`);
  else await step('Building the web application', buildWeb);
  const watch = developing ? ['--watch'] : [];
  const server = startProcess('node', [...watch, ...typescript(SERVER)], {
    ...urls,
    PORT: port,
    HOST: '127.0.0.1',
    WEB_ROOT: `${ROOT}/web/dist`,
    LOG_LEVEL: process.env.LOG_LEVEL ?? 'warn',
  });
  mkdirSync(`${ROOT}/.ladder`, { recursive: true });
  writeFileSync(PID_FILE, `${process.pid} ${server.pid}`);
  stopping.push(async () => rmSync(PID_FILE, { force: true }));
  await step('Starting the server', waitUntilHealthy);
  console.log(`\nDusty Ladder is at http://127.0.0.1:${developing ? 4601 : port}\n`);
  console.log('Demo sign-ins (password “glasshouse” for all):');
  console.log('  maren@hollin-marsh.example   administrator');
  console.log('  tomas@hollin-marsh.example   manager');
  console.log('  priya@hollin-marsh.example   seller, Growers North');
  console.log('  lena@hollin-marsh.example    viewer\n');
  console.log('Ctrl+C stops it.');
}

for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => shutDown(signal, 0));
start().catch((error) => {
  console.error(`\n${error.message}`);
  return shutDown('Could not start', 1);
});
