import type { processes as contract, TypeOf } from '@ladder/contract';
import type { ProcessId, StageId, VersionId } from '@ladder/core';
import {
  type Assignment,
  checkDocument,
  copyDocument,
  type Field,
  foldText,
  HOUSE_RULES,
  type HouseRule,
  type HouseRules,
  newDocument,
  type ProcessAccess,
  type ProcessDocument,
  type ProcessFile,
  personActor,
  type Reason,
  readDocument,
  type Stage,
  startingDocument,
  USUAL_WAIVER_RIGHTS,
  type WaiverRights,
} from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { type Context, inCommand, inTransaction } from '../context.ts';
import { CalendarEntity } from '../db/entities/calendar.ts';
import { ProcessEntity, type ProcessRow } from '../db/entities/process.ts';
import { ProcessLogEntryEntity } from '../db/entities/processLogEntry.ts';
import { ProcessVersionEntity } from '../db/entities/processVersion.ts';
import { at, type Connection, manager } from '../db/sql.ts';
import { presentCatalogue } from '../facts/catalogue.ts';
import { newId, newKey } from '../ids.ts';
import type { AskedWork } from '../longWork/startWork.ts';
import type { WorkKind } from '../longWork/workKind.ts';
import { invalid, notFound } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import { fullCatalogue } from '../setting/repository/settings.ts';
import { processWithLive, type VersionDocument, type VersionName, versionsOf } from '../setting/repository/versions.ts';
import { insertDraft } from './draft.ts';
import { fileOf, takeInFile } from './processFiles.ts';
import { rejudgeProcess } from './rejudgeProcess.ts';
import { countOpenDeals } from './repository/openDeals.ts';
import { loadReasons, replaceReasons, seesDrafts, teamNames } from './repository/processes.ts';

type Detail = TypeOf<typeof contract.detail>;

/** A process with its versions and what stands beside them. */
export async function getProcess(connection: Connection, person: Person, id: ProcessId): Promise<Detail> {
  const row = await manager(connection).getRepository(ProcessEntity).findOneBy({ id });
  const all = (await versionsOf(connection, person, [id])).map(({ process: _process, ...version }) => version);
  const versions = all.filter(({ state }) => state !== 'draft' || seesDrafts(person));
  if (!row || versions.length === 0) throw notFound('process');
  const live = versions.find(({ state }) => state === 'live');
  const content = live && (await contentOf(connection, live.id));
  return {
    id,
    name: row.name,
    kind: row.kind,
    closedToNew: row.closedToNew,
    access: row.access,
    assignment: row.assignment,
    calendar: await calendarNamed(connection, row.calendarId),
    houseRules: ruleLevels(row.houseRules),
    reasons: await loadReasons(connection, id),
    taskFates: row.taskFates,
    waiverRights: rightsOf(row),
    versions,
    live: live && content ? { version: live, ...content } : null,
    hasDraft: versions.some(({ state }) => state === 'draft'),
  };
}

async function calendarNamed(connection: Connection, id: string): Promise<Detail['calendar']> {
  const { name } = await manager(connection).getRepository(CalendarEntity).findOneByOrFail({ id });
  return { id, name };
}

/** What measures ask of a process. */
export interface MeasuredProcess extends Pick<Detail, 'name' | 'houseRules'> {
  readonly live: { readonly version: VersionName; readonly stages: readonly Stage[] } | null;
}

/** A process as measures ask it: without its deals, which they count themselves. */
export async function getMeasured(connection: Connection, person: Person, id: ProcessId): Promise<MeasuredProcess> {
  const process = await processWithLive(connection, id);
  if (!process || (!process.live && !seesDrafts(person))) throw notFound('process');
  return { name: process.name, houseRules: ruleLevels(process.houseRules), live: measuredBy(process.live) };
}

