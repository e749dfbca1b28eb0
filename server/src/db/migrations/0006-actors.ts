import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * What acts need not be a person: the process by its clock and rules, an import, later a token. Who is a person stays in
 * its column; anything else stands beside it by its kind and id. Entries of persons hash as they did.
 */
export class Actors1700000000006 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      alter table journal add column by_actor text collate "C";
      alter table moves add column by_actor text collate "C", add column taken_back_actor text collate "C", alter column by_id drop not null,
        add constraint moves_actor check (num_nonnulls(by_id, by_actor) = 1);
      alter table refusals add column by_actor text collate "C", alter column by_id drop not null,
        add constraint refusals_actor check (num_nonnulls(by_id, by_actor) = 1);
      alter table activities add column by_actor text collate "C", alter column by_id drop not null,
        add constraint activities_actor check (num_nonnulls(by_id, by_actor) = 1);
      alter table ticks add column ticked_actor text collate "C", alter column ticked_by drop not null,
        add constraint ticks_actor check (num_nonnulls(ticked_by, ticked_actor) = 1);
      create function journal_hash(
        previous bytea, deal uuid, seq integer, kind text, stage text, happened timestamptz, recorded timestamptz, actor text, body jsonb, digest bytea
      ) returns bytea language sql immutable as $$
        select sha256(convert_to(jsonb_build_array(
          encode(previous, 'hex'), deal, seq, kind, stage, (extract(epoch from happened) * 1000000)::bigint,
          (extract(epoch from recorded) * 1000000)::bigint, actor, body, encode(digest, 'hex')
        )::text, 'UTF8'))
      $$;
      create or replace function chain_journal() returns trigger language plpgsql security definer set search_path = public, pg_temp as $$
      declare head deal_heads%rowtype;
      begin
        select * into strict head from deal_heads where deal_id = new.deal_id for update;
        new.seq := head.journal_count + 1;
        new.previous_hash := head.journal_hash;
        new.text_digest := null;
        if new.text_id is not null then
          select sha256(salt || convert_to(text, 'UTF8')) into strict new.text_digest from journal_texts where id = new.text_id;
        end if;
        new.hash := journal_hash(
          new.previous_hash, new.deal_id, new.seq, new.kind, new.stage_id, new.happened_at, new.recorded_at,
          coalesce(new.by_actor, new.by_id::text), new.body, new.text_digest
        );
        update deal_heads set journal_count = new.seq, journal_hash = new.hash where deal_id = new.deal_id;
        return new;
      end $$;
      drop function journal_hash(bytea, uuid, integer, text, text, timestamptz, timestamptz, uuid, jsonb, bytea);
    `);
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be taken back: what no person did would have been done by nobody.');
  }
}
