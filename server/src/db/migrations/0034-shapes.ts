import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * Open deals are added up by one text in place of four, which PostgreSQL makes itself of those that stand there: hashing and
 * carrying four took most of the time. What was so by a deal's last change and what time alone has turned since have an index each:
 * the first, most of them, stands in the order in which it is added up, so that nothing is hashed at all.
 */
export class Shapes1700000000034 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      drop index deal_states_open;
      alter table deal_states add column shape text collate "C" not null
        generated always as (currency || ' ' || stage_id || ' ' || standing || ' ' || kinds) stored;
      create index deal_states_shown on deal_states (process_id, shape, entered_day)
        include (to_at, value_minor, move_on_day, close_date, owner_id, team_id)
        where shown_from = '-infinity' and status = 'open';
      create index deal_states_turned on deal_states (process_id, shown_from, to_at)
        include (shape, value_minor, entered_day, move_on_day, close_date, owner_id, team_id)
        where shown_from > '-infinity' and shown_from < 'infinity' and status = 'open';
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      drop index deal_states_turned;
      drop index deal_states_shown;
      alter table deal_states drop column shape;
      create index deal_states_open on deal_states (process_id, shown_from, to_at)
        include (stage_id, standing, kinds, currency, value_minor, entered_day, move_on_day, close_date, owner_id, team_id)
        where shown_from < 'infinity' and status = 'open';
    `);
  }
}
