import { EntitySchema } from 'typeorm';

export interface OutgoingMessageRow {
  id: string;
  dealId: string | null;
  toId: string | null;
  state: string;
  body: unknown;
  createdAt: Date;
  sentAt: Date | null;
}

export const OutgoingMessageEntity = new EntitySchema<OutgoingMessageRow>({
  name: 'outgoingMessage',
  tableName: 'outgoing_messages',
  columns: {
    id: { type: 'uuid', primary: true },
    dealId: { type: 'uuid', nullable: true },
    toId: { type: 'uuid', nullable: true },
    state: { type: 'text' },
    body: { type: 'jsonb' },
    createdAt: { type: 'timestamptz' },
    sentAt: { type: 'timestamptz', nullable: true },
  },
  foreignKeys: [
    { name: 'outgoing_messages_deal_id_fkey', target: 'deal', columnNames: ['dealId'], referencedColumnNames: ['id'] },
    { name: 'outgoing_messages_to_id_fkey', target: 'person', columnNames: ['toId'], referencedColumnNames: ['id'] },
  ],
  indices: [{ name: 'outgoing_messages_unsent', columns: ['createdAt'], where: '(sent_at IS NULL)' }],
});
