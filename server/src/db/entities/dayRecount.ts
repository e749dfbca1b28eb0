import { EntitySchema } from 'typeorm';
import { oneOf } from './oneOf.ts';

/** What of a deal a change of a calendar has still to count anew. */
export interface DayRecountRow {
  dealId: string;
  part: RecountedPart;
  seq: number;
}

export const RECOUNTED_PARTS = ['visit', 'run', 'task'] as const;
export type RecountedPart = (typeof RECOUNTED_PARTS)[number];

export const DayRecountEntity = new EntitySchema<DayRecountRow>({
  name: 'dayRecount',
  tableName: 'day_recounts',
  columns: {
    dealId: { type: 'uuid', primary: true },
    part: { type: 'text', primary: true },
    seq: { type: 'integer', primary: true },
  },
  checks: [oneOf('day_recounts_part_check', 'part', RECOUNTED_PARTS)],
  foreignKeys: [
    { name: 'day_recounts_deal_id_fkey', target: 'deal', columnNames: ['dealId'], referencedColumnNames: ['id'] },
  ],
});
