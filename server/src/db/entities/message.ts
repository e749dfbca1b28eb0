import { MESSAGE_HOWS, MESSAGE_STATES, type MessageHow, type MessageState } from '@ladder/core';
import { EntitySchema } from 'typeorm';
import { oneOf } from './oneOf.ts';

export interface MessageRow {
  id: string;
  place: string;
  dealId: string | null;
  /** The colleague to whom a digest goes. */
  personId: string | null;
  templateId: string | null;
  state: MessageState;
  toName: string;
  toAddress: string;
  subject: string;
  body: string;
  problem: string | null;
  tries: number;
  nextTryAt: Date | null;
  madeAt: Date;
  madeBy: string | null;
  confirmedAt: Date | null;
  confirmedBy: string | null;
  sentAt: Date | null;
  /** When it was written into the deal's journal, after it was sent. */
  notedAt: Date | null;
  /** It is still to be made of its template, and what then. */
  toMake: MessageHow | null;
}

const person = (name: string, column: string) => ({
  name: `messages_${name}_fkey`,
  target: 'person',
  columnNames: [column],
  referencedColumnNames: ['id'],
});

export const MessageEntity = new EntitySchema<MessageRow>({
  name: 'message',
  tableName: 'messages',
  columns: {
    id: { type: 'uuid', primary: true },
    place: { type: 'bigint', generated: 'increment' },
    dealId: { type: 'uuid', nullable: true },
    personId: { type: 'uuid', nullable: true },
    templateId: { type: 'uuid', nullable: true },
    state: { type: 'text' },
    toName: { type: 'text' },
    toAddress: { type: 'text' },
    subject: { type: 'text' },
    body: { type: 'text' },
    problem: { type: 'text', nullable: true },
    tries: { type: 'integer', default: 0 },
    nextTryAt: { type: 'timestamptz', nullable: true },
    madeAt: { type: 'timestamptz' },
    madeBy: { type: 'uuid', nullable: true },
    confirmedAt: { type: 'timestamptz', nullable: true },
    confirmedBy: { type: 'uuid', nullable: true },
    sentAt: { type: 'timestamptz', nullable: true },
    notedAt: { type: 'timestamptz', nullable: true },
    toMake: { type: 'text', nullable: true },
  },
  uniques: [{ name: 'messages_place_key', columns: ['place'] }],
  checks: [
    oneOf('messages_state_check', 'state', MESSAGE_STATES),
    oneOf('messages_to_make_check', 'toMake', MESSAGE_HOWS),
    {
      name: 'messages_due',
      expression: "((next_try_at IS NOT NULL) = (state = ANY (ARRAY['queued'::text, 'failed'::text])))",
    },
  ],
  foreignKeys: [
    person('person_id', 'personId'),
    person('made_by', 'madeBy'),
    person('confirmed_by', 'confirmedBy'),
    { name: 'messages_deal_id_fkey', target: 'deal', columnNames: ['dealId'], referencedColumnNames: ['id'] },
    {
      name: 'messages_template_id_fkey',
      target: 'messageTemplate',
      columnNames: ['templateId'],
      referencedColumnNames: ['id'],
    },
  ],
  indices: [
    { name: 'messages_due_at', columns: ['nextTryAt'], where: '(next_try_at IS NOT NULL)' },
    {
      name: 'messages_to_note',
      columns: ['sentAt'],
      where: '((sent_at IS NOT NULL) AND (noted_at IS NULL) AND (deal_id IS NOT NULL))',
    },
    { name: 'messages_to_make', columns: ['place'], where: '(to_make IS NOT NULL)' },
    { name: 'messages_of_deal', columns: ['dealId', 'place'], where: '(deal_id IS NOT NULL)' },
    { name: 'messages_by_state', columns: ['state', 'place'] },
  ],
});
