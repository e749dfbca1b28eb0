import { spawn } from 'node:child_process';
import { fileURLToPath } from 'node:url';

/** The checkout. */
export const ROOT = fileURLToPath(new URL('..', import.meta.url)).replace(/\/$/, '');

/** Runs a command to its end and gives what it printed; an error carries its last lines. */
export function run(command, args, options = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, { cwd: ROOT, stdio: ['ignore', 'pipe', 'pipe'], ...options });
    let output = '';
    const read = (chunk) => {
      output += chunk;
      options.onOutput?.(String(chunk));
    };
    child.stdout?.on('data', read);
    child.stderr?.on('data', read);
    child.on('error', reject);
    child.on('exit', (code) =>
      code === 0
        ? resolve(output)
        : reject(new Error(`${command} ${args.join(' ')} ended with ${code}\n${output.slice(-4000)}`)),
    );
  });
}

/** The arguments with which Node runs a TypeScript file of the project. */
export const typescript = (file, ...args) => ['--import', 'tsx', file, ...args];

/** The server's own file. */
export const SERVER = `${ROOT}/server/src/main.ts`;

/**
 * The arguments with which Node runs the server. What a press makes is garbage when it is answered: with twice the room for what
 * is new, less of it is copied for being in use just then.
 */
export const SERVER_ARGS = ['--max-semi-space-size=32', ...typescript(SERVER)];
