import { readFileSync, rmSync, writeFileSync } from 'node:fs';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startCluster } from '../../../scripts/cluster.mjs';

type Cluster = Awaited<ReturnType<typeof startCluster>>;
const NAME = `crash-${process.pid}`;
let cluster: Cluster;
beforeAll(async () => {
  cluster = await startCluster(NAME);
});
afterAll(async () => {
  const folder = await folderOf(cluster);
  await cluster.stop();
  rmSync(folder, { recursive: true, force: true });
});

async function ask<Row extends object>(url: string, statement: string): Promise<Row[]> {
  const client = new pg.Client({ connectionString: url });
  client.on('error', () => undefined);
  await client.connect();
  const { rows } = await client.query<Row>(statement);
  await client.end();
  return rows;
}

async function dataFolder({ ownerUrl }: Cluster): Promise<string> {
  const [row] = await ask<{ data_directory: string }>(ownerUrl('postgres'), 'show data_directory');
  return row?.data_directory ?? '';
}
const folderOf = async (running: Cluster) => (await dataFolder(running)).replace(/\/data$/, '');

/** Ends the server at once, and gives the lines of the file that it left behind. */
async function kill(): Promise<readonly string[]> {
  const lines = readFileSync(`${await dataFolder(cluster)}/postmaster.pid`, 'utf8').split('\n');
  process.kill(Number(lines[0]), 'SIGKILL');
  await cluster.ended;
  return lines;
}

describe('the private cluster', () => {
  it('listens on loopback with a password, and on no socket', async () => {
    const settings = await ask<{ name: string; setting: string }>(
      cluster.ownerUrl('postgres'),
      `select name, setting from pg_settings where name in ('listen_addresses', 'unix_socket_directories') order by name`,
    );
    expect(settings.map(({ setting }) => setting)).toEqual(['127.0.0.1', '']);
    const without = Object.assign(new URL(cluster.ownerUrl('postgres')), { password: 'wrong' }).toString();
    await expect(ask(without, 'select 1')).rejects.toThrow(/password authentication failed/);
  });

  it('is joined where it runs already', async () => {
    const joined = await startCluster(NAME);
    expect(joined.startedHere).toBe(false);
    expect(joined.ownerUrl('postgres')).toBe(cluster.ownerUrl('postgres'));
  });

  it('killed at once starts again by itself, with nothing lost that was written', async () => {
    await ask(cluster.ownerUrl('postgres'), 'create table kept (number integer); insert into kept values (1), (2)');
    await kill();
    cluster = await startCluster(NAME);
    expect(cluster.startedHere).toBe(true);
    expect(await ask(cluster.ownerUrl('postgres'), 'select number from kept order by 1')).toEqual([
      { number: 1 },
      { number: 2 },
    ]);
  });

  it('starts where the number it left behind is another process’s by now', async () => {
    const file = `${await dataFolder(cluster)}/postmaster.pid`;
    const [pid, ...rest] = await kill();
    expect(Number(pid)).toBeGreaterThan(0);
    writeFileSync(file, [process.pid, ...rest].join('\n'));
    cluster = await startCluster(NAME);
    expect(cluster.startedHere).toBe(true);
  });

  it('without its passwords, whole or in part, says so and touches nothing', async () => {
    const folder = await folderOf(cluster);
    const file = `${folder}/cluster.json`;
    const passwords = readFileSync(file);
    await cluster.stop();
    for (const left of [null, '', '{"password": "x"']) {
      rmSync(file, { force: true });
      if (left !== null) writeFileSync(file, left);
      await expect(startCluster(NAME)).rejects.toThrow(/passwords of the database beside it are lost/);
    }
    writeFileSync(file, passwords);
    cluster = await startCluster(NAME);
    expect(await ask(cluster.ownerUrl('postgres'), 'select number from kept')).toHaveLength(2);
  });
});
