import { type ChildProcess, spawn } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { setTimeout as pause } from 'node:timers/promises';
import { demoBook } from '@ladder/demo/demoBook.ts';
import { loadBook } from '@ladder/server/book/loadBook.ts';
import { createDataSource } from '@ladder/server/db/dataSource.ts';
import { type CuttableProxy, cuttableProxy } from '@ladder/server/testing/cuttableProxy.ts';
import pg from 'pg';
import { type Cluster, freePort, startCluster } from '../../../scripts/cluster.mjs';
import { SERVER_ARGS } from '../../../scripts/command.mjs';
import { ensureDatabase, migrateDatabase } from '../../../scripts/database.mjs';

const DATABASE = 'kills';
const CLUSTER = 'kills';

/** A server and a database as `npm start` runs them, each of which can be killed and begun again. */
export class Company {
  private server: ChildProcess | null = null;

  private constructor(
    private cluster: Cluster,
    private readonly proxy: CuttableProxy,
    private readonly port: number,
  ) {}

  static async open(): Promise<Company> {
    const cluster = await startCluster(CLUSTER);
    const admin = await createDataSource(cluster.ownerUrl('postgres'), 1).initialize();
    await admin.query(`drop database if exists ${DATABASE} with (force)`);
    await admin.destroy();
    await ensureDatabase(cluster, DATABASE);
    await migrateDatabase({
      DATABASE_URL: cluster.serverUrl(DATABASE),
      MIGRATION_DATABASE_URL: cluster.ownerUrl(DATABASE),
    });
    const dataSource = await createDataSource(cluster.serverUrl(DATABASE), 2).initialize();
    await loadBook(dataSource, demoBook(Date.now(), { deals: 60 }));
    await dataSource.destroy();
    const company = new Company(cluster, await cuttableProxy(cluster.serverUrl(DATABASE)), await freePort());
    await company.startServer();
    return company;
  }

  get url(): string {
    return `http://127.0.0.1:${this.port}`;
  }

  /** For the journal's verifier. */
  get databaseUrl(): string {
    return this.cluster.serverUrl(DATABASE);
  }

  async startServer(): Promise<void> {
    const env = { ...process.env, DATABASE_URL: this.proxy.url, PORT: String(this.port), LOG_LEVEL: 'fatal' };
    this.server = spawn('node', [...SERVER_ARGS], { env, stdio: ['ignore', 'inherit', 'inherit'] });
    for (let tries = 0; tries < 600; tries++) {
      if (
        await fetch(`${this.url}/api/v1/health`).then(
          ({ ok }) => ok,
          () => false,
        )
      )
        return;
      if (this.server.exitCode !== null) throw new Error(`The server ended with ${this.server.exitCode} by itself.`);
      await pause(50);
    }
    throw new Error('The server did not answer within 30 seconds.');
  }

  /** Whether the server is there; it may end only where it was killed. */
  get serverRuns(): boolean {
    return this.server?.exitCode === null && this.server.signalCode === null;
  }

  async killServer(): Promise<void> {
    const { server } = this;
    if (!server || !this.serverRuns) return;
    const ended = new Promise((resolve) => server.once('exit', resolve));
    server.kill('SIGKILL');
    await ended;
  }

  async killDatabase(): Promise<void> {
    const [row] = await this.query<{ data_directory: string }>('show data_directory');
    const pid = Number(readFileSync(`${row?.data_directory}/postmaster.pid`, 'utf8').split('\n')[0]);
    await this.proxy.cut();
    process.kill(pid, 'SIGKILL');
    while (existsSync(`/proc/${pid}`)) await pause(20);
  }

  async startDatabase(): Promise<void> {
    this.cluster = await startCluster(CLUSTER);
    await this.proxy.restore(this.cluster.serverUrl(DATABASE));
  }

  async query<Row extends pg.QueryResultRow>(statement: string, values: unknown[] = []): Promise<Row[]> {
    const client = new pg.Client({ connectionString: this.cluster.ownerUrl(DATABASE) });
    await client.connect();
    const { rows } = await client.query<Row>(statement, values);
    await client.end();
    return rows;
  }

  async close(): Promise<void> {
    await this.killServer();
    await this.proxy.stop();
    await this.cluster.stop();
  }
}