/** What measures ask of the version that is live, or was. */
export const measuredBy = (live: VersionDocument | null): MeasuredProcess['live'] =>
  live && { version: live.version, stages: readDocument(live.document).stages };

const ruleLevels = (rules: Partial<HouseRules>): Detail['houseRules'] =>
  Object.fromEntries(HOUSE_RULES.map((rule) => [rule, rules[rule]?.level ?? 'off'])) as Detail['houseRules'];

export async function getVersion(
  context: Context,
  person: Person,
  process: ProcessId,
  number: number,
): Promise<unknown> {
  const found = (await versionsOf(context.dataSource, person, [process])).find(
    (candidate) => candidate.number === number && candidate.state !== 'draft',
  );
  if (!found) throw notFound('version');
  const { process: _process, ...version } = found;
  return { version, ...(await contentOf(context.dataSource, version.id)) };
}

/** A published version as a file. */
export const getProcessFile = (
  context: Context,
  person: Person,
  process: ProcessId,
  number: number,
): Promise<ProcessFile> =>
  inTransaction(context, async (tx) => {
    const found = (await versionsOf(tx, person, [process])).find(
      (candidate) => candidate.number === number && candidate.state !== 'draft',
    );
    if (!found) throw notFound('version');
    return fileOf(tx, process, await contentOf(tx, found.id));
  });

/** A version's document with all fields that it may ask for. */
async function contentOf(
  connection: Connection,
  id: VersionId,
): Promise<{ readonly document: ProcessDocument; readonly fields: readonly Field[] }> {
  const { document, fields } = await manager(connection).getRepository(ProcessVersionEntity).findOneByOrFail({ id });
  return { document, fields: [...fullCatalogue(fields).values()] };
}

type NewProcess = TypeOf<typeof contract.newProcess>;

/** Begins a process: a first draft with one stage, from a starting point, or as a copy; it works as it is. */
export async function addProcess(
  { clock }: Context,
  tx: EntityManager,
  person: Person,
  asked: NewProcess,
): Promise<Detail> {
  const now = clock.now();
  const id = newId<ProcessId>(now);
  const { name } = asked;
  const source = asked.from?.as === 'copy' ? await processToCopy(tx, asked.from.process) : null;
  const file = asked.from?.as === 'file' ? await takeInFile(tx, asked.from.file, { by: person.id, now }) : null;
  const copied = source ?? file;
  const document = copied ? copyDocument(copied.document, name, newKey) : beginningOf(asked);
  const problems = checkDocument(document, await presentCatalogue(tx), () => undefined);
  if (!copied && problems.length > 0)
    throw invalid(
      problems.map(({ pointer, detail }) => ({
        pointer: pointer === '/stages/0/name' ? '/firstStage' : pointer,
        detail,
      })),
    );
  const calendarId = source?.process.calendarId ?? file?.calendarId ?? (await usualCalendar(tx, now));
  const set = source ? beside(source.process, now) : { houseRules: {} };
  await tx
    .getRepository(ProcessEntity)
    .insert({ id, name, nameFold: foldText(name), kind: document.kind, calendarId, closedToNew: false, ...set });
  await insertDraft(tx, id, 1, document, now);
  if (source) await replaceReasons(tx, id, await loadReasons(tx, source.process.id));
  if (file) await replaceReasons(tx, id, file.reasons);
  return getProcess(tx, person, id);
}

function beginningOf({ name, kind, currency, firstStage, from }: NewProcess): ProcessDocument {
  if (from?.as === 'start') return startingDocument(from.start, name, currency, newKey);
  if (firstStage === undefined) throw invalid([{ pointer: '/firstStage', detail: 'Name the first stage.' }]);
  return newDocument(name, kind, currency, { id: newKey<StageId>(), name: firstStage });
}

