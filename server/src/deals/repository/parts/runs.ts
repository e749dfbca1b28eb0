import { type StepRun, textValue } from '@ladder/core';
import { actorColumns } from '../actorColumns.ts';
import { iso } from '../timestamps.ts';
import { actor, instant, json, number, text, whole, yesNo } from './columns.ts';
import {
  type ColumnsOf,
  changedParts,
  type DealWrite,
  listed,
  type RowsWritten,
  type StoredPart,
} from './storedPart.ts';

const COLUMNS: ColumnsOf<'runs'> = {
  seq: number('seq'),
  step: text('step'),
  name: text('name'),
  stage: text('stage_id'),
  visitSeq: number('visit_seq'),
  owed: yesNo('owed'),
  begunAt: instant('begun_at'),
  begunDay: text('begun_day'),
  dueDay: text('due_day'),
  inWorkingDays: yesNo('in_working_days'),
  assignee: text('assignee_id'),
  goesOn: whole('days', { days: number('goes_on_days'), result: text('goes_on_result'), at: instant('goes_on_at') }),
  end: whole('at', {
    how: text('how'),
    result: text('result'),
    resultName: text('result_name'),
    thread: text('thread'),
    at: instant('ended_at'),
    day: text('ended_day'),
    by: actor('ended_by', 'ended_actor'),
    moveSeq: number('move_seq'),
    did: json('did'),
  }),
  takenBack: yesNo('taken_back'),
};

const isAtHand = ({ end, takenBack }: StepRun): boolean => end === null && takenBack === 'no';

/** Whose the deal was as the run ended, whatever becomes of the deal. */
const ofItsEnd = (column: string): string =>
  `case when step_runs.ended_at is null then excluded.${column} else step_runs.${column} end`;

export const runsStored: StoredPart<'runs'> = {
  ...listed('runs', COLUMNS, 'step_runs where deal_id = d.id', 'seq'),
  writes: (writes) => {
    // Only one of a thread may be at hand, so that one is written after those that no longer are.
    const rows = changedParts(writes, ({ runs }) => runs)
      .sort((a, b) => Number(isAtHand(a.part)) - Number(isAtHand(b.part)))
      .map(({ deal, part }) => {
        const { end } = part;
        const ended = end ? actorColumns(end.by) : { by_id: null, by_actor: null };
        return {
          deal_id: deal.id,
          seq: part.seq,
          visit_seq: part.visitSeq,
          begun_day: part.begunDay,
          begun_at: iso(part.begunAt),
          ended_at: end && iso(end.at),
          due_day: part.dueDay,
          in_working_days: part.inWorkingDays === 'yes',
          ended_day: end?.day ?? null,
          assignee_id: part.assignee,
          ended_by: ended.by_id,
          move_seq: end?.moveSeq ?? null,
          owed: part.owed === 'yes',
          taken_back: part.takenBack === 'yes',
          stage_id: part.stage,
          step: part.step,
          name: part.name,
          how: end?.how ?? null,
          thread: end?.thread ?? null,
          result: end?.result ?? null,
          result_name: end?.resultName ?? null,
          ended_actor: ended.by_actor,
          goes_on_at: part.goesOn?.at == null ? null : iso(part.goesOn.at),
          goes_on_days: part.goesOn?.days ?? null,
          goes_on_result: part.goesOn?.result ?? null,
          did: end?.did ?? null,
          process_id: deal.process,
          owner_id: textValue(deal, 'owner'),
          team_id: textValue(deal, 'team'),
          counts: true,
        };
      });
    return [
      droppedResults(writes),
      {
        rows,
        statement: `insert into step_runs select * from jsonb_populate_recordset(null::step_runs, :rows)
       on conflict (deal_id, seq) do update set ended_at = excluded.ended_at, due_day = excluded.due_day, in_working_days = excluded.in_working_days, ended_day = excluded.ended_day,
         assignee_id = excluded.assignee_id, ended_by = excluded.ended_by, move_seq = excluded.move_seq, taken_back = excluded.taken_back,
         how = excluded.how, thread = excluded.thread, result = excluded.result, result_name = excluded.result_name, ended_actor = excluded.ended_actor,
         goes_on_at = excluded.goes_on_at, goes_on_days = excluded.goes_on_days, goes_on_result = excluded.goes_on_result, did = excluded.did,
         owner_id = ${ofItsEnd('owner_id')}, team_id = ${ofItsEnd('team_id')}`,
      },
    ];
  },
};

const isResult = ({ end, takenBack }: StepRun): boolean => end?.how === 'result' && takenBack === 'no';

/** Results that were taken back, or that a voided deal had: what they were is read as the statement begins, before it is changed. */
function droppedResults(writes: readonly DealWrite[]): RowsWritten {
  const rows = writes.flatMap(({ before, change: { deal } }) => {
    if (!before || before.status.state === 'voided' || before.runs.every((run) => !isResult(run))) return [];
    const still = new Set(deal.status.state === 'voided' ? [] : deal.runs.filter(isResult).map(({ seq }) => seq));
    return before.runs
      .filter((run) => isResult(run) && !still.has(run.seq))
      .map(({ seq }) => ({ deal_id: deal.id, seq, ended_at: iso(deal.settledAt) }));
  });
  return {
    rows,
    statement: `insert into dropped_results (deal_id, process_id, stage_id, step, result, begun_day, ended_day, owner_id, team_id, dropped_at)
     select s.deal_id, s.process_id, s.stage_id, s.step, s.result, s.begun_day, s.ended_day, s.owner_id, s.team_id, r.ended_at
     from step_runs s join jsonb_populate_recordset(null::step_runs, :rows) r on r.deal_id = s.deal_id and r.seq = s.seq`,
  };
}
