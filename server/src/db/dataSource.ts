import { DataSource } from 'typeorm';
import { entities } from './entities/index.ts';
import { KeepingClient } from './keepingClient.ts';
import { SnakeCase } from './namingStrategy.ts';

/**
 * A pool on the database. Every session computes in UTC; local days are computed by core. Just-in-time compilation is
 * off: for queries that take a millisecond it took up to a second. Nor is a query shared out to several processes, for
 * others want their turn. Pages that a reduction of a large book reads are kept in mind one by one, not in lumps (`work_mem`).
 */
export function createDataSource(url: string, poolSize = 10, lockTimeoutMs = 5_000): DataSource {
  return new DataSource({
    type: 'postgres',
    url,
    entities: [...entities],
    namingStrategy: new SnakeCase(),
    poolSize,
    connectTimeoutMS: 10_000,
    extra: {
      Client: KeepingClient,
      options: `-c timezone=UTC -c lock_timeout=${lockTimeoutMs} -c jit=off -c max_parallel_workers_per_gather=0 -c work_mem=16MB`,
    },
  });
}
