import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, expect, it } from 'vitest';
import { claim } from '../../../scripts/claim.mjs';

const folder = mkdtempSync(join(tmpdir(), 'claim-'));
afterAll(() => rmSync(folder, { recursive: true }));

it('one process at a time holds a file; what a killed one left is taken over, also where its number lives again', () => {
  const file = join(folder, 'lock');
  const release = claim(file, 'It runs already.');
  expect(() => claim(file, 'It runs already.')).toThrow('It runs already.');
  release();
  for (const left of ['999999999 1', `${process.pid} 1`, '', 'nonsense']) {
    writeFileSync(file, left);
    claim(file, 'It runs already.');
    expect(readFileSync(file, 'utf8')).toMatch(new RegExp(`^${process.pid} \\d+$`));
    rmSync(file);
  }
});
