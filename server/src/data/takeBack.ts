import type { DealId } from '@ladder/core';
import {
  type Change,
  type Deal,
  type JournalBody,
  type Moment,
  personActor,
  type Setting,
  undoEntries,
  voidDeal,
} from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { ImportEntity } from '../db/entities/import.ts';
import { loadDeals, lockDeals } from '../deals/repository/loadDeals.ts';
import { writeDeals } from '../deals/repository/writeDeals.ts';
import type { AskedWork } from '../longWork/startWork.ts';
import type { WorkInHand, WorkKind } from '../longWork/workKind.ts';
import { Problem } from '../problems/problem.ts';
import { loadSettings } from '../setting/repository/settings.ts';
import { lockImport, requireImport } from './repository/imports.ts';
import { countTouched, dealsOf, withdrawParties, writtenBy } from './repository/takeBack.ts';

const BATCH = 500;

/** What takes an import back, behind the request. It is refused at once where its deals were worked on since. */
export async function importToTakeBack(tx: EntityManager, id: string): Promise<AskedWork> {
  const { view } = await requireImport(tx, id);
  await requireUntouched(tx, id);
  if (view.state !== 'done') throw new Problem(409, 'Only a finished import can be taken back.');
  return { kind: 'take_back', subject: id, request: {}, total: view.created + view.updated };
}

/**
 * Takes an import back: what it made is voided, what it changed is changed back, and the customers and contacts that it
 * made go where nothing else uses them. Only while nobody touched any of it: looked at again under the locks of all its
 * deals; where somebody did, the import stands as it stood, with the reason.
 */
export const takeBackWork: WorkKind<object> = { kind: 'take_back', run: takeBackAll };

async function takeBackAll(tx: EntityManager, { subject: id, by, now, progress }: WorkInHand<object>): Promise<number> {
  await lockImport(tx, id, 'done');
  const { made, updated } = await dealsOf(tx, id);
  const all = [...made, ...updated];
  await lockDeals(tx, all);
  await requireUntouched(tx, id);
  const moment = { by: personActor(by), happenedAt: now, recordedAt: now };
  const written = await writtenBy(tx, id);
  let done = 0;
  for (const ids of inBatches(all)) {
    await change(tx, ids, (deal, setting) => {
      const bodies = written.get(deal.id);
      return bodies ? restore(deal, setting, bodies, moment) : voidDeal(deal, setting, moment, 'Import taken back');
    });
    done += ids.length;
    await progress(done);
  }
  await withdrawParties(tx, id, now);
  await tx.getRepository(ImportEntity).update({ id }, { state: 'taken_back' });
  return all.length;
}

function* inBatches(ids: readonly DealId[]): Generator<readonly DealId[]> {
  for (let place = 0; place < ids.length; place += BATCH) yield ids.slice(place, place + BATCH);
}

async function requireUntouched(tx: EntityManager, id: string): Promise<void> {
  const touched = await countTouched(tx, id);
  if (touched > 0)
    throw new Problem(
      409,
      `${touched === 1 ? '1 of its deals was' : `${touched} of its deals were`} worked on since, so this import can no longer be taken back.`,
    );
}

async function change(
  tx: EntityManager,
  ids: readonly DealId[],
  decide: (deal: Deal, setting: Setting) => Change,
): Promise<void> {
  const deals = await loadDeals(tx, ids);
  const settings = await loadSettings(
    tx,
    deals.map(({ version }) => version),
  );
  for (const setting of settings.values()) {
    const mine = deals.filter(({ version }) => version === setting.version);
    await writeDeals(
      tx,
      mine.map((before) => ({ before, change: decide(before, setting) })),
      setting.catalogue,
    );
  }
}

/** The deal with all of the import's entries undone, the newest first, as one change. */
function restore(deal: Deal, setting: Setting, bodies: readonly JournalBody[], moment: Moment): Change {
  const undone = undoEntries(deal, setting, bodies, moment, 'Import taken back');
  if (undone.ok) return undone.value;
  throw new Problem(409, 'One of its deals was closed since, so this import can no longer be taken back.');
}
