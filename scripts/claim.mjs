import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';

/** When a process began, in ticks since boot (proc(5), field 22): with its number, it is no other process. */
function beginning(pid) {
  const file = `/proc/${pid}/stat`;
  if (!existsSync(file)) return null;
  const stat = readFileSync(file, 'utf8');
  return stat.slice(stat.lastIndexOf(')') + 2).split(' ')[19] ?? null;
}

/** Holds a file for this process alone, and gives what lets go of it; `told` is the error while another process has it. */
export function claim(file, told) {
  for (;;) {
    try {
      writeFileSync(file, `${process.pid} ${beginning(process.pid)}`, { flag: 'wx' });
      return () => rmSync(file, { force: true });
    } catch (error) {
      if (error.code !== 'EEXIST') throw error;
    }
    const [pid, began] = readFileSync(file, 'utf8').split(' ');
    if (began && beginning(pid) === began) throw new Error(told);
    // It was killed before it could let go.
    rmSync(file, { force: true });
  }
}
