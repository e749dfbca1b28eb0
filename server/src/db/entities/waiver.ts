import {
  type DealId,
  type KeptVerdict,
  WAIVER_DECISIONS,
  WAIVER_ENDS,
  type WaiverDecision,
  type WaiverEnd,
} from '@ladder/core';
import { EntitySchema } from 'typeorm';
import { oneOf } from './oneOf.ts';

export interface WaiverRow {
  dealId: DealId;
  seq: number;
  request: number;
  visitSeq: number;
  askedAt: Date;
  decidedAt: Date | null;
  fromAt: Date | null;
  toAt: Date | null;
  endedAt: Date | null;
  askedBy: string | null;
  decidedBy: string | null;
  endedBy: string | null;
  untilDay: string;
  grantedUntil: string | null;
  endMove: number | null;
  requirement: string;
  substance: string;
  target: string;
  why: string;
  how: WaiverDecision['how'] | null;
  word: string | null;
  endHow: WaiverEnd['how'] | null;
  endWord: string | null;
  askedActor: string | null;
  decidedActor: string | null;
  endedActor: string | null;
  verdict: KeptVerdict;
}

export const WaiverEntity = new EntitySchema<WaiverRow>({
  name: 'waiver',
  tableName: 'waivers',
  columns: {
    dealId: { type: 'uuid', primary: true },
    seq: { type: 'integer', primary: true },
    request: { type: 'integer' },
    visitSeq: { type: 'integer' },
    askedAt: { type: 'timestamptz' },
    decidedAt: { type: 'timestamptz', nullable: true },
    fromAt: { type: 'timestamptz', nullable: true },
    toAt: { type: 'timestamptz', nullable: true },
    endedAt: { type: 'timestamptz', nullable: true },
    askedBy: { type: 'uuid', nullable: true },
    decidedBy: { type: 'uuid', nullable: true },
    endedBy: { type: 'uuid', nullable: true },
    untilDay: { type: 'date' },
    grantedUntil: { type: 'date', nullable: true },
    endMove: { type: 'integer', nullable: true },
    requirement: { type: 'text', collation: 'C' },
    substance: { type: 'text' },
    target: { type: 'text', collation: 'C' },
    why: { type: 'text' },
    how: { type: 'text', nullable: true },
    word: { type: 'text', nullable: true },
    endHow: { type: 'text', nullable: true },
    endWord: { type: 'text', nullable: true },
    askedActor: { type: 'text', nullable: true, collation: 'C' },
    decidedActor: { type: 'text', nullable: true, collation: 'C' },
    endedActor: { type: 'text', nullable: true, collation: 'C' },
    verdict: { type: 'jsonb' },
  },
  checks: [
    oneOf('waivers_how_check', 'how', WAIVER_DECISIONS),
    oneOf('waivers_end_how_check', 'end_how', WAIVER_ENDS),
    { name: 'waivers_asker', expression: '(num_nonnulls(asked_by, asked_actor) = 1)' },
    {
      name: 'waivers_decided',
      expression:
        '((num_nonnulls(decided_at, how) = ANY (ARRAY[0, 2])) AND (num_nonnulls(decided_by, decided_actor) = num_nonnulls(decided_at)))',
    },
    {
      name: 'waivers_ended',
      expression:
        '((num_nonnulls(ended_at, end_how) = ANY (ARRAY[0, 2])) AND (num_nonnulls(ended_by, ended_actor) = num_nonnulls(ended_at)))',
    },
    {
      name: 'waivers_covers',
      expression: '((num_nonnulls(from_at, to_at) = ANY (ARRAY[0, 2])) AND (from_at <= to_at))',
    },
  ],
  foreignKeys: [
    { name: 'waivers_asked_by_fkey', target: 'person', columnNames: ['askedBy'], referencedColumnNames: ['id'] },
    { name: 'waivers_deal_id_fkey', target: 'deal', columnNames: ['dealId'], referencedColumnNames: ['id'] },
    { name: 'waivers_decided_by_fkey', target: 'person', columnNames: ['decidedBy'], referencedColumnNames: ['id'] },
    { name: 'waivers_ended_by_fkey', target: 'person', columnNames: ['endedBy'], referencedColumnNames: ['id'] },
  ],
  indices: [
    { name: 'waivers_open', columns: ['dealId', 'requirement'], unique: true, where: '(decided_at IS NULL)' },
    { name: 'waivers_of_requirement', columns: ['requirement', 'askedAt'] },
  ],
});
