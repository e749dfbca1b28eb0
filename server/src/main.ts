import { setFlagsFromString } from 'node:v8';
import { systemClock } from './clock.ts';
import { readConfig } from './config.ts';
import { startServer } from './server.ts';

// A heap that has grown with what long work left behind is gone through sooner than Node would by itself: a little of its time
// for half of the memory.
setFlagsFromString('--heap-growing-percent=50');

const server = await startServer(readConfig(process.env), systemClock);
server.context.log.info({ url: server.url }, 'listening');

// What fails behind requests ends no server. The job queue marks its jobs as done without waiting for it, so that this is
// where it is heard that the database was gone by then; such work is found again as unfinished.
process.on('unhandledRejection', (error) => server.context.log.error({ err: error }, 'work behind requests failed'));

for (const signal of ['SIGTERM', 'SIGINT'] as const) {
  process.once(signal, async () => {
    await server.stop();
    process.exit(0);
  });
}
