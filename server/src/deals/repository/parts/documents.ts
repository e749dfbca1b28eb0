import { personOf } from '@ladder/core';
import { iso } from '../timestamps.ts';
import { instant, number, text, whole } from './columns.ts';
import { type ColumnsOf, changedParts, listed, type StoredPart } from './storedPart.ts';

const COLUMNS: ColumnsOf<'documents'> = {
  id: text('id'),
  kind: text('kind'),
  name: text('name'),
  mediaType: text('media_type'),
  bytes: number('bytes'),
  digest: text(`encode(digest, 'hex')`),
  at: instant('added_at'),
  by: text('added_by'),
  removed: whole('at', { at: instant('removed_at'), by: text('removed_by') }),
};

/** Their bytes are kept apart, and read for a download alone. */
export const documentsStored: StoredPart<'documents'> = {
  ...listed('documents', COLUMNS, 'documents where deal_id = d.id', 'seq'),
  writes: (writes) => {
    const rows = changedParts(writes, ({ documents }) => documents).map(({ deal, part }) => ({
      id: part.id,
      deal_id: deal.id,
      kind: part.kind,
      name: part.name,
      media_type: part.mediaType,
      bytes: part.bytes,
      digest: `\\x${part.digest}`,
      added_at: iso(part.at),
      added_by: personOf(part.by),
      removed_at: part.removed && iso(part.removed.at),
      removed_by: part.removed && personOf(part.removed.by),
      seq: deal.documents.indexOf(part) + 1,
    }));
    return [
      {
        rows,
        statement: `insert into documents select * from jsonb_populate_recordset(null::documents, :rows)
       on conflict (id) do update set removed_at = excluded.removed_at, removed_by = excluded.removed_by`,
      },
    ];
  },
};
