import { Ground1700000000001 } from './0001-ground.ts';

/** In order; each is applied once. */
export const migrations = [Ground1700000000001];
