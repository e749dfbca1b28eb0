import { presentVisit } from '@ladder/core';
import { iso } from '../timestamps.ts';
import { changedParts, listed, ms, type StoredPart } from './storedPart.ts';

const COLUMNS = {
  seq: 'seq',
  stage: 'stage_id',
  enteredAt: ms('entered_at'),
  enteredDay: 'entered_day',
  left: `case when left_at is not null then json_build_object('at', ${ms('left_at')}, 'day', left_day) end`,
  moveOnDay: 'move_on_day',
  inWorkingDays: `case when in_working_days then 'yes' else 'no' end`,
  moveSeq: 'move_seq',
  activityCounts: 'activity_counts',
  takenBack: `case when taken_back then 'yes' else 'no' end`,
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
