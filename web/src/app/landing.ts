import { recall, remember } from '../client/remembered.ts';

const KEY = 'ladder.landing';
const LANDINGS = ['/today', '/deals'] as const;

/** Where one begins who names no page. */
export type Landing = (typeof LANDINGS)[number];

/** Where this browser began last, by which its pages are asked for before it is known who is signed in. */
export const lastLanding = (): Landing | null => LANDINGS.find((one) => one === recall(KEY)) ?? null;

export const rememberLanding = (landing: Landing): void => remember(KEY, landing);
