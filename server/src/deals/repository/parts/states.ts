import { type Deal, type DealState, presentVisit, restated } from '@ladder/core';
import { iso } from '../timestamps.ts';
import { instant, number, text } from './columns.ts';
import {
  type ColumnsOf,
  changedParts,
  type DealWrite,
  listed,
  type RowsWritten,
  type StoredPart,
} from './storedPart.ts';

const COLUMNS: ColumnsOf<'states'> = {
  from: instant('from_at'),
  to: instant('to_at'),
  status: text('status'),
  stage: text('stage_id'),
  enteredAt: instant('entered_at'),
  enteredDay: text('entered_day'),
  moveOnDay: text('move_on_day'),
  owner: text('owner_id'),
  team: text('team_id'),
  value: number('value_minor'),
  currency: text('currency'),
  closeDate: text('close_date'),
  standing: text('standing'),
  findings: number('findings'),
  kinds: text('kinds'),
  owed: number('owed'),
};

/** What ended until then is not read. */
const readFrom = (deal: Deal): number =>
  Math.min(
    presentVisit(deal).enteredAt,
    ...deal.findings.filter(({ kind }) => kind === 'idle').map(({ openedAt }) => openedAt),
  );

/**
 * What ended before the present stay began no command changes any more, but for a call written down late, which ends
 * idleness of any time, and for voiding, which leaves nothing.
 */
export const statesStored: StoredPart<'states'> = {
  ...listed(
    'states',
    COLUMNS,
    `deal_states where deal_id = d.id and correction = 0
    and to_at > least(d.entered_at, (select min(opened_at) from findings where deal_id = d.id and kind = 'idle'))`,
    'from_at',
  ),
  asRead: (written, before) => {
    const from = readFrom(written);
    return from < readFrom(before) ? null : { states: written.states.filter(({ to }) => to > from) };
  },
  writes: (writes) => {
    const rows = changedParts(writes, ({ states }) => states).map(({ deal, part }) => ({
      ...stateRow(deal, part),
      shown_from: iso(shownFrom(part, deal.settledAt)),
      correction: 0,
    }));
    return [
      gone(writes),
      passed(writes),
      {
        rows: [...rows, ...corrections(writes)],
        statement: `insert into deal_states (${WRITTEN}, correction)
       select ${WRITTEN}, case correction when 0 then 0 else ${numbered('correction')} end
       from jsonb_populate_recordset(null::deal_states, :rows)
       on conflict (deal_id, from_at, correction) do update set ${REVISED.map((column) => `${column} = excluded.${column}`).join(', ')}`,
      },
      voidedStates(writes),
    ];
  },
};

/** What a correction counts, with a number of its own. */
const numbered = (counts: string): string => `${counts} * nextval('correction_numbers')`;

const stateRow = (deal: Deal, state: DealState) => ({
  deal_id: deal.id,
  process_id: deal.process,
  from_at: iso(state.from),
  to_at: iso(state.to),
  owner_id: state.owner,
  team_id: state.team,
  entered_at: iso(state.enteredAt),
  value_minor: state.value,
  entered_day: state.enteredDay,
  move_on_day: state.moveOnDay,
  close_date: state.closeDate,
  findings: state.findings,
  owed: state.owed,
  status: state.status,
  standing: state.standing,
  stage_id: state.stage,
  currency: state.currency,
  kinds: state.kinds,
});

const REVISED = [
  'to_at',
  'owner_id',
  'team_id',
  'entered_at',
  'value_minor',
  'entered_day',
  'move_on_day',
  'close_date',
  'findings',
  'owed',
  'shown_from',
  'status',
  'standing',
  'stage_id',
  'currency',
  'kinds',
];
/** The `shape` of a state is given to it by PostgreSQL. */
const WRITTEN: readonly string[] = ['deal_id', 'from_at', 'process_id', ...REVISED];

/** From when on lists show a state, as of the deal's last change. */
function shownFrom({ from, to }: DealState, settledAt: number): number {
  if (to <= settledAt) return Number.POSITIVE_INFINITY;
  return from <= settledAt ? Number.NEGATIVE_INFINITY : from;
}

/**
 * What is said otherwise of the time before: that of a deal that is voided is with the states that it loses. A book that is loaded
 * with its history is taken to have been known as it went on.
 */
const corrections = (writes: readonly DealWrite[]): RowsWritten['rows'] =>
  writes
    .filter(({ change: { deal }, tells }) => deal.status.state !== 'voided' && tells !== 'nobody')
    .flatMap(({ before, change: { deal } }) => {
      if (before?.states === deal.states) return [];
      const { was, is } = restated(before?.states ?? [], deal.states, deal.settledAt);
      const row = (state: DealState, correction: 1 | -1) => ({
        ...stateRow(deal, state),
        shown_from: null,
        correction,
      });
      return [...was.map((state) => row(state, 1)), ...is.map((state) => row(state, -1))];
    });

/** What of a state is otherwise where it is written as a correction of a deal that is voided. */
const AS_CORRECTION: Readonly<Record<string, string>> = { to_at: 'least(s.to_at, v.to_at)', shown_from: 'null' };

/** A deal that is voided has been nothing else; until then it was taken to be all that it was. */
function voidedStates(writes: readonly DealWrite[]): RowsWritten {
  const rows = writes
    .filter(({ before, change: { deal } }) => before?.status.state !== 'voided' && deal.status.state === 'voided')
    .map(({ change: { deal } }) => ({ deal_id: deal.id, to_at: iso(deal.settledAt) }));
  return {
    rows,
    statement: `insert into deal_states (${WRITTEN}, correction)
     select ${WRITTEN.map((column) => AS_CORRECTION[column] ?? `s.${column}`)}, ${numbered('1')}
     from deal_states s join jsonb_populate_recordset(null::deal_states, :rows) v on v.deal_id = s.deal_id and s.from_at < v.to_at
     where s.correction = 0`,
  };
}

/** States that no longer begin when they did; of a deal that was voided all that were. */
function gone(writes: readonly DealWrite[]): RowsWritten {
  const rows = writes.flatMap(({ before, change: { deal } }) => {
    const kept = new Set(deal.states.map(({ from }) => from));
    const lost = (before?.states ?? []).filter(({ from }) => !kept.has(from));
    const since = deal.status.state === 'voided' ? '-infinity' : null;
    return lost.map(({ from }) => ({ deal_id: deal.id, from_at: since ?? iso(from), to_at: iso(from) }));
  });
  return {
    rows,
    statement: `delete from deal_states s using jsonb_populate_recordset(null::deal_states, :rows) g
     where s.deal_id = g.deal_id and s.from_at between g.from_at and g.to_at and s.correction = 0`,
  };
}

/** States that stay as they were, while time went on. */
function passed(writes: readonly DealWrite[]): RowsWritten {
  const rows = writes.flatMap(({ before, change: { deal } }) =>
    (before?.states ?? [])
      .filter((state) => deal.states.includes(state))
      .filter((state) => shownFrom(state, before?.settledAt ?? 0) !== shownFrom(state, deal.settledAt))
      .map((state) => ({
        deal_id: deal.id,
        from_at: iso(state.from),
        shown_from: iso(shownFrom(state, deal.settledAt)),
      })),
  );
  return {
    rows,
    statement: `update deal_states s set shown_from = g.shown_from from jsonb_populate_recordset(null::deal_states, :rows) g
     where s.deal_id = g.deal_id and s.from_at = g.from_at and s.correction = 0`,
  };
}
