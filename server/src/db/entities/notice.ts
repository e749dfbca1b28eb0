import { NOTICE_KINDS, type NoticeKind } from '@ladder/core';
import { EntitySchema } from 'typeorm';
import { oneOf } from './oneOf.ts';

export interface NoticeRow {
  id: string;
  personId: string;
  kind: NoticeKind;
  dealId: string | null;
  versionId: string | null;
  /** The thing that it tells of: told again while it is unread, it stays one. */
  about: string;
  event: string | null;
  byId: string | null;
  times: number;
  at: Date;
  readAt: Date | null;
  mailedAt: Date | null;
}

export const NoticeEntity = new EntitySchema<NoticeRow>({
  name: 'notice',
  tableName: 'notices',
  columns: {
    id: { type: 'bigint', primary: true, generated: 'increment' },
    personId: { type: 'uuid' },
    kind: { type: 'text' },
    dealId: { type: 'uuid', nullable: true },
    versionId: { type: 'uuid', nullable: true },
    about: { type: 'text', collation: 'C' },
    event: { type: 'text', nullable: true },
    byId: { type: 'uuid', nullable: true },
    times: { type: 'integer', default: 1 },
    at: { type: 'timestamptz' },
    readAt: { type: 'timestamptz', nullable: true },
    mailedAt: { type: 'timestamptz', nullable: true },
  },
  checks: [
    oneOf('notices_kind_check', 'kind', NOTICE_KINDS),
    { name: 'notices_of', expression: '(num_nonnulls(deal_id, version_id) = 1)' },
  ],
  foreignKeys: [
    { name: 'notices_by_id_fkey', target: 'person', columnNames: ['byId'], referencedColumnNames: ['id'] },
    { name: 'notices_deal_id_fkey', target: 'deal', columnNames: ['dealId'], referencedColumnNames: ['id'] },
    { name: 'notices_person_id_fkey', target: 'person', columnNames: ['personId'], referencedColumnNames: ['id'] },
    {
      name: 'notices_version_id_fkey',
      target: 'processVersion',
      columnNames: ['versionId'],
      referencedColumnNames: ['id'],
    },
  ],
  indices: [
    { name: 'notices_once', columns: ['personId', 'about'], unique: true, where: '(read_at IS NULL)' },
    { name: 'notices_of_person', columns: ['personId', 'at', 'id'] },
    { name: 'notices_unsent', columns: ['personId'], where: '((read_at IS NULL) AND (mailed_at IS NULL))' },
    { name: 'notices_read', columns: ['readAt'], where: '(read_at IS NOT NULL)' },
    { name: 'notices_of_deal', columns: ['dealId'], where: '(deal_id IS NOT NULL)' },
  ],
});
