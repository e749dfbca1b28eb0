import type { MigrationInterface, QueryRunner } from 'typeorm';

const TEXT = `(currency || ' ' || stage_id || ' ' || standing || ' ' || kinds) collate "C"`;

/* 25 bits for the shape; 22 for the day of coming to the stage, which last until the year 11484; 16 for in how many days it is to move on, 0 for never. */
const SUM_KEY = `(shape::bigint << 38)
  | (least(entered_day - date '0001-12-31 BC', (1 << 22) - 1)::bigint << 16)
  | case when move_on_day is null then 0 else least(greatest(move_on_day - entered_day, 0) + 1, (1 << 16) - 1) end`;

/**
 * Open deals are added up by one number, of their shape and of the days of their stay, in place of a text and a day: past days
 * have no index in that order, and hashing and carrying texts took a third of it. Their index has no more than that, for what it
 * has else is gone through too: narrowed to somebody's deals, they are looked at in the table. A state gets the number of its
 * shape as it is written. Two that write a shape for the first time do not wait for each other: it has two numbers then, which
 * say the same.
 */
export class NumberedShapes1700000000042 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create table state_shapes (
        number integer generated always as identity primary key check (number < 1 << 25),
        currency char(3) not null,
        stage_id text collate "C" not null,
        standing text not null,
        kinds text collate "C" not null
      );
      insert into state_shapes (currency, stage_id, standing, kinds) select distinct currency, stage_id, standing, kinds from deal_states;
      create index state_shapes_by_text on state_shapes using hash ((${TEXT}));
      analyze state_shapes;
      create function number_of_shape(text text) returns integer language sql stable as $$ select number from state_shapes where ${TEXT} = text $$;
      drop index deal_states_shown;
      drop index deal_states_turned;
      drop index deal_states_past;
      alter table deal_states alter column shape drop expression;
      alter table deal_states alter column shape type integer using number_of_shape(shape);
      alter table deal_states
        add column sum_key bigint not null generated always as (${SUM_KEY}) stored;
      drop function number_of_shape(text);
      create index deal_states_shown on deal_states (process_id, shape)
        include (to_at, sum_key, value_minor, move_on_day, close_date, owner_id, team_id)
        where shown_from = '-infinity' and status = 'open';
      create index deal_states_turned on deal_states (process_id, shown_from, to_at)
        include (sum_key, value_minor, shape, move_on_day, close_date, owner_id, team_id)
        where shown_from > '-infinity' and shown_from < 'infinity' and status = 'open';
      create index deal_states_past on deal_states (process_id, span, from_at, to_at)
        include (sum_key, value_minor) where status = 'open';
      create function number_shape() returns trigger language plpgsql as $$
      declare asked text collate "C" := new.currency || ' ' || new.stage_id || ' ' || new.standing || ' ' || new.kinds;
      begin
        select number into new.shape from state_shapes where ${TEXT} = asked limit 1;
        if not found then
          insert into state_shapes (currency, stage_id, standing, kinds)
            values (new.currency, new.stage_id, new.standing, new.kinds) returning number into new.shape;
        end if;
        return new;
      end $$;
      create trigger number_shape_on_insert before insert on deal_states for each row execute function number_shape();
      create trigger number_shape_on_update before update of currency, stage_id, standing, kinds on deal_states for each row
        when ((old.currency, old.stage_id, old.standing, old.kinds) is distinct from (new.currency, new.stage_id, new.standing, new.kinds))
        execute function number_shape();
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      drop trigger number_shape_on_insert on deal_states;
      drop trigger number_shape_on_update on deal_states;
      drop function number_shape();
      drop index deal_states_past;
      drop index deal_states_turned;
      drop index deal_states_shown;
      alter table deal_states drop column sum_key, drop column shape;
      alter table deal_states add column shape text collate "C" not null generated always as (${TEXT}) stored;
      create index deal_states_shown on deal_states (process_id, shape, entered_day)
        include (to_at, value_minor, move_on_day, close_date, owner_id, team_id)
        where shown_from = '-infinity' and status = 'open';
      create index deal_states_turned on deal_states (process_id, shown_from, to_at)
        include (shape, value_minor, entered_day, move_on_day, close_date, owner_id, team_id)
        where shown_from > '-infinity' and shown_from < 'infinity' and status = 'open';
      create index deal_states_past on deal_states (process_id, span, from_at)
        include (to_at, shape, value_minor, entered_day, move_on_day, close_date, owner_id, team_id) where status = 'open';
      drop table state_shapes;
    `);
  }
}
