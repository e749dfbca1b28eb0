import type { Role } from '@ladder/contract';
import {
  actor,
  afterFailure,
  localDay,
  NOTICE_KINDS,
  type NoticeKind,
  personActor,
  recordActivity,
} from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { findNotices } from '../bell/repository.ts';
import { type Context, inCommand } from '../context.ts';
import { MessageEntity } from '../db/entities/message.ts';
import { PersonEntity } from '../db/entities/person.ts';
import { at } from '../db/sql.ts';
import { loadDeals, lockDeals } from '../deals/repository/loadDeals.ts';
import { writeDeals } from '../deals/repository/writeDeals.ts';
import { momentOf } from '../deals/runCommand.ts';
import { newId } from '../ids.ts';
import { organisation } from '../session/repository.ts';
import { loadSettings } from '../setting/repository/settings.ts';
import { draftOf } from './drafting.ts';
import { toMime } from './mime.ts';
import {
  type DueMessage,
  findTemplate,
  markMailed,
  messagesToMake,
  peopleToTell,
  sentToNote,
  takeDue,
} from './repository.ts';

const BATCH = 100;

/**
 * Makes what was asked for, hands over what is due by the server's clock, writes into journals what was sent, and puts
 * together what people have not read. Each message in a transaction of its own, in one server's hands; one that fails keeps
 * no other back. Gives how many were handed over.
 */
export async function doMessages(context: Context): Promise<number> {
  await makeMessages(context);
  await makeDigests(context);
  let handed = 0;
  while (await inCommand(context, (tx) => handOver(context, tx))) handed++;
  await noteSent(context);
  return handed;
}

/** Merges templates with deals as they are by now; where anything is missing somebody has to look at it (S62). */
async function makeMessages(context: Context): Promise<void> {
  for (const asked of await messagesToMake(context.dataSource, BATCH))
    await inCommand(context, async (tx) => {
      const messages = tx.getRepository(MessageEntity);
      const row = await messages.findOne({ where: { id: asked.id }, lock: { mode: 'pessimistic_write' } });
      if (!row?.toMake) return;
      const [deal] = await loadDeals(tx, [asked.deal]);
      const setting = deal && (await loadSettings(tx, [deal.version])).get(deal.version);
      const template = await findTemplate(tx, asked.template);
      if (!deal || !setting || !template) return;
      const { name, address, subject, body, missing } = await draftOf(tx, deal, setting, template);
      const isReady = row.toMake === 'at_once' && missing.length === 0;
      await messages.update(
        { id: row.id },
        {
          toName: name,
          toAddress: address,
          subject,
          body,
          toMake: null,
          problem: missing.length > 0 ? `Missing: ${missing.join(', ')}.` : null,
          ...(isReady ? { state: 'queued', nextTryAt: at(context.clock.now()) } : {}),
        },
      );
    }).catch((error) => context.log.error({ err: error, message: asked.id }, 'a message was not made'));
}

/**
 * Hands one message over while its row is held. Where the server is ended before that is written down it is handed over
 * again, under the same Message-ID: so twice only where the answer was lost (S62).
 */
async function handOver(context: Context, tx: EntityManager): Promise<boolean> {
  const now = context.clock.now();
  const due = await takeDue(tx, now);
  if (!due) return false;
  const problem = await tryHanding(context, due);
  const tries = due.tries + 1;
  const messages = tx.getRepository(MessageEntity);
  if (problem === null)
    await messages.update({ id: due.id }, { state: 'sent', tries, nextTryAt: null, problem, sentAt: at(now) });
  else {
    const { state, nextTryAt } = afterFailure(tries, now);
    await messages.update(
      { id: due.id },
      { state, tries, problem, nextTryAt: nextTryAt === null ? null : at(nextTryAt) },
    );
  }
  return true;
}

const MOST_TOLD = 500;

