import { spawn } from 'node:child_process';
import { ROOT, typescript } from './command.mjs';
import { installPackages, packagesAreStale } from './packages.mjs';

/** Eight people work while server and database are killed: `npm run kills -- COUNT SEED`. */
if (packagesAreStale()) await installPackages();
const args = typescript(`${ROOT}/e2e/src/kills/main.ts`, ...process.argv.slice(2));
spawn('node', args, { cwd: ROOT, stdio: 'inherit' }).on('exit', (code) => {
  process.exitCode = code ?? 1;
});
