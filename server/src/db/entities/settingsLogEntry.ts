import { SETTINGS_LOGGED, type SettingLogged } from '@ladder/contract';
import { EntitySchema } from 'typeorm';
import { oneOf } from './oneOf.ts';

export interface SettingsLogEntryRow {
  id: string;
  at: Date;
  byId: string;
  what: SettingLogged;
  subject: string;
  before: unknown;
  after: unknown;
}

export const SettingsLogEntryEntity = new EntitySchema<SettingsLogEntryRow>({
  name: 'settingsLogEntry',
  tableName: 'settings_log',
  columns: {
    id: { type: 'bigint', primary: true, generated: 'increment' },
    at: { type: 'timestamptz' },
    byId: { type: 'uuid' },
    what: { type: 'text' },
    subject: { type: 'text' },
    before: { type: 'jsonb', nullable: true },
    after: { type: 'jsonb', nullable: true },
  },
  checks: [oneOf('settings_log_what_check', 'what', SETTINGS_LOGGED)],
  foreignKeys: [
    { name: 'settings_log_by_id_fkey', target: 'person', columnNames: ['byId'], referencedColumnNames: ['id'] },
  ],
});
