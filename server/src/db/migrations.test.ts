import { DataSource, type MigrationInterface } from 'typeorm';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { createTestDatabase, type TestDatabase } from '../testing/testDatabase.ts';
import { migrations } from './migrations/index.ts';

/* A database as an earlier program left it is brought up to date with all that it holds. */

let database: TestDatabase;
beforeAll(async () => {
  database = await createTestDatabase('template0');
});
afterAll(() => database.drop());

async function after<Row>(
  applied: readonly (new () => MigrationInterface)[],
  statements: readonly string[],
): Promise<Row[]> {
  const source = new DataSource({ type: 'postgres', url: database.ownerUrl, migrations: [...applied] });
  await source.initialize();
  try {
    await source.runMigrations({ transaction: 'each' });
    let rows: Row[] = [];
    for (const statement of statements) rows = await source.query(statement);
    return rows;
  } finally {
    await source.destroy();
  }
}

const id = (kind: number): string => `'01900000-0000-7000-8000-00000000000${kind}'`;
const [PERSON, CALENDAR, PROCESS, OLD, LIVE, DEAL, LOST, RUNNING, FAILED] = [1, 2, 3, 4, 5, 6, 7, 8, 9].map(id);
const WORKING = '{"days": 5, "counting": "working"}';
const STAGE = `{"id": "d", "target": ${WORKING}, "steps": [{"id": "call", "due": ${WORKING}}, {"id": "ask", "due": ${WORKING}}]}`;
const SET = `{"id": "set", "tasks": [{"id": "t", "due": ${WORKING}}]}`;
const document = (currency: string): string =>
  `'{"currency": "${currency}", "stages": [${STAGE}], "taskSets": [${SET}]}'`;
const path = `'[{"seq": 1, "kind": "start", "to": "a", "owes": [], "forced": "no"},
  {"seq": 2, "kind": "skip", "to": "c", "owes": ["r"], "forced": "no"}, {"seq": 3, "kind": "skip", "to": "d", "owes": ["s"], "forced": "yes"}]'`;
const AS_IT_WAS = [
  `insert into people (id, name, email, email_fold, role, password_hash) values (${PERSON}, 'P', 'p', 'p', 'seller', '')`,
  `insert into calendars (id, name, working_weekdays) values (${CALENDAR}, 'C', '{1}')`,
  `insert into processes (id, name, name_fold, kind, calendar_id) values (${PROCESS}, 'P', 'p', 'deal', ${CALENDAR})`,
  `insert into process_versions (id, process_id, number, state, document, saved_at, published_at) values
     (${OLD}, ${PROCESS}, 1, 'superseded', ${document('GBP')}, now(), '2025-12-01'), (${LIVE}, ${PROCESS}, 2, 'live', ${document('EUR')}, now(), '2026-01-20')`,
  `insert into deals (id, process_id, version_id, name, name_fold, status, stage_id, entered_at, entered_day, values, created_at, path, path_text, grace, activity_counts, move_count)
     values (${DEAL}, ${PROCESS}, ${LIVE}, 'D', 'd', 'open', 'd', now(), now(), '{}', now(), ${path}, '', '{"until": 1795000000000, "requirements": ["r", "s"]}', '{}', 3)`,
  `insert into deals (id, process_id, version_id, name, name_fold, status, stage_id, entered_at, entered_day, values, created_at, closed_at, closed_day, path, path_text, activity_counts, move_count)
     values (${LOST}, ${PROCESS}, ${LIVE}, 'L', 'l', 'lost', 'd', now(), now(), '{}', now(), now(), now(), ${path}, '', '{}', 3)`,
  `insert into deal_heads (deal_id, revision) values (${DEAL}, 1), (${LOST}, 1)`,
  `insert into deal_spans (deal_id, aspect, value, from_at, to_at) values
     (${DEAL}, 'version', to_jsonb(${OLD}::text), '2026-01-01', '2026-02-01'), (${DEAL}, 'version', to_jsonb(${LIVE}::text), '2026-02-01', null),
     (${DEAL}, 'owner', 'null', '2026-01-01', '2026-02-10'), (${DEAL}, 'owner', to_jsonb(${PERSON}::text), '2026-02-10', null),
     (${DEAL}, 'value', '{"minor": 500, "currency": "EUR"}', '2026-01-20', null), (${DEAL}, 'close_date', '"2026-09-01"', '2026-01-01', null)`,
  `insert into visits (deal_id, seq, stage_id, entered_at, entered_day, left_at, left_day, move_seq, taken_back) values
     (${DEAL}, 1, 'a', '2026-01-01', '2026-01-01', '2026-02-10', '2026-02-10', 1, false), (${DEAL}, 2, 'b', '2026-02-10', '2026-02-10', '2026-02-11', '2026-02-11', 2, true),
     (${DEAL}, 3, 'd', '2026-02-10', '2026-02-10', null, null, 3, false), (${LOST}, 1, 'd', '2026-01-01', '2026-01-01', '2026-01-05', '2026-01-05', 1, false)`,
  `insert into findings (deal_id, key, opened_at, closed_at, process_id, kind, level, origin) values
     (${DEAL}, 'r', '2026-03-01', 'infinity', ${PROCESS}, 'field', 'flag', 'owed'), (${DEAL}, 'idle', '2027-01-01', 'infinity', ${PROCESS}, 'idle', 'hold', 'house_rule')`,
  `insert into journal (deal_id, kind, stage_id, happened_at, recorded_at, body) values (${DEAL}, 'created', 'a', '2026-03-01', '2026-03-02', '{}')`,
  `insert into imports (id, file_name, process_id, by_id, state, uploaded_at, settings, rows_read, rows_total, failure) values
     (${RUNNING}, 'r.csv', ${PROCESS}, ${PERSON}, 'running', '2026-03-01', '{"known": "skip"}', 5, 9, null),
     (${FAILED}, 'f.csv', ${PROCESS}, ${PERSON}, 'failed', '2026-03-02', '{"known": "skip"}', 9, 9, 'Too old')`,
];

