import type { processes as contract, TypeOf } from '@ladder/contract';
import {
  checkDocument,
  type Field,
  foldText,
  HOUSE_RULES,
  type HouseRule,
  type HouseRules,
  newDocument,
  personActor,
  type Reason,
  readDocument,
  type StoredDocument,
} from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { visibleDeals } from '../access/dealAccess.ts';
import { type Context, inLongWork } from '../context.ts';
import { ProcessEntity, type ProcessRow } from '../db/entities/process.ts';
import { at, type Connection, sql } from '../db/sql.ts';
import { presentCatalogue } from '../facts/catalogue.ts';
import { DEFAULT_LIMIT, readCursor, toPage } from '../http/pages.ts';
import { newId, newKey } from '../ids.ts';
import { invalid, notFound } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import { fullCatalogue } from '../setting/settings.ts';
import { versionsOf } from '../setting/versions.ts';
import { insertDraft } from './draft.ts';
import { rejudgeProcess } from './rejudgeProcess.ts';

type Detail = TypeOf<typeof contract.detail>;

interface SummaryRow {
  readonly id: string;
  readonly name: string;
  readonly name_fold: string;
  readonly kind: 'deal' | 'lead';
  readonly closed: boolean;
  readonly document: StoredDocument | null;
  readonly live: string | null;
  readonly draft_number: number | null;
  readonly draft_saved: Date | null;
  readonly open_deals: number;
}

/** Processes that the person may see, each with the open deals that they may see. */
export async function listProcesses(
  context: Context,
  person: Person,
  query: { after?: string; limit?: number },
): Promise<unknown> {
  const [limit, cursor] = [query.limit ?? DEFAULT_LIMIT, readCursor(query.after, ['text'])];
  const seen = visibleDeals(person);
  const rows = await sql<SummaryRow>(
    context.dataSource,
    `select p.id, p.name, p.name_fold, p.kind, p.closed_to_new as closed, coalesce(l.document, d.document) as document, l.id as live, d.number as draft_number,
       d.saved_at as draft_saved,
       (select count(*)::int from deals d where d.process_id = p.id and d.status = 'open' and ${seen.condition}) as open_deals
     from processes p left join process_versions l on l.process_id = p.id and l.state = 'live'
     left join process_versions d on d.process_id = p.id and d.state = 'draft'
     where (:after::text is null or p.name_fold > :after) and (l.id is not null or :administrator) order by p.name_fold limit :limit`,
    { ...seen.parameters, after: cursor?.[0], limit: limit + 1, administrator: seesDrafts(person) },
  );
  const versions = await versionsOf(
    context.dataSource,
    person,
    rows.map(({ id }) => id),
  );
  const live = new Map(
    versions.flatMap(({ process, ...version }) => (version.state === 'live' ? [[process, version] as const] : [])),
  );
  return toPage(
    rows,
    limit,
    (row) => [row.name_fold],
    (row) => ({
      id: row.id,
      name: row.name,
      purpose: row.document?.purpose ?? '',
      kind: row.kind,
      openDeals: row.open_deals,
      stages: row.document?.stages.length ?? 0,
      live: live.get(row.id) ?? null,
      closedToNew: row.closed,
      draft:
        row.draft_number === null || !seesDrafts(person)
          ? null
          : { number: row.draft_number, savedAt: row.draft_saved?.toISOString() ?? '' },
    }),
  );
}

/** Drafts, and processes that were never published, are the administrators'. */
const seesDrafts = (person: Person): boolean => person.role === 'administrator';

/** A process with its versions and what stands beside them. */
export async function getProcess(connection: Connection, person: Person, id: string): Promise<Detail> {
  const [row] = await sql<{
    id: string;
    name: string;
    kind: 'deal' | 'lead';
    closed: boolean;
    rules: Partial<HouseRules>;
  }>(connection, `select id, name, kind, closed_to_new as closed, house_rules as rules from processes where id = :id`, {
    id,
  });
  const all = (await versionsOf(connection, person, [id])).map(({ process: _process, ...version }) => version);
  const versions = all.filter(({ state }) => state !== 'draft' || seesDrafts(person));
  if (!row || versions.length === 0) throw notFound('process');
  const live = versions.find(({ state }) => state === 'live');
  const [content] = live
    ? await sql<{ document: StoredDocument; fields: Field[] }>(
        connection,
        `select document, fields from process_versions where id = :id`,
        { id: live.id },
      )
    : [];
  return {
    id,
    name: row.name,
    kind: row.kind,
    closedToNew: row.closed,
    houseRules: ruleLevels(row.rules),
    reasons: await loadReasons(connection, id),
    versions,
    live:
      live && content
        ? {
            version: live,
            document: readDocument(content.document),
            fields: [...fullCatalogue(content.fields).values()],
          }
        : null,
    hasDraft: versions.some(({ state }) => state === 'draft'),
  };
}

const ruleLevels = (rules: Partial<HouseRules>): Detail['houseRules'] =>
  Object.fromEntries(HOUSE_RULES.map((rule) => [rule, rules[rule]?.level ?? 'off'])) as Detail['houseRules'];

async function loadReasons(connection: Connection, process: string): Promise<Reason[]> {
  return sql<Reason>(
    connection,
    `select id, outcome, name, case when asks_follow_up then 'asked' else 'not_asked' end as "followUp", case when withdrawn then 'yes' else 'no' end as withdrawn
     from process_reasons where process_id = :process order by outcome desc, place`,
    { process },
  );
}

