import { existsSync, linkSync, readFileSync, rmSync, writeFileSync } from 'node:fs';

/** When a process began, in ticks since boot (proc(5), field 22): with its number, it is no other process. */
function beginning(pid) {
  const file = `/proc/${pid}/stat`;
  if (!existsSync(file)) return null;
  const stat = readFileSync(file, 'utf8');
  return stat.slice(stat.lastIndexOf(')') + 2).split(' ')[19] ?? null;
}

/** Holds a file for this process alone, and gives what lets go of it; `told` is the error while another process has it. */
export function claim(file, told) {
  // Written before it gets its name, so that nobody reads half of it.
  const own = `${file}.${process.pid}`;
  writeFileSync(own, `${process.pid} ${beginning(process.pid)}`);
  try {
    while (!named(own, file)) {
      const [pid, began] = readFileSync(file, 'utf8').split(' ');
      if (began && beginning(pid) === began) throw new Error(told);
      // It was killed before it could let go.
      rmSync(file, { force: true });
    }
  } finally {
    rmSync(own);
  }
  return () => rmSync(file, { force: true });
}

/** Gives a file a second name, unless something has that name. */
function named(file, name) {
  try {
    linkSync(file, name);
    return true;
  } catch (error) {
    if (error.code === 'EEXIST') return false;
    throw error;
  }
}
