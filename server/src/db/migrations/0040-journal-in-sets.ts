import type { MigrationInterface, QueryRunner } from 'typeorm';

const ENTRY = `place integer, deal uuid, kind text, stage text, happened timestamptz, recorded timestamptz, by_id uuid, by_actor text, body jsonb, text_id uuid`;

/**
 * Entries of the journal are chained in sets, whatever their deals, where each looked up its deal's head and wrote it again. The
 * server adds them by this function alone. One entry, and what an owner of the tables inserts by hand, is chained by the trigger
 * as it was: for one, a set takes twice as long.
 */
export class JournalInSets1700000000040 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create function journal_link(
        so_far bytea, head bytea, deal uuid, seq integer, kind text, stage text, happened timestamptz, recorded timestamptz, actor text, body jsonb, digest bytea
      ) returns bytea language plpgsql immutable as $$
      begin
        return journal_hash(coalesce(so_far, head), deal, seq, kind, stage, happened, recorded, actor, body, digest);
      end $$;
      create aggregate journal_chain(bytea, uuid, integer, text, text, timestamptz, timestamptz, text, jsonb, bytea) (
        sfunc = journal_link, stype = bytea
      );
      create function append_journal(entries jsonb) returns void language plpgsql security definer set search_path = public, pg_temp as $$
      declare appended integer;
      begin
        if jsonb_array_length(entries) = 1 then
          insert into journal (deal_id, kind, stage_id, happened_at, recorded_at, by_id, by_actor, body, text_id)
          select deal, kind, stage, happened, recorded, by_id, by_actor, body, text_id from jsonb_to_recordset(entries) as e (${ENTRY});
          return;
        end if;
        with given as (
          select *, row_number() over (partition by deal order by place) as nth, count(*) over (partition by deal) as entries_of_deal
          from jsonb_to_recordset(entries) as e (${ENTRY})
        ), heads as (
          select deal_id, journal_count, journal_hash from deal_heads where deal_id in (select deal from given) for update
        ), numbered as (
          select g.*, (h.journal_count + g.nth)::integer as seq, h.journal_hash as head, sha256(t.salt || convert_to(t.text, 'UTF8')) as digest
          from given g join heads h on h.deal_id = g.deal left join journal_texts t on t.id = g.text_id
        ), chained as (
          select *, journal_chain(head, deal, seq, kind, stage, happened, recorded, coalesce(by_actor, by_id::text), body, digest)
            over (partition by deal order by seq) as hash
          from numbered
        ), linked as (
          select *, coalesce(lag(hash) over (partition by deal order by seq), head) as previous from chained
        ), written as (
          insert into journal (deal_id, seq, kind, stage_id, happened_at, recorded_at, by_id, by_actor, body, text_id, text_digest, previous_hash, hash)
          select deal, seq, kind, stage, happened, recorded, by_id, by_actor, body, text_id, digest, previous, hash from linked order by place
          returning 1
        ), ended as (
          update deal_heads h set journal_count = l.seq, journal_hash = l.hash from linked l where h.deal_id = l.deal and l.nth = l.entries_of_deal
        )
        select count(*) into appended from written;
        if appended <> jsonb_array_length(entries) then
          raise exception 'An entry of the journal is of a deal that there is not.';
        end if;
      end $$;
      drop trigger chain_journal on journal;
      create trigger chain_journal before insert on journal for each row when (new.hash is null) execute function chain_journal();
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      drop trigger chain_journal on journal;
      create trigger chain_journal before insert on journal for each row execute function chain_journal();
      drop function append_journal(jsonb);
      drop aggregate journal_chain(bytea, uuid, integer, text, text, timestamptz, timestamptz, text, jsonb, bytea);
      drop function journal_link(bytea, bytea, uuid, integer, text, text, timestamptz, timestamptz, text, jsonb, bytea);
    `);
  }
}