export async function getVersion(context: Context, person: Person, process: string, number: number): Promise<unknown> {
  const found = (await versionsOf(context.dataSource, person, [process])).find(
    (candidate) => candidate.number === number && candidate.state !== 'draft',
  );
  if (!found) throw notFound('version');
  const { process: _process, ...version } = found;
  const [content] = await sql<{ document: StoredDocument; fields: Field[] }>(
    context.dataSource,
    `select document, fields from process_versions where id = :id`,
    { id: version.id },
  );
  return {
    version,
    document: content && readDocument(content.document),
    fields: [...fullCatalogue(content?.fields ?? []).values()],
  };
}

/** Begins a process: a first draft with one stage, which works as it is. */
export async function addProcess(
  { clock }: Context,
  tx: EntityManager,
  person: Person,
  { name, kind, currency, firstStage }: TypeOf<typeof contract.newProcess>,
): Promise<Detail> {
  const now = clock.now();
  const id = newId(now);
  const document = newDocument(name, kind, currency, { id: newKey(), name: firstStage });
  const problems = checkDocument(document, await presentCatalogue(tx));
  if (problems.length > 0)
    throw invalid(
      problems.map(({ pointer, detail }) => ({
        pointer: pointer === '/stages/0/name' ? '/firstStage' : pointer,
        detail,
      })),
    );
  const [calendar] = await sql<{ id: string }>(tx, `select id from calendars order by name limit 1`);
  const calendarId = calendar?.id ?? (await addPlainCalendar(tx, now));
  await tx
    .getRepository(ProcessEntity)
    .insert({ id, name, nameFold: foldText(name), kind, calendarId, closedToNew: false, houseRules: {} });
  await insertDraft(tx, id, 1, document, now);
  return getProcess(tx, person, id);
}

async function addPlainCalendar(tx: EntityManager, now: number): Promise<string> {
  const id = newId(now);
  await sql(tx, `insert into calendars (id, name, working_weekdays) values (:id, 'Monday to Friday', '{1,2,3,4,5}')`, {
    id,
  });
  return id;
}

/** Changes what is not versioned, at once and logged before and after (S27); house rules are judged again. */
export async function changeProcess(
  context: Context,
  person: Person,
  id: string,
  body: TypeOf<typeof contract.settings>,
): Promise<Detail> {
  const now = context.clock.now();
  return inLongWork(context, async (tx) => {
    const repository = tx.getRepository(ProcessEntity);
    const row = await repository.findOne({ where: { id }, lock: { mode: 'for_no_key_update' } });
    if (!row) throw notFound('process');
    const before = await getProcess(tx, person, id);
    const houseRules = body.houseRules ? newRules(row, body.houseRules, now) : row.houseRules;
    await repository.update({ id }, { houseRules, closedToNew: body.closedToNew ?? row.closedToNew });
    if (body.reasons) {
      await requireOutcomes(tx, id, body.reasons);
      await replaceReasons(tx, id, requireDistinct(body.reasons));
    }
    const after = await getProcess(tx, person, id);
    const settings = ({ houseRules: rules, reasons, closedToNew }: Detail): object => ({
      houseRules: rules,
      reasons,
      closedToNew,
    });
    await sql(
      tx,
      `insert into process_log (process_id, at, by_id, what, before, after) values (:id, :now, :by, 'settings', :before, :after)`,
      {
        id,
        now: at(now),
        by: person.id,
        before: settings(before),
        after: settings(after),
      },
    );
    if (body.houseRules) await rejudgeProcess(tx, id, { by: personActor(person.id), happenedAt: now, recordedAt: now });
    return after;
  });
}

/** A rule that is switched on counts from now; one that only changes level keeps its beginning. */
function newRules(row: ProcessRow, levels: Detail['houseRules'], now: number): Partial<HouseRules> {
  const entries = HOUSE_RULES.flatMap((rule: HouseRule) => {
    const level = levels[rule];
    return level === 'off' ? [] : [[rule, { level, since: row.houseRules[rule]?.since ?? now }] as const];
  });
  return Object.fromEntries(entries);
}

/** Throws where a reason is of an outcome that the process has never had. */
async function requireOutcomes(tx: EntityManager, process: string, reasons: readonly Reason[]): Promise<void> {
  const rows = await sql<{ document: StoredDocument }>(
    tx,
    `select document from process_versions where process_id = :process`,
    { process },
  );
  const known = new Set(rows.flatMap(({ document }) => readDocument(document).outcomes.map(({ id }) => id)));
  const strange = reasons.findIndex(({ outcome }) => !known.has(outcome));
  if (strange >= 0)
    throw invalid([{ pointer: `/reasons/${strange}/outcome`, detail: 'The process has no such outcome.' }]);
}

/** Throws where two reasons have one id. */
function requireDistinct(reasons: readonly Reason[]): readonly Reason[] {
  const twice = reasons.findIndex(({ id }, place) => reasons.findIndex((other) => other.id === id) < place);
  if (twice >= 0) throw invalid([{ pointer: `/reasons/${twice}/id`, detail: 'Two reasons have the same id.' }]);
  return reasons;
}

/** Reasons that are left out are withdrawn, and kept where they were used (S26). */
async function replaceReasons(tx: EntityManager, process: string, reasons: readonly Reason[]): Promise<void> {
  await sql(tx, `update process_reasons set withdrawn = true where process_id = :process`, { process });
  const rows = reasons.map(({ id, outcome, name, followUp, withdrawn }, place) => ({
    process_id: process,
    id,
    outcome,
    name,
    asks_follow_up: followUp === 'asked',
    withdrawn: withdrawn === 'yes',
    place,
  }));
  await sql(
    tx,
    `insert into process_reasons select * from jsonb_populate_recordset(null::process_reasons, :rows)
     on conflict (process_id, id) do update set name = excluded.name, asks_follow_up = excluded.asks_follow_up, withdrawn = excluded.withdrawn, place = excluded.place`,
    { rows },
  );
}
