import { createHash } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { ROOT, run } from './command.mjs';

const LOCK = `${ROOT}/package-lock.json`;
const STAMP = `${ROOT}/node_modules/.installed-lock`;

const lockHash = () => createHash('sha256').update(readFileSync(LOCK)).digest('hex');

/** Whether the installed npm packages are not those of the lock file. */
export const packagesAreStale = () => !existsSync(STAMP) || readFileSync(STAMP, 'utf8') !== lockHash();

/** Installs the npm packages exactly as locked. */
export async function installPackages() {
  await run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error']);
  writeFileSync(STAMP, lockHash());
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