async function tryHanding({ mailer, log }: Context, due: DueMessage): Promise<string | null> {
  try {
    const envelope = {
      id: due.id,
      toName: due.to_name,
      toAddress: due.to_address,
      subject: due.subject,
      body: due.body,
      madeAt: due.made_at,
    };
    await mailer.hand(await toMime(envelope, mailer.from), due.to_address);
    return null;
  } catch (error) {
    log.warn({ err: error, message: due.id }, 'a message was not taken');
    return error instanceof Error ? error.message.slice(0, MOST_TOLD) : 'It was not taken.';
  }
}

/** What was sent about a deal is something done for it. */
async function noteSent(context: Context): Promise<void> {
  for (const sent of await sentToNote(context.dataSource, BATCH))
    await inCommand(context, async (tx) => {
      await lockDeals(tx, [sent.deal]);
      const messages = tx.getRepository(MessageEntity);
      const row = await messages.findOne({ where: { id: sent.id }, lock: { mode: 'pessimistic_write' } });
      const [deal] = await loadDeals(tx, [sent.deal]);
      if (!row || row.notedAt || !deal) return;
      await messages.update({ id: row.id }, { notedAt: at(context.clock.now()) });
      const setting = (await loadSettings(tx, [deal.version])).get(deal.version);
      if (!setting || deal.status.state === 'voided') return;
      const by = sent.by === null ? actor('process', deal.process) : personActor(sent.by);
      const moment = { ...momentOf(context, by), happenedAt: sent.sent_at.getTime() };
      const change = recordActivity(deal, setting, 'message', sent.subject, moment);
      await writeDeals(tx, [{ before: deal, change }], setting.catalogue);
    }).catch((error) => context.log.error({ err: error, message: sent.id }, 'a sent message was not noted'));
}

/** No digest goes out before the morning. */
const MORNING_HOUR = 7;
const MOST_IN_DIGEST = 50;

/** What people have not read, all in one message, once a day at most (S63). */
async function makeDigests(context: Context): Promise<void> {
  const now = context.clock.now();
  const { timeZone, name: organisationName } = await organisation(context.dataSource);
  const hour = Number(new Intl.DateTimeFormat('en-GB', { hour: '2-digit', hourCycle: 'h23', timeZone }).format(now));
  if (hour < MORNING_HOUR) return;
  const today = localDay(now, timeZone);
  for (const person of await peopleToTell(context.dataSource, today))
    await inCommand(context, async (tx) => {
      const people = tx.getRepository(PersonEntity);
      const row = await people.findOne({ where: { id: person.id }, lock: { mode: 'pessimistic_write' } });
      if (!row || (row.digestDay !== null && row.digestDay >= today)) return;
      await people.update({ id: person.id }, { digestDay: today });
      const kinds: readonly NoticeKind[] = row.mailedKinds ?? NOTICE_KINDS;
      const found = await findNotices(tx, { ...person, role: person.role as Role }, MOST_IN_DIGEST, null);
      const unread = found.filter(({ read, kind }) => !read && kinds.includes(kind));
      await markMailed(tx, person.id, now);
      if (unread.length === 0) return;
      await tx.getRepository(MessageEntity).insert({
        id: newId(now),
        personId: person.id,
        state: 'queued',
        toName: person.name,
        toAddress: person.email,
        subject: `${unread.length === 1 ? '1 thing' : `${unread.length} things`} you have not read at ${organisationName}`,
        body: unread.map(digestLine).join('\n'),
        nextTryAt: at(now),
        madeAt: at(now),
      });
    }).catch((error) => context.log.error({ err: error, person: person.id }, 'a digest was not made'));
}

const DIGEST_WORDS: Readonly<Record<NoticeKind, string>> = {
  mentioned: 'mentioned you',
  assigned: 'gave you something to do',
  waiver_asked: 'asks for a waiver',
  waiver_decided: 'decided on a waiver',
  watched: 'changed a deal that you watch',
  published: 'published a process',
};

const digestLine = ({ kind, by, deal, published }: Awaited<ReturnType<typeof findNotices>>[number]): string =>
  `- ${by ?? 'The process'} ${DIGEST_WORDS[kind]}: ${deal?.name ?? published?.process.name ?? ''}${published?.note ? ` (${published.note})` : ''}`;
