import type { DealId, VersionId } from '@ladder/core';
import { EntitySchema } from 'typeorm';

/** How long a deal stayed on a version after the next was live. */
export interface DealStayRow {
  dealId: DealId;
  versionId: VersionId;
  fromAt: Date;
  toAt: Date;
}

export const DealStayEntity = new EntitySchema<DealStayRow>({
  name: 'dealStay',
  tableName: 'deal_stays',
  columns: {
    dealId: { type: 'uuid', primary: true },
    versionId: { type: 'uuid' },
    fromAt: { type: 'timestamptz', primary: true },
    toAt: { type: 'timestamptz', default: () => "'infinity'" },
  },
  checks: [{ name: 'deal_stays_check', expression: '(from_at < to_at)' }],
  foreignKeys: [
    { name: 'deal_stays_deal_id_fkey', target: 'deal', columnNames: ['dealId'], referencedColumnNames: ['id'] },
    {
      name: 'deal_stays_version_id_fkey',
      target: 'processVersion',
      columnNames: ['versionId'],
      referencedColumnNames: ['id'],
    },
  ],
  indices: [
    // Who stayed on a version at a past instant, see `countStaying`.
    { name: 'deal_stays_version', columns: ['versionId', 'toAt'] },
    {
      name: 'deal_stays_one_open',
      columns: ['dealId'],
      unique: true,
      where: "(to_at = 'infinity'::timestamp with time zone)",
    },
  ],
});
