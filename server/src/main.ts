import { systemClock } from './clock.ts';
import { readConfig } from './config.ts';
import { startServer } from './server.ts';

const server = await startServer(readConfig(process.env), systemClock);
server.context.log.info({ url: server.url }, 'listening');

for (const signal of ['SIGTERM', 'SIGINT'] as const) {
  process.once(signal, async () => {
    await server.stop();
    process.exit(0);
  });
}
