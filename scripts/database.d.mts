import type { Cluster } from './cluster.mjs';

export interface DatabaseUrls {
  readonly DATABASE_URL: string;
  readonly MIGRATION_DATABASE_URL: string;
}
export function ensureDatabase(cluster: Cluster, name: string): Promise<void>;
export function migrateDatabase(urls: DatabaseUrls): Promise<string>;
