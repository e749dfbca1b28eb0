import { type Change, personOf } from '@ladder/core';
import { newId } from '../../ids.ts';
import type { RowsWritten } from './parts/storedPart.ts';
import { iso } from './timestamps.ts';

/** Messages that changes ask for, to be made of their templates; one whose template is gone is left out. */
export function messageRows(changes: readonly Change[]): RowsWritten {
  const rows = changes.flatMap(({ deal, records }) =>
    records.flatMap((record) =>
      record.kind === 'message'
        ? [
            {
              id: newId(record.at),
              deal: deal.id,
              template: record.template,
              how: record.how,
              by_id: personOf(record.by),
              at: iso(record.at),
            },
          ]
        : [],
    ),
  );
  return {
    rows,
    statement: `insert into messages (id, deal_id, template_id, state, to_make, to_name, to_address, subject, body, made_at, made_by)
      select r.id, r.deal, t.id, 'to_confirm', r.how, '', '', '', '', r.at, r.by_id
      from jsonb_to_recordset(:rows) as r(id uuid, deal uuid, template text, how text, by_id uuid, at timestamptz) join message_templates t on t.id::text = r.template`,
  };
}
