import { EntitySchema } from 'typeorm';

export interface CalendarFeedRow {
  personId: string;
  secretHash: Buffer;
  madeAt: Date;
  readAt: Date | null;
}

export const CalendarFeedEntity = new EntitySchema<CalendarFeedRow>({
  name: 'calendarFeed',
  tableName: 'calendar_feeds',
  columns: {
    personId: { type: 'uuid', primary: true },
    secretHash: { type: 'bytea' },
    madeAt: { type: 'timestamptz' },
    readAt: { type: 'timestamptz', nullable: true },
  },
  uniques: [{ name: 'calendar_feeds_secret_hash_key', columns: ['secretHash'] }],
  foreignKeys: [
    {
      name: 'calendar_feeds_person_id_fkey',
      target: 'person',
      columnNames: ['personId'],
      referencedColumnNames: ['id'],
    },
  ],
});
