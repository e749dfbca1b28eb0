import { EntitySchema } from 'typeorm';

export interface WatcherRow {
  dealId: string;
  personId: string;
}

export const WatcherEntity = new EntitySchema<WatcherRow>({
  name: 'watcher',
  tableName: 'watchers',
  columns: { dealId: { type: 'uuid', primary: true }, personId: { type: 'uuid', primary: true } },
  foreignKeys: [
    { name: 'watchers_deal_id_fkey', target: 'deal', columnNames: ['dealId'], referencedColumnNames: ['id'] },
    { name: 'watchers_person_id_fkey', target: 'person', columnNames: ['personId'], referencedColumnNames: ['id'] },
  ],
  indices: [{ name: 'watchers_of_person', columns: ['personId'] }],
});
