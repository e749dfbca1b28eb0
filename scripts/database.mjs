import { spawn } from 'node:child_process';
import { ROOT, run, typescript } from './command.mjs';

/** Makes the server's role and a database in the cluster if they are not there. Needs the npm packages. */
export async function ensureDatabase(cluster, name) {
  const { default: pg } = await import('pg');
  const client = new pg.Client({ connectionString: cluster.ownerUrl('postgres') });
  await client.connect();
  try {
    const role = await client.query('select 1 from pg_roles where rolname = $1', [cluster.serverRole]);
    if (role.rowCount === 0)
      await client.query(`create role ${cluster.serverRole} login password '${cluster.serverPassword}'`);
    const database = await client.query('select 1 from pg_database where datname = $1', [name]);
    if (database.rowCount === 0) await client.query(`create database ${name}`);
  } finally {
    await client.end();
  }
}

/** Brings the database's tables up to date. */
export async function migrateDatabase(urls) {
  const output = await run('node', typescript(`${ROOT}/server/src/db/migrateCommand.ts`), {
    env: { ...process.env, ...urls },
  });
  return output.trim().split('\n').at(-1);
}

/** Loads the demo company if the database is empty: one process makes the book, another reads it in. */
export async function loadDemo(urls) {
  const env = { ...process.env, ...urls };
  const writer = spawn('node', typescript(`${ROOT}/demo/src/writeCommand.ts`), {
    cwd: ROOT,
    env,
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const written = new Promise((resolve, reject) => {
    writer.on('error', reject);
    writer.on('exit', (code) =>
      code ? reject(new Error(`The demo company could not be made (${code}).`)) : resolve(),
    );
  });
  const output = await run('node', typescript(`${ROOT}/server/src/book/loadCommand.ts`), {
    env,
    stdio: [writer.stdout, 'pipe', 'pipe'],
  });
  writer.stdout.destroy();
  writer.kill();
  await written;
  return output.trim().split('\n').at(-1);
}
