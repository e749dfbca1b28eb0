import { presentVisit } from '@ladder/core';
import { iso } from '../timestamps.ts';
import { instant, json, number, text, whole, yesNo } from './columns.ts';
import { type ColumnsOf, changedParts, listed, type StoredPart } from './storedPart.ts';

const COLUMNS: ColumnsOf<'visits'> = {
  seq: number('seq'),
  stage: text('stage_id'),
  enteredAt: instant('entered_at'),
  enteredDay: text('entered_day'),
  left: whole('at', { at: instant('left_at'), day: text('left_day') }),
  moveOnDay: text('move_on_day'),
  inWorkingDays: yesNo('in_working_days'),
  moveSeq: number('move_seq'),
  activityCounts: json('activity_counts'),
  takenBack: yesNo('taken_back'),
};

export const visitsStored: StoredPart<'visits'> = {
  ...listed('visits', COLUMNS, 'visits where deal_id = d.id', 'seq'),
  row: (deal) => {
    const visit = presentVisit(deal);
    return {
      stage_id: visit.stage,
      entered_at: iso(visit.enteredAt),
      entered_day: visit.enteredDay,
      move_on_day: visit.moveOnDay,
    };
  },
  writes: (writes) => {
    // Stays that end are written before the one that begins, for only one may be open.
    const rows = changedParts(writes, ({ visits }) => visits)
      .sort((a, b) => Number(a.part.left === null) - Number(b.part.left === null))
      .map(({ deal, part }) => ({
        deal_id: deal.id,
        seq: part.seq,
        stage_id: part.stage,
        entered_at: iso(part.enteredAt),
        entered_day: part.enteredDay,
        left_at: part.left && iso(part.left.at),
        left_day: part.left?.day ?? null,
        move_on_day: part.moveOnDay,
        in_working_days: part.inWorkingDays === 'yes',
        move_seq: part.moveSeq,
        taken_back: part.takenBack === 'yes',
        activity_counts: part.activityCounts,
      }));
    return [
      {
        rows,
        statement: `insert into visits select * from jsonb_populate_recordset(null::visits, :rows)
       on conflict (deal_id, seq) do update set left_at = excluded.left_at, left_day = excluded.left_day, taken_back = excluded.taken_back, move_on_day = excluded.move_on_day, activity_counts = excluded.activity_counts`,
      },
    ];
  },
};
