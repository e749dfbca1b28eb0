/*
 * A deal follows its process's live version unless it stays on one (S28): its row has the exception alone. So a publish
 * writes no deal that it brings nothing.
 */

/** As `fv`: the version that a deal follows. */
export const followedBy = (deal: string): string =>
  `join process_versions fv on fv.id = coalesce(${deal}.version_id, (select id from process_versions where process_id = ${deal}.process_id and state = 'live'))`;

/** A deal's revision, with its head `h`: a publish counts as a change of each deal that follows (S34), and writes none of them. */
export const REVISION = 'h.revision + fv.number';
