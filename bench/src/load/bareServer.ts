import { createHash, randomUUID } from 'node:crypto';
import express from 'express';
import pg from 'pg';

/*
 * What a command could cost at least: Express and pg, and the rows that one edit writes, its key with the answer among them,
 * in six round trips; and a page that reads one row. No session, no rules, no judging, no rights.
 */

const pool = new pg.Pool({ connectionString: process.env.DATABASE_URL, max: 8, options: '-c jit=off' });
const app = express();
app.use(express.json());

app.get('/health', (_request, response) => void response.json({ status: 'ok' }));

app.get('/deals/:id', async (request, response) => {
  const { rows } = await pool.query('select * from deals where id = $1', [request.params.id]);
  response.json(rows[0]);
});

app.patch('/deals/:id', async (request, response) => {
  const { id } = request.params;
  const { field, value } = request.body as { field: string; value: unknown };
  const client = await pool.connect();
  try {
    await client.query('begin');
    const key = randomUUID();
    const { rows } = await client.query(
      `with claimed as (
         insert into idempotency_keys (person_id, key, request_hash, created_at) select id, $2, $3, now() from people order by id limit 1
       ) select * from deal_heads where deal_id = $1 for update`,
      [id, key, createHash('sha256').update(JSON.stringify(request.body)).digest()],
    );
    await client.query('update deals set values = values || $2 where id = $1', [id, { [field]: value }]);
    await client.query('update deal_heads set revision = revision + 1, settled_at = now() where deal_id = $1', [id]);
    await client.query(
      `with written as (
         insert into journal (deal_id, kind, stage_id, happened_at, recorded_at, by_id, body)
         select $1, 'edited', stage_id, now(), now(), (select id from people order by id limit 1), $2 from deals where id = $1
       ) update idempotency_keys set status = 200, answer = $4 where key = $3 and person_id = (select id from people order by id limit 1)`,
      [id, { kind: 'edited', edit: randomUUID() }, key, rows[0]],
    );
    await client.query('commit');
    response.json(rows[0]);
  } finally {
    client.release();
  }
});

app.listen(Number(process.env.PORT), '127.0.0.1');
process.on('SIGTERM', () => process.exit(0));
