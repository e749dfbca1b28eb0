import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';

/*
 * Folders depend on each other one way only, types included: whoever reads one folder need not read those above it.
 * Ends with an error that names every group of folders that lead back to each other.
 */

const ROOTS = ['core/src', 'contract/src', 'server/src', 'web/src', 'web/src/features', 'demo/src'];
const IMPORTED = /(?:^|\n)\s*(?:import|export)\s(?:[^'";]*?\sfrom\s)?'(\.[^']+)'/g;

/** Files of a folder and of those within it; tests, and what only tests use, aside. */
const filesIn = (folder) =>
  readdirSync(folder, { withFileTypes: true, recursive: true })
    .filter((entry) => entry.isFile() && /\.tsx?$/.test(entry.name) && !/\.(test|spec|d)\./.test(entry.name))
    .map((entry) => path.join(entry.parentPath, entry.name))
    .filter((file) => !file.includes(`${path.sep}testing${path.sep}`));

/** The folder right under the root that a file lies in; null for files of the root itself. */
function folderOf(root, file) {
  const [first, ...rest] = path.relative(root, file).split(path.sep);
  return first === '..' || rest.length === 0 ? null : first;
}

function edgesOf(root) {
  const edges = new Map();
  for (const file of filesIn(root)) {
    const from = folderOf(root, file);
    for (const [, target] of readFileSync(file, 'utf8').matchAll(IMPORTED)) {
      const to = folderOf(root, path.resolve(path.dirname(file), target).slice(process.cwd().length + 1));
      if (from === null || to === null || from === to) continue;
      edges.set(from, new Set([...(edges.get(from) ?? []), to]));
    }
  }
  return edges;
}

/** All folders that can be reached from one. */
function reachedFrom(start, edges) {
  const reached = new Set();
  const open = [start];
  while (open.length > 0) {
    for (const next of edges.get(open.pop()) ?? []) {
      if (reached.has(next)) continue;
      reached.add(next);
      open.push(next);
    }
  }
  return reached;
}

function cyclesIn(root) {
  const edges = edgesOf(root);
  const reach = new Map([...edges.keys()].map((folder) => [folder, reachedFrom(folder, edges)]));
  const groups = [...reach].flatMap(([folder, reached]) =>
    reached.has(folder)
      ? [
          [...reached]
            .filter((other) => reach.get(other)?.has(folder))
            .sort()
            .join(', '),
        ]
      : [],
  );
  return [...new Set(groups)].map((group) => `${root}: ${group}`);
}

const cycles = ROOTS.flatMap(cyclesIn);
for (const cycle of cycles) console.error(`Folders that lead back to each other in ${cycle}`);
process.exitCode = cycles.length > 0 ? 1 : 0;
