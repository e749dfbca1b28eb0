import type { StoredPart } from './storedPart.ts';

export const pathStored: StoredPart<'path'> = {
  select: { path: 'd.path', moveCount: 'd.move_count' },
  row: ({ path, moveCount }) => ({
    path,
    path_text: path.map(({ kind, to }) => to ?? kind).join(' '),
    move_count: moveCount,
  }),
};
