import { createHash, randomUUID } from 'node:crypto';
import express from 'express';
import pg from 'pg';

/*
 * What a command could cost at least: Express and pg, and the rows that one edit or one move writes, its key with the answer
 * among them, in six round trips; and a page that reads one row. No session, no rules, no judging, no rights.
 */

const pool = new pg.Pool({ connectionString: process.env.DATABASE_URL, max: 8, options: '-c jit=off' });
const app = express();
app.use(express.json());

app.get('/health', (_request, response) => void response.json({ status: 'ok' }));

app.get('/deals/:id', async (request, response) => {
  const { rows } = await pool.query('select * from deals where id = $1', [request.params.id]);
  response.json(rows[0]);
});

interface Edit {
  readonly field: string;
  readonly value: unknown;
}
interface Move {
  readonly stage: string;
}

const CLAIM = `with claimed as (
    insert into idempotency_keys (person_id, key, request_hash, created_at) select id, $2, $3, now() from people order by id limit 1
  ) select * from deal_heads where deal_id = $1 for update`;

/** What a move writes of its deal: the stay that ends, the one that begins, and the move itself. */
const MOVE = `with was as (
    update visits set left_at = now(), left_day = now()::date where deal_id = $1 and left_at is null and not taken_back returning *
  ), said as (insert into journal_texts (id, deal_id, text) values ($3, $1, 'So it was')),
  stay as (
    insert into visits (deal_id, seq, stage_id, entered_at, entered_day, move_on_day, move_seq, activity_counts)
    select $1, (select max(seq) + 1 from visits where deal_id = $1), $2, now(), now()::date, now()::date + 20, move_seq + 1, activity_counts from was
  ), moved as (
    insert into moves (deal_id, seq, process_id, version_id, kind, from_stage, to_stage, over_stages, happened_at, recorded_at, day,
      stay_days, target_days, by_id, forced, owner_id, team_id, source, value_minor, currency, reporting_minor, verdict, snapshot)
    select $1, seq + 1, process_id, version_id, 'forward', to_stage, $2, '{}', now(), now(), now()::date,
      3, 20, coalesce(by_id, (select id from people order by id limit 1)), true, owner_id, team_id, source, value_minor, currency,
      reporting_minor, verdict, snapshot from moves where deal_id = $1 order by seq desc limit 1
  ) update deals set stage_id = $2, entered_at = now(), entered_day = now()::date, move_count = move_count + 1 where id = $1`;

/** How it stands from then on and how it will stand by time alone; the findings that are over, have come, and never were; its step. */
const STANDING = `with state as (select * from deal_states where deal_id = $1 and from_at <= now() and to_at > now()),
  ahead as (delete from deal_states where deal_id = $1 and from_at > now()),
  ended as (update deal_states s set to_at = now(), shown_from = 'infinity' from state where s.deal_id = $1 and s.from_at = state.from_at),
  stands as (
    insert into deal_states (deal_id, from_at, to_at, process_id, owner_id, team_id, entered_at, value_minor, entered_day, move_on_day,
      close_date, findings, owed, shown_from, status, standing, stage_id, currency, kinds)
    select $1, turn.from_at, turn.to_at, process_id, owner_id, team_id, now(), value_minor, now()::date, now()::date + 20,
      close_date, findings, owed, turn.shown_from, status, standing, $2, currency, kinds
    from state, (values (now(), now() + interval '20 days', '-infinity'::timestamptz),
      (now() + interval '20 days', 'infinity', now() + interval '20 days')) turn (from_at, to_at, shown_from)
  ), open as (select *, row_number() over (order by key) as place from findings where deal_id = $1 and closed_at = 'infinity' and opened_at < now()),
  headed as (update deal_heads set revision = revision + 1, settled_at = now() where deal_id = $1),
  closed as (update findings f set closed_at = now() from open where place <= 2 and f.deal_id = $1 and f.key = open.key and f.opened_at = open.opened_at),
  gone as (delete from findings f using open where place = 3 and f.deal_id = $1 and f.key = open.key and f.opened_at = open.opened_at),
  found as (
    insert into findings (deal_id, key, opened_at, process_id, kind, level, origin)
    select $1, 'bare ' || n, now(), process_id, 'requirement', 'flag', 'design' from state, generate_series(1, 3) n
  ), at_hand as (select * from step_runs where deal_id = $1 and ended_at is null and not taken_back),
  done as (
    update step_runs r set ended_at = now(), ended_day = now()::date, how = 'left', thread = 'broken_off',
      ended_by = (select id from people order by id limit 1) from at_hand where r.deal_id = $1 and r.seq = at_hand.seq
  ) insert into step_runs (deal_id, seq, visit_seq, begun_day, begun_at, owed, taken_back, stage_id, step, name, process_id, owner_id, team_id, counts)
    select $1, (select coalesce(max(seq), 0) + 1 from step_runs where deal_id = $1), 0, now()::date, now(), false, false, $2, 'bare', 'Bare',
      process_id, owner_id, team_id, true from state where not exists (select from at_hand)`;

const ENTRY = `with written as (
    insert into journal (deal_id, kind, stage_id, happened_at, recorded_at, by_id, body, text_id)
    select $1, $2::jsonb->>'kind', stage_id, now(), now(), (select id from people order by id limit 1), $2, $5::uuid from deals where id = $1
  ) update idempotency_keys set status = 200, answer = $4 where key = $3 and person_id = (select id from people order by id limit 1)`;

/** Begins, claims the key and locks, writes, writes the entry with the answer, and ends: two more round trips are for what is written. */
async function writeBare(
  id: string,
  body: Edit | Move,
  entry: object,
  text: string | null,
  write: (client: pg.PoolClient) => Promise<unknown>,
): Promise<unknown> {
  const client = await pool.connect();
  try {
    await client.query('begin');
    const [key, hash] = [randomUUID(), createHash('sha256').update(JSON.stringify(body)).digest()];
    const { rows } = await client.query(CLAIM, [id, key, hash]);
    await write(client);
    await client.query(ENTRY, [id, entry, key, rows[0], text]);
    await client.query('commit');
    return rows[0];
  } finally {
    client.release();
  }
}

app.patch('/deals/:id', async (request, response) => {
  const { id } = request.params;
  const body: Edit = request.body;
  const written = await writeBare(id, body, { kind: 'edited', edit: randomUUID() }, null, async (client) => {
    await client.query('update deals set values = values || $2 where id = $1', [id, { [body.field]: body.value }]);
    await client.query('update deal_heads set revision = revision + 1, settled_at = now() where deal_id = $1', [id]);
  });
  response.json(written);
});

app.post('/deals/:id/moves', async (request, response) => {
  const { id } = request.params;
  const body: Move = request.body;
  const text = randomUUID();
  const written = await writeBare(id, body, { kind: 'moved', to: body.stage }, text, async (client) => {
    await client.query(MOVE, [id, body.stage, text]);
    await client.query(STANDING, [id, body.stage]);
  });
  response.json(written);
});

app.listen(Number(process.env.PORT), '127.0.0.1');
process.on('SIGTERM', () => process.exit(0));
