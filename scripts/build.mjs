import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT, run } from './command.mjs';

const STAMP = `${ROOT}/web/dist/.built-from`;
const SOURCES = ['core/src', 'contract/src', 'web', 'package-lock.json'];

function filesUnder(path) {
  const full = join(ROOT, path);
  if (!existsSync(full)) return [];
  return readdirSync(full, { withFileTypes: true, recursive: true })
    .filter((entry) => entry.isFile() && !/\/(dist|node_modules)(\/|$)/.test(entry.parentPath))
    .map((entry) => join(entry.parentPath, entry.name));
}

function sourceHash() {
  const hash = createHash('sha256');
  for (const source of SOURCES) {
    const files = source.endsWith('.json') ? [join(ROOT, source)] : filesUnder(source);
    for (const file of files.sort()) hash.update(file.slice(ROOT.length)).update(readFileSync(file));
  }
  return hash.digest('hex');
}

/** Builds the web application if anything it is made of has changed since. */
export async function buildWeb() {
  const hash = sourceHash();
  if (existsSync(STAMP) && readFileSync(STAMP, 'utf8') === hash) return 'up to date';
  await run('npx', ['vite', 'build', '--logLevel', 'warn'], { cwd: `${ROOT}/web` });
  writeFileSync(STAMP, hash);
  return 'built';
}
