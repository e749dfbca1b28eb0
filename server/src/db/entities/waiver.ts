import { EntitySchema } from 'typeorm';

export interface WaiverRow {
  id: string;
  dealId: string;
  requirement: string;
  requirementText: string;
  reason: string;
  askedBy: string | null;
  grantedBy: string | null;
  state: string;
  fromAt: Date | null;
  toAt: Date | null;
  askedAt: Date;
}

export const WaiverEntity = new EntitySchema<WaiverRow>({
  name: 'waiver',
  tableName: 'waivers',
  columns: {
    id: { type: 'uuid', primary: true },
    dealId: { type: 'uuid' },
    requirement: { type: 'text', collation: 'C' },
    requirementText: { type: 'text' },
    reason: { type: 'text' },
    askedBy: { type: 'uuid', nullable: true },
    grantedBy: { type: 'uuid', nullable: true },
    state: { type: 'text' },
    fromAt: { type: 'timestamptz', nullable: true },
    toAt: { type: 'timestamptz', nullable: true },
    askedAt: { type: 'timestamptz' },
  },
  foreignKeys: [
    { name: 'waivers_asked_by_fkey', target: 'person', columnNames: ['askedBy'], referencedColumnNames: ['id'] },
    { name: 'waivers_deal_id_fkey', target: 'deal', columnNames: ['dealId'], referencedColumnNames: ['id'] },
    { name: 'waivers_granted_by_fkey', target: 'person', columnNames: ['grantedBy'], referencedColumnNames: ['id'] },
  ],
  indices: [{ name: 'waivers_by_deal', columns: ['dealId'] }],
});