/** A process with its live document; its draft where nothing is live. */
async function processToCopy(
  tx: EntityManager,
  id: ProcessId,
): Promise<{ readonly process: ProcessRow; readonly document: ProcessDocument }> {
  const process = await tx.getRepository(ProcessEntity).findOneBy({ id });
  const versions = tx.getRepository(ProcessVersionEntity);
  const version =
    (await versions.findOneBy({ processId: id, state: 'live' })) ??
    (await versions.findOneBy({ processId: id, state: 'draft' }));
  if (!process || !version)
    throw invalid([{ pointer: '/from/process', detail: 'There is no such process any more. Choose another.' }], 422);
  return { process, document: version.document };
}

/** What is set beside the versions of a process, as a copy of it begins; its house rules count from now. */
const beside = ({ houseRules, taskFates, waiverRights, access, assignment }: ProcessRow, now: number) => ({
  houseRules: Object.fromEntries(
    Object.entries(houseRules).map(([rule, set]) => [rule, { ...set, since: now }]),
  ) as Partial<HouseRules>,
  taskFates,
  waiverRights,
  access,
  assignment,
});

async function usualCalendar(tx: EntityManager, now: number): Promise<string> {
  const [calendar] = await tx.getRepository(CalendarEntity).find({ order: { name: 'ASC' }, take: 1 });
  return calendar?.id ?? addPlainCalendar(tx, now);
}

async function addPlainCalendar(tx: EntityManager, now: number): Promise<string> {
  const id = newId(now);
  await tx.getRepository(CalendarEntity).insert({ id, name: 'Monday to Friday', workingWeekdays: [1, 2, 3, 4, 5] });
  return id;
}

type Settings = TypeOf<typeof contract.settings>;

/** Changes what is not versioned and judges nothing, at once and logged before and after (S27). */
export const changeProcess = (context: Context, person: Person, id: ProcessId, settings: Settings): Promise<Detail> =>
  inCommand(context, async (tx) => {
    await writeSettings(tx, id, settings, { by: person.id, now: context.clock.now() });
    return getProcess(tx, person, id);
  });

/** What changes settings with which every open deal is judged again. */
export async function houseRulesToChange(tx: EntityManager, id: ProcessId, settings: Settings): Promise<AskedWork> {
  if (!(await tx.getRepository(ProcessEntity).existsBy({ id }))) throw notFound('process');
  if (settings.reasons) await requireReasons(tx, id, settings.reasons);
  return { kind: 'house_rules', subject: id, request: settings, total: await countOpenDeals(tx, id) };
}

/** Changes settings, house rules among them; all open deals are judged by these. */
export const houseRulesWork: WorkKind<Settings, ProcessId> = {
  kind: 'house_rules',
  run: async (tx, { subject: id, request, by, now, progress }) => {
    await writeSettings(tx, id, request, { by, now });
    return rejudgeProcess(tx, id, { by: personActor(by), happenedAt: now, recordedAt: now }, progress);
  },
};

async function requireProcess(tx: EntityManager, id: ProcessId): Promise<ProcessRow> {
  const row = await tx.getRepository(ProcessEntity).findOne({ where: { id }, lock: { mode: 'for_no_key_update' } });
  if (!row) throw notFound('process');
  return row;
}

async function writeSettings(
  tx: EntityManager,
  id: ProcessId,
  settings: Settings,
  { by, now }: { readonly by: string; readonly now: number },
): Promise<void> {
  const row = await requireProcess(tx, id);
  const before = await settingsOf(tx, row);
  const houseRules = settings.houseRules ? newRules(row, settings.houseRules, now) : row.houseRules;
  const closedToNew = settings.closedToNew ?? row.closedToNew;
  const taskFates = settings.taskFates ?? row.taskFates;
  const waiverRights = settings.waiverRights ?? row.waiverRights;
  const access = settings.access ? await requireTeams(tx, settings.access) : row.access;
  const assignment = settings.assignment ? await requireTurn(tx, settings.assignment) : row.assignment;
  await tx
    .getRepository(ProcessEntity)
    .update({ id }, { houseRules, closedToNew, taskFates, waiverRights, access, assignment });
  if (settings.reasons) await replaceReasons(tx, id, await requireReasons(tx, id, settings.reasons));
  const after = await settingsOf(tx, {
    ...row,
    houseRules,
    closedToNew,
    taskFates,
    waiverRights,
    access,
    assignment,
  });
  await tx
    .getRepository(ProcessLogEntryEntity)
    .insert({ processId: id, at: at(now), byId: by, what: 'settings', before, after });
}

