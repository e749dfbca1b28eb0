import type { Tick } from '@ladder/core';
import { actorColumns } from '../actorColumns.ts';
import { iso } from '../timestamps.ts';
import { actor, instant, number, text } from './columns.ts';
import { type ColumnsOf, changedParts, listed, type StoredPart } from './storedPart.ts';

const COLUMNS: ColumnsOf<'ticks'> = {
  item: text('item'),
  visitSeq: number('visit_seq'),
  at: instant('ticked_at'),
  by: actor('ticked_by', 'ticked_actor'),
  untickedAt: instant('unticked_at'),
};

const byTime = (a: Tick, b: Tick): number => a.at - b.at || (a.item < b.item ? -1 : 1);

/** Those that stand are read; what was unticked stays in the table. */
export const ticksStored: StoredPart<'ticks'> = {
  ...listed('ticks', COLUMNS, 'ticks where deal_id = d.id and unticked_at is null', 'ticked_at, item'),
  asRead: ({ ticks }) => ({ ticks: ticks.filter(({ untickedAt }) => untickedAt === null).sort(byTime) }),
  writes: (writes) => {
    const rows = changedParts(writes, ({ ticks }) => ticks).map(({ deal, part }) => {
      const { by_id, by_actor } = actorColumns(part.by);
      return {
        deal_id: deal.id,
        item: part.item,
        ticked_at: iso(part.at),
        ticked_by: by_id,
        ticked_actor: by_actor,
        visit_seq: part.visitSeq,
        unticked_at: iso(part.untickedAt),
      };
    });
    return [
      {
        rows,
        statement: `insert into ticks select * from jsonb_populate_recordset(null::ticks, :rows)
       on conflict (deal_id, item, ticked_at) do update set unticked_at = excluded.unticked_at`,
      },
    ];
  },
};
