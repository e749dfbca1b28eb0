import type { deal as contract, InputProblem, TypeOf } from '@ladder/contract';
import type { Deal, DealId } from '@ladder/core';
import {
  andThen,
  type Change,
  changeBy,
  changeFollowUp,
  checkValue,
  createDeal,
  describeValueProblem,
  editStep,
  type FactValue,
  firstStage,
  isCurrency,
  isMoney,
  mentionsIn,
  placeOf,
  recordActivity,
  renameStep,
  type Setting,
  TICKER_WORDS,
  type TickProblem,
  tickItemBy,
  type Values,
} from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { isReviewer, maySee, requireChange } from '../access/dealAccess.ts';
import { assignedInTurn } from '../assignment/assignment.ts';
import type { Context } from '../context.ts';
import { inOrder } from '../db/inOrder.ts';
import { onOneConnection } from '../db/transactions.ts';
import { lockPartyValues } from '../facts/partyValues.ts';
import type { LookAtSession } from '../http/register.ts';
import type { Reply } from '../http/reply.ts';
import { newId } from '../ids.ts';
import { findAccountWithAccess, firstTeams } from '../people/repository.ts';
import { invalid, Problem } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import { lockProcess } from '../setting/repository/lockProcess.ts';
import { loadSetting } from '../setting/repository/settings.ts';
import { liveVersion } from '../setting/repository/versions.ts';
import { changePointer, closed, editProblem } from './editProblem.ts';
import { closedDeal, tellNext } from './goOn.ts';
import { linkTo } from './linkTo.ts';
import { type DealDetail, presentDeal } from './present.ts';
import { presentSetting } from './presentSetting.ts';
import { checkReferences } from './references.ts';
import { type Command, momentNow, openWholeDeal, runCommand, writeAndPresent } from './runCommand.ts';
import { holdWritten } from './writtenValues.ts';

type Body<K extends keyof typeof contract> = TypeOf<(typeof contract)[K]>;

/** A deal as the person may see it, with its setting unless that is one of those known. */
export async function getDeal(
  context: Context,
  person: Person,
  id: DealId,
  known: readonly string[],
  lookAtSession: LookAtSession,
): Promise<DealDetail> {
  return onOneConnection(context.dataSource, async (connection) => {
    const [, { deal, setting, loaded }] = await inOrder(
      lookAtSession(connection),
      openWholeDeal(connection, person, id),
    );
    const detail = await presentDeal(context, connection, person, deal, setting, loaded);
    return known.includes(detail.setting.id) ? detail : { ...detail, setting: presentSetting(setting) };
  });
}

/** Begins a deal in the live version of a process. Its owner is who begins it, and its team the owner's, unless said otherwise. */
export async function addDeal(
  context: Context,
  tx: EntityManager,
  person: Person,
  body: Body<'newDeal'>,
): Promise<Reply> {
  await lockProcess(tx, body.process, 'begin');
  const from = body.from === undefined ? null : await closedDeal(tx, person, body.from);
  const live = await liveVersion(tx, body.process);
  if (!live)
    throw new Problem(422, 'This process has no live version yet.', {
      errors: [{ pointer: '/process', detail: 'Publish the process first.' }],
    });
  if (live.closed)
    throw new Problem(422, 'This process takes no new deals.', {
      errors: [{ pointer: '/process', detail: 'Choose a process that takes new deals.' }],
    });
  const setting = await loadSetting(tx, live.id);
  const assigned = body.values.owner === undefined ? await assignedInTurn(context, tx, body.process) : null;
  const values = await startingValues(tx, person, setting, { ...body.values, ...assigned });
  await requireGoodValues(tx, person, setting, values, (field) => `/values/${field}`);
  const stage = body.stage ?? firstStage(setting.document);
  if (placeOf(setting.document, stage) < 0)
    throw invalid([{ pointer: '/stage', detail: 'The process has no such stage.' }]);
  requireCurrency(body.currency, values);
  if (body.externalId !== undefined && person.role !== 'administrator')
    throw new Problem(403, 'Only an administrator may give a deal an external id.', {
      errors: [{ pointer: '/externalId', detail: 'Leave it out.' }],
    });
  // Whoever begins a deal that the process hands out need not be of that team.
  if (!assigned) requireChange(person, { values, process: body.process });
  const partyValues = await lockPartyValues(tx, values);
  const moment = momentNow(context, person);
  const input = {
    id: newId<DealId>(moment.recordedAt),
    process: body.process,
    externalId: body.externalId ?? null,
    name: body.name,
    stage,
    values,
    partyValues,
    ...(body.currency === undefined ? {} : { currency: body.currency }),
  };
  const change = createDeal(from ? { ...input, from: linkTo(from) } : input, setting, moment);
  const detail = await writeAndPresent(context, tx, person, { before: null, change }, setting);
  if (from) await tellNext(context, tx, person, from.id, linkTo(change.deal));
  return { status: 201, body: detail };
}

/** A chosen currency exists, and is that of the value where there is one. */
function requireCurrency(currency: string | undefined, { value }: Values): void {
  if (currency === undefined) return;
  if (!isCurrency(currency)) throw invalid([{ pointer: '/currency', detail: `There is no currency ${currency}.` }]);
  if (isMoney(value) && value.currency !== currency)
    throw invalid([{ pointer: '/currency', detail: `The value is in ${value.currency}. Give one currency for both.` }]);
}

async function startingValues(tx: EntityManager, person: Person, setting: Setting, given: Values): Promise<Values> {
  const owner = given.owner === undefined ? person.id : given.owner;
  const values: Record<string, FactValue> = { ...given, owner, team: given.team ?? (await firstTeam(tx, owner)) };
  for (const section of setting.document.sections) for (const field of section.fields) values[field] ??= null;
  return values;
}

