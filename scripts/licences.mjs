import { readFileSync, writeFileSync } from 'node:fs';
import { ROOT } from './command.mjs';

/** Writes the list of third-party packages and their licences from the lock file: node scripts/licences.mjs */
const { packages } = JSON.parse(readFileSync(`${ROOT}/package-lock.json`, 'utf8'));
const rows = Object.entries(packages)
  .filter(([path, { link }]) => path.startsWith('node_modules/') && !link)
  .map(([path, { version, license, dev, optional }]) => {
    const name = path.split('node_modules/').at(-1);
    return `| ${name} | ${version} | ${license ?? 'see its package'} | ${dev ? 'developing' : optional ? 'optional' : 'running'} |`;
  });
const head =
  '# Third-party licences\n\nMade from package-lock.json by `node scripts/licences.mjs`. Fonts: Public Sans and Zilla Slab, both SIL Open Font License 1.1, shipped through the packages below.\n\n| package | version | licence | used for |\n| --- | --- | --- | --- |\n';
writeFileSync(`${ROOT}/docs/third-party-licences.md`, `${head}${[...new Set(rows)].sort().join('\n')}\n`);
