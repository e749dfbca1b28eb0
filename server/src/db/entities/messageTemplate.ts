import { EntitySchema } from 'typeorm';
import { oneOf } from './oneOf.ts';

export interface MessageTemplateRow {
  id: string;
  name: string;
  nameFold: string;
  processId: string | null;
  toWho: 'owner' | 'contact';
  toField: string | null;
  subject: string;
  body: string;
  withdrawnAt: Date | null;
}

export const MessageTemplateEntity = new EntitySchema<MessageTemplateRow>({
  name: 'messageTemplate',
  tableName: 'message_templates',
  columns: {
    id: { type: 'uuid', primary: true },
    name: { type: 'text' },
    nameFold: { type: 'text', collation: 'C' },
    processId: { type: 'uuid', nullable: true },
    toWho: { type: 'text' },
    toField: { type: 'text', nullable: true },
    subject: { type: 'text' },
    body: { type: 'text' },
    withdrawnAt: { type: 'timestamptz', nullable: true },
  },
  checks: [oneOf('message_templates_to_who_check', 'toWho', ['owner', 'contact'])],
  foreignKeys: [
    {
      name: 'message_templates_process_id_fkey',
      target: 'process',
      columnNames: ['processId'],
      referencedColumnNames: ['id'],
    },
  ],
  indices: [{ name: 'message_templates_name', columns: ['nameFold'], unique: true, where: '(withdrawn_at IS NULL)' }],
});
