import { recall, remember } from '../../client/remembered.ts';

const KEY = 'ladder.process';

/** The process whose deals were looked at last in this browser; without, one begins with the process of most deals. */
export const lastProcess = (): string | null => recall(KEY);

export const rememberProcess = (id: string): void => remember(KEY, id);
