import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { findChromium, installChromium } from './chromium.mjs';
import { ROOT, run } from './command.mjs';
import { installPackages, packagesAreStale } from './packages.mjs';
import { step } from './progress.mjs';

const RESULTS = `${ROOT}/.ladder/results`;
const totals = { passed: 0, failed: 0 };

const count = (passed, failed) => {
  totals.passed += passed;
  totals.failed += failed;
};

/** A check that passes or fails as a whole. */
async function check(title, command, args) {
  await step(title, async () => {
    try {
      await run(command, args);
      count(1, 0);
    } catch (error) {
      count(0, 1);
      console.error(error.message);
      return 'FAILED';
    }
  });
}

/** Runs a test runner with its output shown, and gives its exit code. */
const show = (command, args, options) =>
  new Promise((resolve, reject) => {
    const child = spawn(command, args, { cwd: ROOT, stdio: 'inherit', ...options });
    child.on('error', reject);
    child.on('exit', (code) => resolve(code ?? 1));
  });

/** Counts from a results file; a runner that failed without one counts as one failure. */
function countResults(file, code, read) {
  if (!existsSync(file)) return count(0, 1);
  const { passed, failed } = read(JSON.parse(readFileSync(file, 'utf8')));
  count(passed, code !== 0 && failed === 0 ? 1 : failed);
}

async function unitAndServerTests() {
  const file = `${RESULTS}/vitest.json`;
  const code = await show('npx', [
    'vitest',
    'run',
    '--reporter=default',
    '--reporter=json',
    `--outputFile.json=${file}`,
  ]);
  countResults(file, code, ({ numPassedTests, numFailedTests }) => ({
    passed: numPassedTests,
    failed: numFailedTests,
  }));
}

const BROWSER_SERVER = `${ROOT}/.ladder/browser-server.pid`;

/** Ends the server of an earlier run that was ended in the middle. */
function endLeftServer() {
  if (!existsSync(BROWSER_SERVER)) return;
  const pid = readFileSync(BROWSER_SERVER, 'utf8').trim();
  const isOurs =
    existsSync(`/proc/${pid}/cmdline`) && readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('src/serve.ts');
  if (isOurs) process.kill(Number(pid), 'SIGKILL');
  rmSync(BROWSER_SERVER, { force: true });
}

async function browserTests() {
  const file = `${ROOT}/e2e/test-results/results.json`;
  rmSync(file, { force: true });
  endLeftServer();
  const { freePort } = await import('./cluster.mjs');
  const [first, second, ...day] = await Promise.all([freePort(), freePort(), freePort(), freePort()]);
  const env = {
    ...process.env,
    LADDER_PORTS: `${first},${second}`,
    LADDER_DAY_PORTS: day.join(','),
    LADDER_SERVER_PID: BROWSER_SERVER,
  };
  const code = await show('npx', ['playwright', 'test'], { cwd: `${ROOT}/e2e`, env });
  countResults(file, code, ({ stats }) => ({ passed: stats.expected + stats.flaky, failed: stats.unexpected }));
}

async function test() {
  if (packagesAreStale()) await step('Installing npm packages', installPackages);
  const { findPostgres } = await import('./cluster.mjs');
  const { buildWeb } = await import('./build.mjs');
  await step('Finding PostgreSQL', findPostgres);
  if (!findChromium()) await step('Installing Chromium', installChromium);
  mkdirSync(RESULTS, { recursive: true });
  rmSync(`${RESULTS}/vitest.json`, { force: true });
  await check('Types', 'node', ['scripts/types.mjs']);
  await check('Lint, format and layers', 'npx', ['biome', 'check', '--error-on-warnings', '.']);
  await check('Folders depend one way', 'node', ['scripts/folderCycles.mjs']);
  await step('Building the web application', buildWeb);
  await unitAndServerTests();
  await browserTests();
}

try {
  await test();
} catch (error) {
  console.error(error.message);
  count(0, 1);
}
console.log(`${totals.passed} passed, ${totals.failed} failed`);
process.exit(totals.failed === 0 && totals.passed > 0 ? 0 : 1);
