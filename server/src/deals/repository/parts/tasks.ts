import { actorColumns } from '../actorColumns.ts';
import { iso } from '../timestamps.ts';
import { actor, instant, number, text, whole, yesNo } from './columns.ts';
import { type ColumnsOf, changedParts, listed, type StoredPart } from './storedPart.ts';

const COLUMNS: ColumnsOf<'tasks'> = {
  seq: number('seq'),
  title: text('title'),
  assignee: text('assignee_id'),
  dueDay: text('due_day'),
  inWorkingDays: yesNo('in_working_days'),
  dueTime: text('due_time'),
  madeAt: instant('made_at'),
  madeBy: actor('made_by', 'made_actor'),
  origin: whole('set', { set: text('set_id'), item: text('set_item'), moveSeq: number('made_move') }),
  end: whole('at', {
    how: text('how'),
    at: instant('ended_at'),
    day: text('ended_day'),
    by: actor('ended_by', 'ended_actor'),
    moveSeq: number('move_seq'),
  }),
};

export const tasksStored: StoredPart<'tasks'> = {
  ...listed('tasks', COLUMNS, 'tasks where deal_id = d.id', 'seq'),
  writes: (writes) => {
    const rows = changedParts(writes, ({ tasks }) => tasks).map(({ deal, part }) => {
      const { end, origin } = part;
      const made = actorColumns(part.madeBy);
      const ended = end ? actorColumns(end.by) : { by_id: null, by_actor: null };
      return {
        deal_id: deal.id,
        seq: part.seq,
        made_at: iso(part.madeAt),
        ended_at: end && iso(end.at),
        due_day: part.dueDay,
        in_working_days: part.inWorkingDays === 'yes',
        ended_day: end?.day ?? null,
        made_by: made.by_id,
        ended_by: ended.by_id,
        assignee_id: part.assignee,
        made_move: origin?.moveSeq ?? null,
        move_seq: end?.moveSeq ?? null,
        title: part.title,
        due_time: part.dueTime,
        how: end?.how ?? null,
        set_id: origin?.set ?? null,
        set_item: origin?.item ?? null,
        made_actor: made.by_actor,
        ended_actor: ended.by_actor,
      };
    });
    return [
      {
        rows,
        statement: `insert into tasks select * from jsonb_populate_recordset(null::tasks, :rows)
       on conflict (deal_id, seq) do update set ended_at = excluded.ended_at, due_day = excluded.due_day, in_working_days = excluded.in_working_days, ended_day = excluded.ended_day,
         ended_by = excluded.ended_by, assignee_id = excluded.assignee_id, move_seq = excluded.move_seq, title = excluded.title,
         due_time = excluded.due_time, how = excluded.how, ended_actor = excluded.ended_actor`,
      },
    ];
  },
};
