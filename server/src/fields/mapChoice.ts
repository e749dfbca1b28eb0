import type { facts, TypeOf } from '@ladder/contract';
import { type DealId, type Field, mapChoiceOfDeal, mappedChoice, personActor } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { loadDeals, lockDeals } from '../deals/repository/loadDeals.ts';
import { writeDeals } from '../deals/repository/writeDeals.ts';
import { type PartyHolder, writePartyValues } from '../facts/repository.ts';
import { lockField, rewriteField } from '../facts/service.ts';
import type { AskedWork } from '../longWork/startWork.ts';
import type { WorkInHand, WorkKind } from '../longWork/workKind.ts';
import { invalid, Problem } from '../problems/problem.ts';
import { rejudgeDeals } from '../processes/rejudgeProcess.ts';
import { loadSettings } from '../setting/repository/settings.ts';
import { currentVersions } from '../setting/repository/versions.ts';
import { choosing, countRecords, lockTheseParties, openDealsOfAny } from './repository.ts';

type Mapping = TypeOf<typeof facts.choiceMapping>;

/** What puts one choice in place of another, wherever it is chosen. */
export async function mappingToBegin(tx: EntityManager, field: string, mapping: Mapping): Promise<AskedWork> {
  const { definition } = await lockField(tx, field);
  await requireMappable(tx, definition, mapping);
  return { kind: 'choice', subject: field, request: mapping, total: await countRecords(tx, definition.holder) };
}

async function requireMappable(tx: EntityManager, field: Field, { from, to }: Mapping): Promise<void> {
  if (!field.choices) throw new Problem(409, `${field.name} has no choices.`);
  const [before, after] = [from, to].map((id) => field.choices?.find((choice) => choice.id === id));
  const wrong = (pointer: string, detail: string) => invalid([{ pointer, detail }], 422);
  if (!before) throw wrong('/from', `${field.name} has no such choice.`);
  if (!after || from === to) throw wrong('/to', `Choose another choice of ${field.name}.`);
  if (after.withdrawn) throw wrong('/to', `“${after.name}” is no longer offered. Offer it again first.`);
  if (field.holder !== 'deal') return;
  const lacking = (await currentVersions(tx)).find(
    ({ state, fields }) =>
      state !== 'draft' && fields.some(({ id, choices }) => id === field.id && !choices?.some((one) => one.id === to)),
  );
  if (lacking)
    throw wrong(
      '/to',
      `Version ${lacking.number} of ${lacking.process.name}, which deals follow, was published before there was “${after.name}”. Publish the process anew first.`,
    );
}

type Work = WorkInHand<Mapping>;

/** Some records at a time, each lot over at once, so that nobody waits; begun again it goes on with what is left. */
export const choiceWork: WorkKind<Mapping> = { kind: 'choice', run: mapChoice };

/** So few that other answers come in between. */
const BATCH = 50;

async function mapChoice(tx: EntityManager, work: Work): Promise<number> {
  const { subject, request } = work;
  const { definition } = await work.apart((step) => lockField(step, subject));
  let [looked, changed] = [0, 0];
  for await (const chosen of choosing(tx, definition, request.from)) {
    for (let at = 0; at < chosen.ids.length; at += BATCH)
      changed += await work.apart((step) => mapSome(step, definition, chosen.ids.slice(at, at + BATCH), work));
    looked += chosen.looked;
    await work.progress(looked);
  }
  await withdraw(tx, work);
  return changed;
}

async function withdraw(tx: EntityManager, { subject, request: { from }, by, now }: Work): Promise<void> {
  const { definition } = await lockField(tx, subject);
  const choices = definition.choices?.map((choice) => (choice.id === from ? { ...choice, withdrawn: true } : choice));
  await rewriteField(tx, definition, { ...definition, ...(choices ? { choices } : {}) }, { by, now });
}

/** How many deals were written: those that had the choice, or whose customer or contact had. */
const mapSome = (tx: EntityManager, field: Field, ids: readonly string[], work: Work): Promise<number> =>
  field.holder === 'deal'
    ? mapDeals(tx, field, ids as readonly DealId[], work)
    : mapParties(tx, field, field.holder, ids, work);

const momentOf = ({ by, now }: Work) => ({ by: personActor(by), happenedAt: now, recordedAt: now });

async function mapDeals(tx: EntityManager, field: Field, ids: readonly DealId[], work: Work): Promise<number> {
  await lockDeals(tx, ids);
  const deals = await loadDeals(tx, ids);
  const settings = await loadSettings(
    tx,
    deals.map(({ version }) => version),
  );
  let changed = 0;
  for (const setting of settings.values()) {
    const writes = deals
      .filter(({ version }) => version === setting.version)
      .map((before) => ({
        before,
        change: mapChoiceOfDeal(before, setting, { field: field.id, ...work.request }, momentOf(work)),
      }))
      .filter(({ before, change }) => change.deal !== before);
    await writeDeals(tx, writes, setting.catalogue);
    changed += writes.length;
  }
  return changed;
}

async function mapParties(
  tx: EntityManager,
  { id: field }: Field,
  holder: PartyHolder,
  ids: readonly string[],
  work: Work,
): Promise<number> {
  const { from, to } = work.request;
  const rows = await lockTheseParties(tx, holder, ids);
  const changed = rows.map(({ id, values }) => ({
    id,
    values: { ...values, [field]: mappedChoice(values[field] ?? null, from, to) },
  }));
  await writePartyValues(tx, holder, changed);
  const deals = await openDealsOfAny(tx, holder, ids);
  for (let at = 0; at < deals.length; at += BATCH) await rejudgeDeals(tx, deals.slice(at, at + BATCH), momentOf(work));
  return deals.length;
}
