import { createHash } from 'node:crypto';
import { accessSync, constants, existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { ROOT, run } from './command.mjs';

const LOCK = `${ROOT}/package-lock.json`;
const STAMP = `${ROOT}/node_modules/.installed-lock`;

const lockHash = () => createHash('sha256').update(readFileSync(LOCK)).digest('hex');

/** Whether the installed npm packages are not those of the lock file. */
export const packagesAreStale = () => !existsSync(STAMP) || readFileSync(STAMP, 'utf8') !== lockHash();

/** Without these nothing can be started, built or tested. */
const NEEDED = ['tsx', 'vite', 'vitest', 'typescript', 'pg'];

/** Installs the npm packages exactly as locked, those to build with too, whatever NODE_ENV says of the application. */
export async function installPackages() {
  requireUsableFolder();
  const { NODE_ENV: _production, ...env } = process.env;
  await run('npm', ['ci', '--include=dev', '--no-audit', '--no-fund', '--loglevel=error'], { env });
  const missing = NEEDED.filter((name) => !existsSync(`${ROOT}/node_modules/${name}/package.json`));
  if (missing.length > 0) throw new Error(`npm installed everything but ${missing.join(', ')}. Run npm ci to see why.`);
  writeFileSync(STAMP, lockHash());
}

/** A checkout that cannot be written to, or built in, is told at once, in words. */
export function requireUsableFolder() {
  const strange = ['#', '?'].find((sign) => ROOT.includes(sign));
  if (strange)
    throw new Error(
      `The web application cannot be built in ${ROOT}: its tools read “${strange}” in a path as the end of it. Copy it to a folder without that sign.`,
    );
  try {
    mkdirSync(`${ROOT}/.ladder`, { recursive: true });
    accessSync(ROOT, constants.W_OK);
    accessSync(`${ROOT}/.ladder`, constants.W_OK);
  } catch (error) {
    throw new Error(
      `${ROOT} cannot be written to (${error.code}). Dusty Ladder keeps its packages, its database and what it builds in its own folder; copy it to where it may write.`,
    );
  }
}

const canInstall = () => process.getuid?.() === 0 && existsSync('/usr/bin/apt-get');

/** Installs a Debian package, or stops with the command to run where this process may not. */
export async function installDebian(name, why) {
  if (!canInstall())
    throw new Error(`${why} Run this, then try again:\n\n  sudo apt-get update && sudo apt-get install -y ${name}\n`);
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  await run('apt-get', ['update', '-q'], { env });
  await run('apt-get', ['install', '-y', '-q', '--no-install-recommends', name], { env });
}