const WITH_DUE_DAYS = [
  `insert into step_runs (deal_id, seq, visit_seq, begun_day, begun_at, owed, taken_back, stage_id, step, name, due_day) values
     (${DEAL}, 1, 3, '2026-02-10', '2026-02-10', false, false, 'd', 'call', 'Call', '2026-02-17'),
     (${DEAL}, 2, 3, '2026-02-10', '2026-02-10', true, false, 'd', 'ask', 'Ask', '2026-02-20')`,
  `insert into step_runs (deal_id, seq, visit_seq, begun_day, begun_at, owed, taken_back, stage_id, step, name, ended_at, ended_day, how, thread, result, result_name, ended_by) values
     (${DEAL}, 3, 1, '2026-01-02', '2026-01-02', false, false, 'a', 'x', 'X', '2026-02-05', '2026-02-05', 'result', 'finished', 'y', 'Y', ${PERSON}),
     (${DEAL}, 4, 3, '2026-02-10', '2026-02-10', false, false, 'd', 'x', 'X', '2026-03-01', '2026-03-01', 'result', 'finished', 'y', 'Y', ${PERSON})`,
  `insert into tasks (deal_id, seq, made_at, due_day, made_by, title, set_id, set_item) values
     (${DEAL}, 1, '2026-02-10', '2026-02-17', ${PERSON}, 'Send', 'set', 't'), (${DEAL}, 2, '2026-02-10', '2026-02-17', ${PERSON}, 'Own', null, null)`,
  `insert into journal (deal_id, kind, stage_id, happened_at, recorded_at, body) values (${DEAL}, 'step_put_off', 'd', '2026-02-11', '2026-02-11', '{"run": 2}')`,
  `insert into moves (deal_id, seq, process_id, version_id, kind, from_stage, to_stage, over_stages, happened_at, recorded_at, day, by_id, forced, verdict, snapshot, taken_back_at, counts)
   select ${LOST}, seq, ${PROCESS}, ${OLD}, kind, null, null, '{}', day, day, day, ${PERSON}, false, '{}', '{}', back, counts from (values
     (1, 'start', date '2026-01-01', null::date, true), (2, 'won', '2026-01-02', '2026-01-03', false), (3, 'lost', '2026-01-05', null, false),
     (4, 'reopen', '2026-01-07', null, true), (5, 'lost', '2026-01-09', null, true)) as m (seq, kind, day, back, counts)`,
];

