import { iso } from '../timestamps.ts';
import { changedParts, listOf, ms, type StoredPart } from './storedPart.ts';

const COLUMNS = { aspect: 'aspect', value: 'value', from: ms('from_at'), to: ms('to_at') };

/** What is so now is read, and every version that the deal followed. */
export const spansStored: StoredPart<'spans'> = {
  select: { spans: 'spans.list' },
  from: listOf(
    'spans',
    COLUMNS,
    `deal_spans where deal_id = d.id and (to_at is null or aspect = 'version')`,
    'from_at',
  ),
  writes: (writes) => {
    // What ends is written before what begins, for only one of an aspect may be open.
    const rows = changedParts(writes, ({ spans }) => spans)
      .sort((a, b) => Number(a.part.to === null) - Number(b.part.to === null))
      .map(({ deal, part }) => ({
        deal_id: deal.id,
        aspect: part.aspect,
        value: part.value,
        from_at: iso(part.from),
        to_at: iso(part.to),
      }));
    return [
      {
        rows,
        statement: `insert into deal_spans (deal_id, aspect, value, from_at, to_at)
       select deal_id, aspect, coalesce(value, 'null'::jsonb), from_at, to_at from jsonb_populate_recordset(null::deal_spans, :rows)
       on conflict (deal_id, aspect, from_at) do update set value = excluded.value, to_at = excluded.to_at`,
      },
    ];
  },
};