const rightsOf = ({ waiverRights }: ProcessRow): WaiverRights => ({ ...USUAL_WAIVER_RIGHTS, ...waiverRights });

/** As they are logged: teams by the name that they have then. */
async function settingsOf(tx: EntityManager, row: ProcessRow): Promise<object> {
  const { access, assignment } = row;
  const names = await teamNames(tx, [...(access.teams ?? []), ...(assignment.by === 'turn' ? [assignment.team] : [])]);
  const nameOf = (team: string): string => names.get(team) ?? team;
  return {
    houseRules: ruleLevels(row.houseRules),
    reasons: await loadReasons(tx, row.id),
    closedToNew: row.closedToNew,
    taskFates: row.taskFates,
    waiverRights: rightsOf(row),
    seenBy: access.teams ? access.teams.map(nameOf) : 'everyone',
    newDealsGo: assignment.by === 'turn' ? `in turn over ${nameOf(assignment.team)}` : 'to whoever begins them',
  };
}

/** Throws where a team is none, or none is named: then nobody would see the process. */
async function requireTeams(tx: EntityManager, access: ProcessAccess): Promise<ProcessAccess> {
  const { teams } = access;
  if (!teams) return {};
  if (teams.length === 0)
    throw invalid([{ pointer: '/access/teams', detail: 'Name one team at least, or let everyone see it.' }]);
  const known = await teamNames(tx, teams);
  const strange = teams.findIndex((team) => !known.has(team));
  if (strange >= 0) throw invalid([{ pointer: `/access/teams/${strange}`, detail: 'There is no such team.' }]);
  return { teams: [...new Set(teams)] };
}

async function requireTurn(tx: EntityManager, assignment: Assignment): Promise<Assignment> {
  if (assignment.by === 'turn' && !(await teamNames(tx, [assignment.team])).has(assignment.team))
    throw invalid([{ pointer: '/assignment/team', detail: 'There is no such team.' }]);
  return assignment;
}

/** A rule that is switched on counts from now; one that only changes level keeps its beginning. */
function newRules(row: ProcessRow, levels: Detail['houseRules'], now: number): Partial<HouseRules> {
  const entries = HOUSE_RULES.flatMap((rule: HouseRule) => {
    const level = levels[rule];
    return level === 'off' ? [] : [[rule, { level, since: row.houseRules[rule]?.since ?? now }] as const];
  });
  return Object.fromEntries(entries);
}

/** Throws where a reason is of an outcome that the process has never had, or two have one id. */
async function requireReasons(
  tx: EntityManager,
  process: ProcessId,
  reasons: readonly Reason[],
): Promise<readonly Reason[]> {
  const versions = await tx
    .getRepository(ProcessVersionEntity)
    .find({ where: { processId: process }, select: { id: true, document: true } });
  const known = new Set(versions.flatMap(({ document }) => document.outcomes.map(({ id }) => id)));
  const strange = reasons.findIndex(({ outcome }) => !known.has(outcome));
  if (strange >= 0)
    throw invalid([{ pointer: `/reasons/${strange}/outcome`, detail: 'The process has no such outcome.' }]);
  const twice = reasons.findIndex(({ id }, place) => reasons.findIndex((other) => other.id === id) < place);
  if (twice >= 0) throw invalid([{ pointer: `/reasons/${twice}/id`, detail: 'Two reasons have the same id.' }]);
  return reasons;
}
