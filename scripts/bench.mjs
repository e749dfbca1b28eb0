import { readdirSync } from 'node:fs';
import { ROOT, run, typescript } from './command.mjs';
import { installPackages, packagesAreStale } from './packages.mjs';

const NOT_BENCHMARKS = ['measure.ts'];
const all = readdirSync(`${ROOT}/bench/src`)
  .filter((file) => file.endsWith('.ts') && !NOT_BENCHMARKS.includes(file))
  .map((file) => file.replace(/\.ts$/, ''));

/** Runs one benchmark by name, or all. Nothing here is a test: it prints ratios measured in one run. */
const asked = process.argv.slice(2);
const strange = asked.find((name) => !all.includes(name));
if (strange) {
  console.error(`There is no benchmark “${strange}”. There are: ${all.join(', ')}.`);
  process.exit(1);
}
if (packagesAreStale()) await installPackages();
for (const name of asked.length > 0 ? asked : all)
  await run('node', typescript(`${ROOT}/bench/src/${name}.ts`), { stdio: 'inherit' });
