import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * Deals and moves say by which outcome of their process they ended. Those of the time when there were two ends alone have
 * them by the same ids that reading gives the outcomes of older documents.
 */
export class Outcomes1700000000005 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      alter table deals add column outcome_id text collate "C";
      update deals set outcome_id = status where status in ('won', 'lost');
      alter table deals add constraint deals_outcome check ((outcome_id is not null) = (status in ('won', 'lost')));
      alter table moves add column outcome_id text collate "C";
      update moves set outcome_id = kind where kind in ('won', 'lost');
      alter table process_reasons drop constraint process_reasons_outcome_check;
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      alter table process_reasons add constraint process_reasons_outcome_check check (outcome in ('won', 'lost'));
      alter table moves drop column outcome_id;
      alter table deals drop column outcome_id;
    `);
  }
}
