import { startCluster } from './cluster.mjs';
import { ROOT, run, typescript } from './command.mjs';

const given = process.env.DATABASE_URL;
const cluster = given ? null : await startCluster('postgres');
const env = { ...process.env, DATABASE_URL: given ?? cluster.serverUrl('ladder') };
await run('node', typescript(`${ROOT}/server/src/deals/verifyJournalCommand.ts`), { env, stdio: 'inherit' }).catch(
  () => {
    process.exitCode = 1;
  },
);
if (cluster?.startedHere) await cluster.stop();
