import { writeFileSync } from 'node:fs';
import { exampleCsv } from './exampleCsv.ts';

/** Writes the example that the README begins with: node --import tsx demo/src/exampleCsvCommand.ts docs/example-deals.csv 2026-11-20 */
const [path, anchor] = process.argv.slice(2);
if (!path || !anchor) throw new Error('Give the file to write and the day to anchor it on.');
writeFileSync(path, exampleCsv(500, anchor));
