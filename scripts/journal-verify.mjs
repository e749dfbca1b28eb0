import { startCluster } from './cluster.mjs';
import { ROOT, run, typescript } from './command.mjs';
import { installPackages, packagesAreStale } from './packages.mjs';

if (packagesAreStale()) await installPackages();
const given = process.env.DATABASE_URL;
const cluster = given ? null : await startCluster('postgres');
const env = { ...process.env, DATABASE_URL: given ?? cluster.serverUrl('ladder') };
await run('node', typescript(`${ROOT}/server/src/journal/verifyCommand.ts`, ...process.argv.slice(2)), {
  env,
  stdio: 'inherit',
}).catch(() => {
  process.exitCode = 1;
});
if (cluster?.startedHere) await cluster.stop();
