import { ROOT, run } from './command.mjs';

const WORKSPACES = ['core', 'contract', 'server', 'web', 'demo', 'e2e', 'bench'];

/** Checks the types of every workspace; ends with 1 where one fails. */
for (const workspace of WORKSPACES) {
  await run('npx', ['tsc', '-p', `${ROOT}/${workspace}`]).catch((error) => {
    console.error(error.message);
    process.exitCode = 1;
  });
}
