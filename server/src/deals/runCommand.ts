import type { DealId } from '@ladder/core';
import {
  type Actor,
  type Change,
  type Deal,
  type DealPartName,
  type DealWith,
  type Moment,
  personActor,
  type Setting,
  textValue,
  type VersionId,
} from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { maySee, requireChange } from '../access/dealAccess.ts';
import type { Context } from '../context.ts';
import { inOrder } from '../db/inOrder.ts';
import type { Connection } from '../db/sql.ts';
import { goOnWithout } from '../db/transactions.ts';
import { notFound, Problem } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import { type KnownSetting, settingsOf } from '../setting/repository/settings.ts';
import { type DealDetail, presentDeal } from './present.ts';
import { keepWritten, loadWholeDeal, type WholeDeal } from './repository/keptDeals.ts';
import { loadDeal, lockDeals } from './repository/loadDeals.ts';
import { type DealWrite, writeDeals } from './repository/writeDeals.ts';

/** What a command on a deal works with. */
export interface Command {
  readonly deal: Deal;
  readonly setting: Setting;
  readonly moment: Moment;
}

/** A deal that the person may see, with the parts that the reader names, and what surrounds it. */
export async function openDeal<Name extends DealPartName>(
  tx: Connection,
  person: Person,
  id: DealId,
  names: readonly Name[],
): Promise<{ deal: DealWith<Name>; setting: KnownSetting }> {
  // Whose it is stands among its values.
  const loaded = await loadDeal<Name | 'values'>(tx, id, [...names, 'values']);
  const deal = loaded?.deal as (DealWith<Name> & DealWith<'values'>) | undefined;
  if (!loaded || !deal || !maySee(person, deal)) throw notFound('deal');
  return { deal, setting: await settingOf(tx, deal.version, loaded.mark) };
}

/** The same with all its parts. */
export async function openWholeDeal(
  tx: Connection,
  person: Person,
  id: DealId,
): Promise<{ deal: Deal; setting: KnownSetting; loaded: WholeDeal }> {
  const loaded = await loadWholeDeal(tx, id);
  if (!loaded || !maySee(person, loaded.deal)) throw notFound('deal');
  const { deal, mark } = loaded;
  return { deal, setting: await settingOf(tx, deal.version, mark), loaded };
}

async function settingOf(tx: Connection, version: VersionId, mark: string | null): Promise<KnownSetting> {
  const setting = (await settingsOf(tx, [{ version, mark }])).get(version);
  if (!setting) throw new Error(`There is no version ${version}`);
  return setting;
}

/**
 * Locks the deal's head, decides with core, writes what came of it, and gives the deal as it stands then; all in the caller's
 * transaction. What does not hang on an answer of the database is asked for at once.
 */
export async function runCommand(
  context: Context,
  tx: EntityManager,
  person: Person,
  id: DealId,
  decide: (command: Command) => Change | Promise<Change>,
): Promise<DealDetail> {
  const [, { deal, setting, loaded }] = await inOrder(lockDeals(tx, [id]), openWholeDeal(tx, person, id));
  requireChange(person, deal);
  const change = await decide({ deal, setting, moment: momentNow(context, person, deal) });
  const write = { before: deal, change };
  keepWritten(tx, loaded, write);
  return writeAndPresent(context, tx, person, write, setting, loaded);
}

/** Writes a change, and gives the deal as it stands then; that it was written shows by the end of the transaction. */
export function writeAndPresent(
  context: Context,
  tx: EntityManager,
  person: Person,
  write: DealWrite,
  setting: KnownSetting,
  loaded: WholeDeal | null = null,
): Promise<DealDetail> {
  goOnWithout(tx, writeDeals(tx, [write], setting.catalogue));
  return presentDeal(context, tx, person, write.change.deal, setting, loaded);
}

/**
 * The person's moment by this server's clock; taken once the locks are held, so that it comes after what they waited for. What is
 * done on a deal of someone who is away is done for them.
 */
export function momentNow(context: Context, { id, standsInFor = [] }: Person, deal?: Pick<Deal, 'values'>): Moment {
  const owner = deal && textValue(deal, 'owner');
  const moment = momentOf(context, personActor(id));
  return owner && standsInFor.includes(owner) ? { ...moment, insteadOf: owner } : moment;
}

/** The same of anyone who acts. */
export function momentOf(context: Context, by: Actor): Moment {
  const now = context.clock.now();
  return { by, happenedAt: now, recordedAt: now };
}

/** Throws where the deal has moved on since the caller saw it. */
export function requireRevision(deal: Deal, seen: number): void {
  if (deal.revision === seen) return;
  throw new Problem(409, 'The deal was changed since you opened it. What you see now is up to date; try again.', {
    errors: [{ pointer: '/revision', detail: `You saw revision ${seen}; it is now ${deal.revision}.` }],
    current: { revision: deal.revision },
  });
}
