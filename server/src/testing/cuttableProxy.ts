import { connect, createServer, type Server, type Socket } from 'node:net';

export interface CuttableProxy {
  /** The address of the database as it is reached through the proxy. */
  readonly url: string;
  /** Cuts every connection and takes no new one, as a database that is gone. */
  readonly cut: () => Promise<void>;
  /** Lets connections through again, to where the database is by now. */
  readonly restore: (databaseUrl?: string) => Promise<void>;
  readonly stop: () => Promise<void>;
}

/** A way to the database that a test can cut in the middle. */
export async function cuttableProxy(databaseUrl: string): Promise<CuttableProxy> {
  let target = new URL(databaseUrl);
  const sockets = new Set<Socket>();
  const open = (): Server =>
    createServer((from) => {
      const to = connect(Number(target.port), target.hostname);
      for (const socket of [from, to]) {
        sockets.add(socket);
        socket.on('error', () => socket.destroy());
        socket.on('close', () => sockets.delete(socket));
      }
      from.on('close', () => to.destroy());
      to.on('close', () => from.destroy());
      from.pipe(to);
      to.pipe(from);
    });
  const listen = (server: Server, port: number): Promise<number> =>
    new Promise((resolve, reject) => {
      server.once('error', reject);
      server.listen(port, '127.0.0.1', () => resolve((server.address() as { port: number }).port));
    });
  let server = open();
  const port = await listen(server, 0);
  const cut = (): Promise<void> =>
    new Promise((resolve) => {
      server.close(() => resolve());
      for (const socket of sockets) socket.destroy();
    });
  return {
    url: Object.assign(new URL(databaseUrl), { port: String(port) }).toString(),
    cut,
    restore: async (present) => {
      if (present) target = new URL(present);
      server = open();
      await listen(server, port);
    },
    stop: cut,
  };
}
