import { readFileSync, rmSync } from 'node:fs';
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
    const pid = Number(readFileSync(`${await dataFolder(cluster)}/postmaster.pid`, 'utf8').split('\n')[0]);
    process.kill(pid, 'SIGKILL');
    await cluster.ended;
    cluster = await startCluster(NAME);
    expect(cluster.startedHere).toBe(true);
    expect(await ask(cluster.ownerUrl('postgres'), 'select number from kept order by 1')).toEqual([
      { number: 1 },
      { number: 2 },
    ]);
  });
});
