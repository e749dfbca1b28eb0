import type { Actor } from '@ladder/core';
import { actorColumns } from '../actorColumns.ts';
import { iso } from '../timestamps.ts';
import { actor, instant, json, number, text, whole } from './columns.ts';
import { type ColumnsOf, changedParts, listed, type StoredPart } from './storedPart.ts';

const COLUMNS: ColumnsOf<'waivers'> = {
  seq: number('seq'),
  request: number('request'),
  requirement: text('requirement'),
  substance: text('substance'),
  target: text('target'),
  visitSeq: number('visit_seq'),
  why: text('why'),
  until: text('until_day'),
  askedAt: instant('asked_at'),
  askedBy: actor('asked_by', 'asked_actor'),
  verdict: json('verdict'),
  decision: whole('at', {
    how: text('how'),
    at: instant('decided_at'),
    by: actor('decided_by', 'decided_actor'),
    word: text('word'),
    until: text('granted_until'),
  }),
  covers: whole('from', { from: instant('from_at'), to: instant('to_at') }),
  end: whole('at', {
    how: text('end_how'),
    at: instant('ended_at'),
    by: actor('ended_by', 'ended_actor'),
    word: text('end_word'),
    moveSeq: number('end_move'),
  }),
};

const NOBODY = { by_id: null, by_actor: null };
const columnsOf = (by: Actor | undefined) => (by === undefined ? NOBODY : actorColumns(by));

export const waiversStored: StoredPart<'waivers'> = {
  ...listed('waivers', COLUMNS, 'waivers where deal_id = d.id', 'seq'),
  writes: (writes) => {
    const rows = changedParts(writes, ({ waivers }) => waivers).map(({ deal, part }) => {
      const { decision, covers, end } = part;
      const [asked, decided, ended] = [columnsOf(part.askedBy), columnsOf(decision?.by), columnsOf(end?.by)];
      return {
        deal_id: deal.id,
        seq: part.seq,
        request: part.request,
        visit_seq: part.visitSeq,
        asked_at: iso(part.askedAt),
        decided_at: decision && iso(decision.at),
        from_at: covers && iso(covers.from),
        to_at: covers && iso(covers.to),
        ended_at: end && iso(end.at),
        asked_by: asked.by_id,
        decided_by: decided.by_id,
        ended_by: ended.by_id,
        until_day: part.until,
        granted_until: decision?.until ?? null,
        end_move: end?.moveSeq ?? null,
        requirement: part.requirement,
        substance: part.substance,
        target: part.target,
        why: part.why,
        how: decision?.how ?? null,
        word: decision?.word ?? null,
        end_how: end?.how ?? null,
        end_word: end?.word ?? null,
        asked_actor: asked.by_actor,
        decided_actor: decided.by_actor,
        ended_actor: ended.by_actor,
        verdict: part.verdict,
      };
    });
    return [
      {
        rows,
        statement: `insert into waivers select * from jsonb_populate_recordset(null::waivers, :rows)
       on conflict (deal_id, seq) do update set decided_at = excluded.decided_at, from_at = excluded.from_at, to_at = excluded.to_at,
         ended_at = excluded.ended_at, decided_by = excluded.decided_by, ended_by = excluded.ended_by, granted_until = excluded.granted_until,
         end_move = excluded.end_move, how = excluded.how, word = excluded.word, end_how = excluded.end_how, end_word = excluded.end_word,
         decided_actor = excluded.decided_actor, ended_actor = excluded.ended_actor`,
      },
    ];
  },
};
