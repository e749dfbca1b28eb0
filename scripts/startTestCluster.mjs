import { claim } from './claim.mjs';
import { startCluster } from './cluster.mjs';
import { ROOT } from './command.mjs';
import { requireUsableFolder } from './packages.mjs';

/** The cluster of tests and benchmarks, for one run of them at a time. Durability is off: it is thrown away. */
export async function startTestCluster() {
  requireUsableFolder();
  const release = claim(`${ROOT}/.ladder/test.lock`, 'Tests are being run from this checkout already.');
  const cluster = await startCluster('test', [
    'fsync=off',
    'synchronous_commit=off',
    'full_page_writes=off',
    'max_connections=200',
  ]);
  const stop = async () => {
    await cluster.stop();
    release();
  };
  return { ...cluster, stop };
}
