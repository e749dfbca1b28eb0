import type { DealId, MessageState, ProcessId } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { at, type Connection, sql } from '../db/sql.ts';

export interface FoundTemplate {
  readonly id: string;
  readonly name: string;
  readonly name_fold: string;
  readonly process: { readonly id: ProcessId; readonly name: string } | null;
  readonly to: { readonly who: 'owner' | 'contact'; readonly field: string | null };
  readonly subject: string;
  readonly body: string;
}

const TEMPLATE = `t.id, t.name, t.name_fold, case when p.id is not null then json_build_object('id', p.id, 'name', p.name) end as process,
  json_build_object('who', t.to_who, 'field', t.to_field) as "to", t.subject, t.body`;

/** Templates that are offered, by name. */
export const findTemplates = (
  connection: Connection,
  limit: number,
  after: string | undefined,
): Promise<FoundTemplate[]> =>
  sql<FoundTemplate>(
    connection,
    `select ${TEMPLATE} from message_templates t left join processes p on p.id = t.process_id
     where t.withdrawn_at is null and (:after::text is null or t.name_fold > :after) order by t.name_fold limit :limit`,
    { after, limit },
  );

/** One of them; also one that is offered no longer, of which messages were asked for. */
export async function findTemplate(connection: Connection, id: string): Promise<FoundTemplate | null> {
  const [row] = await sql<FoundTemplate>(
    connection,
    `select ${TEMPLATE} from message_templates t left join processes p on p.id = t.process_id where t.id = :id`,
    { id },
  );
  return row ?? null;
}

export interface FoundMessage {
  readonly id: string;
  readonly place: string;
  readonly deal: { readonly id: DealId; readonly name: string } | null;
  readonly template: string | null;
  readonly state: MessageState;
  readonly to: { readonly name: string; readonly address: string };
  readonly subject: string;
  readonly body: string;
  readonly problem: string | null;
  readonly tries: number;
  readonly nextTryAt: Date | null;
  readonly madeAt: Date;
  readonly by: string | null;
  readonly sentAt: Date | null;
}

const MESSAGE = `select m.id, m.place::text, case when d.id is not null then json_build_object('id', d.id, 'name', d.name) end as deal, t.name as template, m.state,
  json_build_object('name', m.to_name, 'address', m.to_address) as "to", m.subject, m.body, m.problem, m.tries, m.next_try_at as "nextTryAt", m.made_at as "madeAt",
  p.name as by, m.sent_at as "sentAt"
  from messages m left join deals d on d.id = m.deal_id left join message_templates t on t.id = m.template_id left join people p on p.id = coalesce(m.confirmed_by, m.made_by)`;

export const findMessages = (
  connection: Connection,
  { state, limit, before }: { readonly state?: MessageState; readonly limit: number; readonly before?: number },
): Promise<FoundMessage[]> =>
  sql<FoundMessage>(
    connection,
    `${MESSAGE} where (:state::text is null or m.state = :state) and (:before::bigint is null or m.place < :before) order by m.place desc limit :limit`,
    { state, before, limit },
  );

const MOST_OF_DEAL = 100;

export const findDealMessages = (connection: Connection, deal: DealId): Promise<FoundMessage[]> =>
  sql<FoundMessage>(connection, `${MESSAGE} where m.deal_id = :deal order by m.place desc limit ${MOST_OF_DEAL}`, {
    deal,
  });

export async function findMessage(connection: Connection, deal: DealId, id: string): Promise<FoundMessage | null> {
  const [row] = await sql<FoundMessage>(connection, `${MESSAGE} where m.deal_id = :deal and m.id = :id`, { deal, id });
  return row ?? null;
}

/** Messages that changes asked for and that are still to be made of their templates. */
export const messagesToMake = (
  connection: Connection,
  most: number,
): Promise<{ id: string; deal: DealId; template: string; how: 'to_confirm' | 'at_once' }[]> =>
  sql(
    connection,
    `select id, deal_id as deal, template_id as template, to_make as how from messages where to_make is not null order by place limit :most`,
    { most },
  );

export interface DueMessage {
  readonly id: string;
  readonly to_name: string;
  readonly to_address: string;
  readonly subject: string;
  readonly body: string;
  readonly tries: number;
  readonly made_at: Date;
}

/** Takes one message that is due into this transaction's hands; another server goes on to the next. */
export async function takeDue(tx: EntityManager, now: number): Promise<DueMessage | null> {
  const [row] = await sql<DueMessage>(
    tx,
    `select id, to_name, to_address, subject, body, tries, made_at from messages where next_try_at <= :now order by next_try_at limit 1 for update skip locked`,
    { now: at(now) },
  );
  return row ?? null;
}

/** What was sent and is not in its deal's journal yet. */
export const sentToNote = (
  connection: Connection,
  most: number,
): Promise<{ id: string; deal: DealId; subject: string; by: string | null; sent_at: Date }[]> =>
  sql(
    connection,
    `select id, deal_id as deal, subject, coalesce(confirmed_by, made_by) as by, sent_at from messages
     where sent_at is not null and noted_at is null and deal_id is not null order by sent_at limit :most`,
    { most },
  );

/** People to whom something unread is to be sent, and who had no digest today. */
export const peopleToTell = (
  connection: Connection,
  today: string,
): Promise<{ id: string; name: string; email: string; role: string; teams: string[] }[]> =>
  sql(
    connection,
    `select p.id, p.name, p.email, p.role, array(select team_id::text from team_members where person_id = p.id) as teams from people p
     where p.active and (p.digest_day is null or p.digest_day < :today) and exists (
       select from notices n where n.person_id = p.id and n.read_at is null and n.mailed_at is null and (p.mailed_kinds is null or p.mailed_kinds ? n.kind))`,
    { today },
  );

export const markMailed = (tx: EntityManager, person: string, now: number): Promise<unknown> =>
  sql(tx, `update notices set mailed_at = :now where person_id = :person and read_at is null and mailed_at is null`, {
    person,
    now: at(now),
  });

export const mailFails = async (connection: Connection): Promise<boolean> => {
  const [row] = await sql<{ fails: boolean }>(connection, `select mail_fails as fails from organisation`);
  return row?.fails ?? false;
};

export const setMailFails = (tx: EntityManager, fails: boolean): Promise<unknown> =>
  sql(tx, `update organisation set mail_fails = :fails`, { fails });