const WITH_CORRECTIONS = [
  `insert into state_corrections (deal_id, process_id, from_at, to_at, counts, status, stage_id, standing, currency, kinds, value_minor, entered_day)
   select ${DEAL}, ${PROCESS}, '2026-02-10', '2026-02-12', counts, 'open', stage, 'flagged', 'EUR', 'field idle', 500, '2026-02-10'
   from (values (1, 'b'), (-1, 'd')) as c (counts, stage)`,
];

it('grace becomes a fact of its publish, and each deal has a currency, the instant of its newest record and a whole path', async () => {
  await after(migrations.slice(0, 1), AS_IT_WAS);
  await after(migrations.slice(0, 25), WITH_DUE_DAYS);
  await after(migrations.slice(0, 46), WITH_CORRECTIONS);
  const [row] = await after<Record<string, unknown>>(migrations, [
    `select v.grace, d.currency, d.path, h.settled_at from deals d join deal_heads h on h.deal_id = d.id join process_versions v on v.process_id = d.process_id and v.state = 'live' where d.id = ${DEAL}`,
  ]);
  expect(row).toMatchObject({
    grace: { until: 1_795_000_000_000, changed: { [String(OLD).replaceAll("'", '')]: { r: null, s: null } } },
    currency: 'EUR',
    path: [
      { seq: 1, skipped: [], flagged: [], graceUntil: null },
      { seq: 2, skipped: ['r'] },
      { seq: 3, skipped: [] },
    ],
    settled_at: new Date('2026-03-02'),
  });
});

it('a day that was counted in working days, and not put off by hand, is known as such', async () => {
  const rows = await after<Record<string, unknown>>(migrations, [
    `select 'visit' as part, seq, in_working_days as counted from visits where deal_id = ${DEAL}
     union all select 'run', seq, in_working_days from step_runs where ended_at is null union all select 'task', seq, in_working_days from tasks order by 1, 2`,
  ]);
  expect(rows.filter(({ counted }) => counted)).toEqual([
    { part: 'run', seq: 1, counted: true },
    { part: 'task', seq: 1, counted: true },
    { part: 'visit', seq: 3, counted: true },
  ]);
  expect(rows).toHaveLength(7);
});

it('a deal that had ended says by which outcome', async () => {
  const rows = await after<Record<string, unknown>>(migrations, [`select status, outcome_id from deals order by id`]);
  expect(rows).toEqual([
    { status: 'open', outcome_id: null },
    { status: 'lost', outcome_id: 'lost' },
  ]);
});

it('imports that were under way are long work that is to be begun again, and failures are kept', async () => {
  const rows = await after<Record<string, unknown>>(migrations, [
    `select w.kind, w.state, w.done, w.total, w.request, w.problem->>'detail' as problem, i.state as import
     from imports i join long_work w on w.subject = i.id::text order by i.id`,
  ]);
  const request = { known: 'skip' };
  expect(rows).toEqual([
    { kind: 'import', state: 'running', done: 5, total: 9, request, problem: null, import: 'uploaded' },
    { kind: 'import', state: 'failed', done: 9, total: 9, request, problem: 'Too old', import: 'uploaded' },
  ]);
});

