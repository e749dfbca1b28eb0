import { type ChildProcess, spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { setTimeout as pause } from 'node:timers/promises';
import { fileURLToPath } from 'node:url';
import { freePort } from '../../../scripts/cluster.mjs';
import { SERVER_ARGS, typescript } from '../../../scripts/command.mjs';

/** A server in a process of its own. */
export interface Served {
  readonly url: string;
  /** Its memory in MB, as the operating system counts it. */
  readonly memory: () => number;
  readonly stop: () => Promise<void>;
}

/** The application's own server, as it is started. */
export const serveOurs = (databaseUrl: string): Promise<Served> => serve(SERVER_ARGS, databaseUrl, '/api/v1/health');

/** Express and pg by hand. */
export const serveBare = (databaseUrl: string): Promise<Served> =>
  serve(typescript(fileURLToPath(new URL('./bareServer.ts', import.meta.url))), databaseUrl, '/health');

async function serve(args: readonly string[], databaseUrl: string, health: string): Promise<Served> {
  const port = await freePort();
  const url = `http://127.0.0.1:${port}`;
  const env = { ...process.env, DATABASE_URL: databaseUrl, PORT: String(port), LOG_LEVEL: 'fatal' };
  const child = spawn('node', args, {
    env,
    stdio: ['ignore', 'inherit', 'inherit'],
  });
  // Whatever becomes of the benchmark, no server is left behind.
  process.on('exit', () => child.kill('SIGKILL'));
  child.unref();
  await untilHealthy(child, `${url}${health}`);
  return {
    url,
    memory: () => {
      const [, kilobytes] = /VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${child.pid}/status`, 'utf8')) ?? [];
      return Number(kilobytes) / 1_024;
    },
    stop: () =>
      new Promise((resolve) => {
        child.on('exit', () => resolve());
        child.kill('SIGTERM');
      }),
  };
}

async function untilHealthy(child: ChildProcess, url: string): Promise<void> {
  for (let tries = 0; tries < 300; tries++) {
    if (child.exitCode !== null) throw new Error('The server ended before it answered');
    const isUp = await fetch(url).then(
      ({ ok }) => ok,
      () => false,
    );
    if (isUp) return;
    await pause(100);
  }
  throw new Error('The server did not answer');
}
