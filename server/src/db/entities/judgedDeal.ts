import type { DealId, VersionId } from '@ladder/core';
import { EntitySchema } from 'typeorm';

/** A publish whose deals are judged before its version is live. */
export interface PublishJudgingRow {
  versionId: VersionId;
  judgedAt: Date;
  /** What was written by transactions before this one was judged by: a number of 64 bits. */
  horizon: string;
}

export const PublishJudgingEntity = new EntitySchema<PublishJudgingRow>({
  name: 'publishJudging',
  tableName: 'publish_judgings',
  columns: {
    versionId: { type: 'uuid', primary: true },
    judgedAt: { type: 'timestamptz' },
    horizon: { type: 'bigint' },
  },
  foreignKeys: [
    {
      name: 'publish_judgings_version_id_fkey',
      target: 'processVersion',
      columnNames: ['versionId'],
      referencedColumnNames: ['id'],
      onDelete: 'CASCADE',
    },
  ],
});

/** What a publish brings one deal. */
export interface JudgedDealRow {
  versionId: VersionId;
  dealId: DealId;
  /** The instant up to which it would be judged alike. */
  goodUntil: Date | null;
  /** The rows to be written; null where it has to be judged anew once the version is live. */
  written: unknown;
}

export const JudgedDealEntity = new EntitySchema<JudgedDealRow>({
  name: 'judgedDeal',
  tableName: 'judged_deals',
  columns: {
    versionId: { type: 'uuid', primary: true },
    dealId: { type: 'uuid', primary: true },
    goodUntil: { type: 'timestamptz', nullable: true },
    written: { type: 'json', nullable: true },
  },
  foreignKeys: [
    {
      name: 'judged_deals_version_id_fkey',
      target: 'publishJudging',
      columnNames: ['versionId'],
      referencedColumnNames: ['versionId'],
      onDelete: 'CASCADE',
    },
  ],
});
