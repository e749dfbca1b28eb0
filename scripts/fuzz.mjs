import { spawn } from 'node:child_process';
import { ROOT } from './command.mjs';
import { installPackages, packagesAreStale } from './packages.mjs';

/** A long run of the fuzzer: `npm run fuzz -- COUNT SEED`; a failure tells the request, and is had again by its seed. */
const [count = '20000', seed = String(Date.now() % 1_000_000)] = process.argv.slice(2);
if (packagesAreStale()) await installPackages();
console.log(`${count} requests, seed ${seed}`);
const env = { ...process.env, FUZZ_COUNT: count, FUZZ_SEED: seed };
const args = ['vitest', 'run', 'server/src/http/fuzz.test.ts', '--testTimeout=3600000'];
spawn('npx', args, { cwd: ROOT, env, stdio: 'inherit' }).on('exit', (code) => {
  process.exitCode = code ?? 1;
});
