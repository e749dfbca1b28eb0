import { existsSync } from 'node:fs';
import { installDebian } from './packages.mjs';

/** Debian's Chromium without windows takes a fifth less of the processor for the tests; the other does as well. */
const PROGRAMS = ['/usr/bin/chromium-headless-shell', '/usr/bin/chromium'];

/** Where Chromium is, or undefined. */
export const findChromium = () => process.env.CHROMIUM ?? PROGRAMS.find((path) => existsSync(path));

/** Installs Debian's package, of which older releases have only the one with windows. */
export async function installChromium() {
  const why = 'The browser tests need Chromium.';
  await installDebian('chromium-headless-shell', why).catch(() => installDebian('chromium', why));
}
