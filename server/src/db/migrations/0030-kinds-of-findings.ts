import type { MigrationInterface, QueryRunner } from 'typeorm';

/** A deal's states say what kinds of findings stand, so that compliance is one reduction of one table. */
export class KindsOfFindings1700000000030 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      alter table deal_states add column kinds text collate "C" not null default '';
      update deal_states s set kinds = found.kinds from (
        select d.deal_id, d.from_at, string_agg(f.kind, ' ' order by f.kind collate "C") as kinds
        from deal_states d join findings f on f.deal_id = d.deal_id and f.opened_at <= d.from_at and f.closed_at > d.from_at
        where d.findings > 0 group by 1, 2
      ) found where s.deal_id = found.deal_id and s.from_at = found.from_at;
      alter table deal_states alter column kinds drop default;
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('alter table deal_states drop column kinds');
  }
}
