import type { SpawnOptions } from 'node:child_process';

export const ROOT: string;
export function run(
  command: string,
  args: readonly string[],
  options?: SpawnOptions & { onOutput?: (text: string) => void },
): Promise<string>;
export function typescript(file: string, ...args: readonly string[]): readonly string[];
export const SERVER: string;
export const SERVER_ARGS: readonly string[];
