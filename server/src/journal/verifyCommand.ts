import { readFileSync } from 'node:fs';
import { createDataSource } from '../db/dataSource.ts';
import type { Checkpoint } from './repository.ts';
import { type Broken, verifyJournal } from './verify.ts';

const url = process.env.DATABASE_URL;
if (!url) throw new Error('DATABASE_URL is not set.');

/** The line that an earlier run printed, from the file that is named behind --against. */
function keptCheckpoint(): Checkpoint | null {
  const place = process.argv.indexOf('--against');
  if (place < 0) return null;
  const file = process.argv[place + 1];
  if (!file) throw new Error('Name the file with the kept checkpoint: npm run journal:verify -- --against FILE');
  const match = /checkpoint (\d+) ([0-9a-f]{64})/.exec(readFileSync(file, 'utf8'));
  if (!match) throw new Error(`${file} holds no line “checkpoint NUMBER DIGEST”.`);
  return { number: Number(match[1]), digest: match[2] ?? '' };
}

function tell(broken: Broken): string {
  if ('number' in broken)
    return `${broken.what === 'checkpoint missing' ? 'checkpoint missing' : 'checkpoint changed'}: ${broken.number}`;
  if ('process' in broken) return `process ${broken.process}, event ${broken.event}: ${broken.what}`;
  return 'seq' in broken
    ? `deal ${broken.deal}, entry ${broken.seq}: ${broken.what}`
    : `deal ${broken.deal}: ${broken.what}`;
}

const kept = keptCheckpoint();
const dataSource = await createDataSource(url, 1).initialize();
const { entries, broken, checkpoint } = await dataSource.transaction('REPEATABLE READ', (tx) =>
  verifyJournal(tx, kept),
);
await dataSource.destroy();
if (broken) {
  console.error(`The journal is broken. ${tell(broken)}.`);
  process.exitCode = 1;
} else {
  console.log(
    `The journal holds: ${entries} entries${kept ? `, and checkpoint ${kept.number} is as it was kept` : ''}.`,
  );
  if (checkpoint) console.log(`checkpoint ${checkpoint.number} ${checkpoint.digest}`);
}
