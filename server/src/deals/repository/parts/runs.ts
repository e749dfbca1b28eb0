import { type StepRun, textValue } from '@ladder/core';
import { actorColumns } from '../actorColumns.ts';
import { iso } from '../timestamps.ts';
import { changedParts, type DealWrite, listed, ms, type RowsWritten, type StoredPart } from './storedPart.ts';

const yesNo = (column: string): string => `case when ${column} then 'yes' else 'no' end`;

const COLUMNS = {
  seq: 'seq',
  step: 'step',
  name: 'name',
  stage: 'stage_id',
  visitSeq: 'visit_seq',
  owed: yesNo('owed'),
  begunAt: ms('begun_at'),
  begunDay: 'begun_day',
  dueDay: 'due_day',
  inWorkingDays: yesNo('in_working_days'),
  assignee: 'assignee_id',
  goesOn: `case when goes_on_days is not null then json_build_object('days', goes_on_days, 'result', goes_on_result, 'at', ${ms('goes_on_at')}) end`,
  end: `case when ended_at is not null then json_build_object('how', how, 'result', result, 'resultName', result_name, 'thread', thread,
    'at', ${ms('ended_at')}, 'day', ended_day, 'by', coalesce(ended_actor, ended_by::text), 'moveSeq', move_seq, 'did', did) end`,
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
