import type { Piece } from '@ladder/core';

/** A sentence whose names and values stand out. */
export function Pieces({ says }: { says: readonly Piece[] }) {
  return (
    <>
      {says.map((piece, place) =>
        // biome-ignore lint/suspicious/noArrayIndexKey: pieces of one sentence have no identity but their place
        piece.strong ? <b key={place}>{piece.text}</b> : <span key={place}>{piece.text}</span>,
      )}
    </>
  );
}
