import type { Role } from '../people.ts';

/** Callers that several endpoints share. */
export const ADMINISTRATOR: readonly Role[] = ['administrator'];
export const WORKING: readonly Role[] = ['administrator', 'manager', 'seller'];