it('what was so of a deal by aspect, stay and finding is one row of states from each turn on', async () => {
  const rows = await after<Record<string, unknown>>(migrations, [
    `select to_char(from_at, 'YYYY-MM-DD') as day, owner_id is not null as owned, stage_id as stage, status, value_minor::int as value,
       currency, close_date::text, standing, findings, owed, shown_from::text as shown from deal_states where deal_id = ${DEAL} and correction = 0 order by from_at`,
  ]);
  const first = {
    owned: false,
    stage: 'a',
    status: 'open',
    value: 500,
    currency: 'EUR',
    close_date: '2026-09-01',
    standing: 'clear',
    findings: 0,
    owed: 0,
    shown: 'infinity',
  };
  expect(rows.filter(({ day }) => day !== '2026-01-20')).toEqual([
    { day: '2026-01-01', ...first },
    { day: '2026-02-01', ...first },
    { day: '2026-02-10', ...first, owned: true, stage: 'd' },
    {
      day: '2026-03-01',
      ...first,
      owned: true,
      stage: 'd',
      standing: 'flagged',
      findings: 1,
      owed: 1,
      shown: '-infinity',
    },
    {
      day: '2027-01-01',
      ...first,
      owned: true,
      stage: 'd',
      standing: 'held',
      findings: 2,
      owed: 1,
      shown: expect.stringContaining('2027-01-01'),
    },
  ]);
  const ended = await after<Record<string, unknown>>(migrations, [
    `select status, to_at = 'infinity' as last from deal_states where deal_id = ${LOST} order by from_at`,
  ]);
  expect(ended).toEqual([
    { status: 'open', last: false },
    { status: 'lost', last: true },
  ]);
  const shapes = await after<{ shape: string }>(migrations, [
    `select concat_ws(' ', s.currency, s.stage_id, s.standing, s.kinds) as shape from deal_states d join state_shapes s on s.number = d.shape
     where deal_id = ${DEAL} and d.standing <> 'clear' and correction = 0 order by from_at`,
  ]);
  expect(shapes.map(({ shape }) => shape)).toEqual(['EUR d flagged field', 'EUR d held field idle']);
});

it('what a deal was taken to be is a row of its states that no list shows, and stays', async () => {
  const rows = await after<Record<string, unknown>>(migrations, [
    `select sign(d.correction) as counts, s.stage_id as stage, s.kinds, d.findings, d.entered_at = '2026-02-10T00:00Z' as entered, d.shown_from as shown
     from deal_states d join state_shapes s on s.number = d.shape where correction <> 0 order by 1`,
  ]);
  const alike = { kinds: 'field idle', findings: 2, entered: true, shown: null };
  expect(rows).toEqual([
    { counts: -1, stage: 'd', ...alike },
    { counts: 1, stage: 'b', ...alike },
  ]);
  for (const change of ['update deal_states set owed = 1', 'delete from deal_states'])
    await expect(after(migrations, [change])).rejects.toMatchObject({ constraint: 'corrections_stay' });
});

it('a deal follows its process, but for the time that it stayed on a version after the next was live, or where it has ended', async () => {
  const stays = await after<Record<string, unknown>>(migrations, [
    `select version_id = ${OLD} as old, to_char(from_at, 'YYYY-MM-DD') as since, to_char(to_at, 'YYYY-MM-DD') as until from deal_stays where deal_id = ${DEAL}`,
  ]);
  expect(stays).toEqual([{ old: true, since: '2026-01-20', until: '2026-02-01' }]);
  const followed = await after<Record<string, unknown>>(migrations, [
    `select status, version_id is null as follows from deals order by id`,
  ]);
  expect(followed).toEqual([
    { status: 'open', follows: true },
    { status: 'lost', follows: false },
  ]);
});

it('a run of a step that ended says whose the deal was then', async () => {
  const runs = await after<Record<string, unknown>>(migrations, [
    `select seq, owner_id = ${PERSON} as owned, process_id = ${PROCESS} as placed, counts from step_runs where ended_at is not null order by seq`,
  ]);
  expect(runs).toEqual([
    { seq: 3, owned: null, placed: true, counts: true },
    { seq: 4, owned: true, placed: true, counts: true },
  ]);
});

it('a closing says since when it counts no longer for its deal had been reopened', async () => {
  const moves = await after<Record<string, unknown>>(migrations, [
    `select seq, reopened_at::date::text as day from moves where deal_id = ${LOST} and reopened_at is not null`,
  ]);
  expect(moves).toEqual([{ seq: 3, day: '2026-01-07' }]);
});
