import { migrate } from './migrate.ts';

const migrationUrl = process.env.MIGRATION_DATABASE_URL;
const serverUrl = process.env.DATABASE_URL;
if (!migrationUrl || !serverUrl) throw new Error('MIGRATION_DATABASE_URL and DATABASE_URL must both be set.');

const applied = await migrate(migrationUrl, decodeURIComponent(new URL(serverUrl).username));
console.log(applied.length > 0 ? `Applied ${applied.join(', ')}` : 'The database is up to date');
