import type { ProcessId } from '@ladder/core';
import { DEAL_STATUSES, type DealStatus } from '@ladder/core';
import { EntitySchema } from 'typeorm';
import { oneOf } from './oneOf.ts';

export interface DealRow {
  id: string;
  processId: ProcessId;
  /** Where it stays on an older version than the live one, or has ended; null while it follows its process. */
  versionId: string | null;
  name: string;
  nameFold: string;
  externalId: string | null;
  status: DealStatus['state'];
  stageId: string;
  enteredAt: Date;
  enteredDay: string;
  moveOnDay: string | null;
  customerId: string | null;
  contactId: string | null;
  ownerId: string | null;
  teamId: string | null;
  source: string | null;
  valueMinor: string | null;
  currency: string;
  ownChance: string | null;
  closeDate: string | null;
  nextAction: string | null;
  values: unknown;
  folded: unknown;
  createdAt: Date;
  closedAt: Date | null;
  closedDay: string | null;
  reasonId: string | null;
  followUpDay: string | null;
  path: unknown;
  pathText: string;
  attempt: unknown;
  activityCounts: unknown;
  closeDateMoves: number;
  moveCount: number;
  importId: string | null;
  outcomeId: string | null;
  estimate: unknown;
}

export const DealEntity = new EntitySchema<DealRow>({
  name: 'deal',
  tableName: 'deals',
  columns: {
    id: { type: 'uuid', primary: true },
    processId: { type: 'uuid' },
    versionId: { type: 'uuid', nullable: true },
    name: { type: 'text', collation: 'C' },
    nameFold: { type: 'text', collation: 'C' },
    externalId: { type: 'text', nullable: true, collation: 'C' },
    status: { type: 'text' },
    stageId: { type: 'text', collation: 'C' },
    enteredAt: { type: 'timestamptz' },
    enteredDay: { type: 'date' },
    moveOnDay: { type: 'date', nullable: true },
    customerId: { type: 'uuid', nullable: true },
    contactId: { type: 'uuid', nullable: true },
    ownerId: { type: 'uuid', nullable: true },
    teamId: { type: 'uuid', nullable: true },
    source: { type: 'text', nullable: true },
    valueMinor: { type: 'bigint', nullable: true },
    currency: { type: 'char', length: 3 },
    ownChance: { type: 'numeric', nullable: true },
    closeDate: { type: 'date', nullable: true },
    nextAction: { type: 'text', nullable: true },
    values: { type: 'jsonb' },
    folded: { type: 'jsonb', default: () => "'{}'" },
    createdAt: { type: 'timestamptz' },
    closedAt: { type: 'timestamptz', nullable: true },
    closedDay: { type: 'date', nullable: true },
    reasonId: { type: 'text', nullable: true },
    followUpDay: { type: 'date', nullable: true },
    path: { type: 'jsonb' },
    pathText: { type: 'text', collation: 'C' },
    attempt: { type: 'jsonb', nullable: true },
    activityCounts: { type: 'jsonb' },
    closeDateMoves: { type: 'integer', default: 0 },
    moveCount: { type: 'integer' },
    importId: { type: 'uuid', nullable: true },
    outcomeId: { type: 'text', nullable: true, collation: 'C' },
    estimate: { type: 'jsonb', nullable: true },
  },
  checks: [
    {
      name: 'deals_outcome',
      expression: "((outcome_id IS NOT NULL) = (status = ANY (ARRAY['won'::text, 'lost'::text])))",
    },
    oneOf('deals_status_check', 'status', DEAL_STATUSES),
  ],
  foreignKeys: [
    { name: 'deals_contact_id_fkey', target: 'contact', columnNames: ['contactId'], referencedColumnNames: ['id'] },
    { name: 'deals_customer_id_fkey', target: 'customer', columnNames: ['customerId'], referencedColumnNames: ['id'] },
    { name: 'deals_owner_id_fkey', target: 'person', columnNames: ['ownerId'], referencedColumnNames: ['id'] },
    { name: 'deals_process_id_fkey', target: 'process', columnNames: ['processId'], referencedColumnNames: ['id'] },
    { name: 'deals_team_id_fkey', target: 'team', columnNames: ['teamId'], referencedColumnNames: ['id'] },
    {
      name: 'deals_version_id_fkey',
      target: 'processVersion',
      columnNames: ['versionId'],
      referencedColumnNames: ['id'],
    },
  ],
  indices: [
    { name: 'deals_by_import', columns: ['importId'], where: '(import_id IS NOT NULL)' },
    { name: 'deals_by_words', columns: ['nameFold'], synchronize: false },
    {
      name: 'deals_team_follow_up',
      columns: ['teamId', 'followUpDay'],
      where: '(follow_up_day IS NOT NULL)',
    },
    {
      name: 'deals_owner_follow_up',
      columns: ['ownerId', 'followUpDay'],
      where: '(follow_up_day IS NOT NULL)',
    },
    { name: 'deals_team_closed', columns: ['teamId'], where: "(status = ANY (ARRAY['won'::text, 'lost'::text]))" },
    { name: 'deals_open', columns: ['processId', 'id'], synchronize: false },
    {
      name: 'deals_staying',
      columns: ['processId', 'versionId', 'id'],
      where: "((status = 'open'::text) AND (version_id IS NOT NULL))",
    },
    {
      name: 'deals_external_id',
      columns: ['externalId'],
      unique: true,
      where: "((external_id IS NOT NULL) AND (status <> 'voided'::text))",
    },
    { name: 'deals_of_contact', columns: ['contactId'], where: '(contact_id IS NOT NULL)' },
    { name: 'deals_of_owner', synchronize: false },
    { name: 'deals_of_team', synchronize: false },
    { name: 'deals_of_customer', columns: ['customerId'], where: '(customer_id IS NOT NULL)' },
  ],
});
