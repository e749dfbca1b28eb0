import type { MigrationInterface, QueryRunner } from 'typeorm';

const DAY_SECONDS = 86_400;
/** From how many seconds on a state has the next span: each is twice the one before. */
const THRESHOLDS = Array.from({ length: 12 }, (_, span) => 2 ** (span + 1) * DAY_SECONDS);

/**
 * What was so on a past day began no longer before it than it lasted. States stand by how long they were so, by when they began:
 * of each span only those are gone through that began within it, where all were that ended at any time since; and what is added
 * up of them is at hand.
 */
export class Spans1700000000038 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      alter table deal_states add column span smallint not null generated always as (
        case when to_at = 'infinity' then ${THRESHOLDS.length + 1}
          else width_bucket(extract(epoch from to_at - from_at), array[${THRESHOLDS.join(', ')}]::numeric[]) end
      ) stored;
      drop index deal_states_by_end;
      create index deal_states_past on deal_states (process_id, span, from_at) include (to_at, shape, value_minor) where status = 'open';
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      drop index deal_states_past;
      create index deal_states_by_end on deal_states (process_id, to_at, from_at);
      alter table deal_states drop column span;
    `);
  }
}