const firstTeam = async (tx: EntityManager, owner: FactValue): Promise<string | null> =>
  typeof owner === 'string' ? ((await firstTeams(tx, [owner])).get(owner) ?? null) : null;

async function requireGoodValues(
  tx: EntityManager,
  person: Person,
  setting: Setting,
  values: Values,
  pointerTo: (field: string) => string,
): Promise<void> {
  const problems = Object.entries(values).flatMap(([id, value]): InputProblem[] => {
    const field = setting.catalogue.get(id);
    if (field?.holder !== 'deal') return [{ pointer: pointerTo(id), detail: 'There is no such field.' }];
    const problem = checkValue(field, value);
    return problem && !(problem.code === 'calculated' && value === null)
      ? [{ pointer: pointerTo(id), detail: describeValueProblem(problem) }]
      : [];
  });
  const strange = problems.length > 0 ? [] : await checkReferences(tx, person, setting.catalogue, values, pointerTo);
  if (problems.length + strange.length > 0) throw invalid([...problems, ...strange]);
}

/** Changes fields, each with the value that was seen: edits of different fields merge, of the same one the later is told (S34). */
export async function changeDeal(
  context: Context,
  tx: EntityManager,
  person: Person,
  id: DealId,
  body: Body<'edit'>,
): Promise<Reply> {
  const pointerTo = changePointer(body.changes);
  const withWritten = await holdWritten(tx, person, { values: body.changes, pointerTo });
  const detail = await runCommand(context, tx, person, id, async (command) =>
    editAndRename(command.deal, await withWritten(command), body, pointerTo),
  );
  return { body: detail };
}

function editAndRename(
  before: Deal,
  { deal, setting, moment }: Command,
  { name, changes }: Body<'edit'>,
  pointerTo: (field: string) => string,
): Change {
  const editing = editStep(setting, changes);
  const step = name === undefined ? editing : andThen(editing, renameStep(name));
  const changed = changeBy(deal, setting, moment, step);
  // Nothing was changed: neither is anything written.
  if (changed.ok) return changed.value.deal === deal ? { deal: before, records: [] } : changed.value;
  throw 'code' in changed.error ? closed() : editProblem(changed.error, pointerTo);
}

export async function tickDealItem(
  context: Context,
  tx: EntityManager,
  person: Person,
  id: DealId,
  body: Body<'tick'>,
): Promise<Reply> {
  const detail = await runCommand(context, tx, person, id, ({ deal, setting, moment }) => {
    const ticker = { id: person.id, rank: isReviewer(person) ? 'manager' : 'seller' } as const;
    const ticked = tickItemBy(ticker, deal, setting, body.item, body.state, moment);
    if (ticked.ok) return ticked.value;
    throw tickRefused(ticked.error);
  });
  return { body: detail };
}

function tickRefused(problem: TickProblem): Problem {
  const refused = (status: number, detail: string) =>
    new Problem(status, detail, { errors: [{ pointer: '/item', detail }] });
  switch (problem.code) {
    case 'closed':
      return closed();
    case 'no_such_item':
      return refused(404, 'The process has no such checklist item.');
    case 'not_theirs':
      return refused(403, `This is ticked by ${TICKER_WORDS[problem.who]}.`);
    case 'no_evidence':
      return refused(422, 'Attach the document that this needs as evidence first.');
  }
}

export async function addActivity(
  context: Context,
  tx: EntityManager,
  person: Person,
  id: DealId,
  body: Body<'activity'>,
): Promise<Reply> {
  const requireSeen = await requireMentionsSeen(tx, body.text);
  const detail = await runCommand(context, tx, person, id, ({ deal, setting, moment }) => {
    requireSeen(deal);
    const happenedAt = body.happenedAt === undefined ? moment.happenedAt : Date.parse(body.happenedAt);
    if (happenedAt > moment.recordedAt)
      throw invalid([{ pointer: '/happenedAt', detail: 'What was done cannot lie in the future.' }]);
    return recordActivity(deal, setting, body.kind, body.text, { ...moment, happenedAt });
  });
  return { status: 201, body: detail };
}

const MOST_MENTIONED = 20;

/** Throws where a text mentions someone who could not read it: they are looked up before any deal is locked. */
async function requireMentionsSeen(tx: EntityManager, text: string): Promise<(deal: Deal) => void> {
  const ids = mentionsIn(text);
  const wrong = (detail: string) => invalid([{ pointer: '/text', detail }], 422);
  if (ids.length > MOST_MENTIONED) throw wrong(`A note mentions at most ${MOST_MENTIONED} people.`);
  const accounts = await Promise.all(ids.map((id) => findAccountWithAccess(tx, id)));
  return (deal) => {
    for (const account of accounts) {
      if (!account?.active) throw wrong('Somebody who is mentioned has left, or never was here.');
      if (!maySee(account, deal)) throw wrong(`${account.name} does not see this deal, and would hear nothing of it.`);
    }
  };
}

/** Changes the follow-up day of a closed deal; nothing else of it can be changed (S12). */
export async function setFollowUp(
  context: Context,
  tx: EntityManager,
  person: Person,
  id: DealId,
  { day, text }: Body<'followUp'>,
): Promise<Reply> {
  const detail = await runCommand(context, tx, person, id, ({ deal, setting, moment }) => {
    const changed = changeFollowUp(deal, setting, { day, text: text ?? null }, moment);
    if (changed.ok) return changed.value;
    throw new Problem(409, 'Only a deal that was closed as won or lost has a follow-up day.');
  });
  return { body: detail };
}
