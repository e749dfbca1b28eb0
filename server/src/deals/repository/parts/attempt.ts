import type { StoredPart } from './storedPart.ts';

export const attemptStored: StoredPart<'attempt'> = {
  select: { attempt: 'd.attempt' },
  row: ({ attempt }) => ({ attempt }),
};
