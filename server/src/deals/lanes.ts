import type { lanes as contract, TypeOf } from '@ladder/contract';
import type { ProcessId, StageId } from '@ladder/core';
import {
  type Calendar,
  calendarDaysOf,
  countedMedian,
  type Outcome,
  readDocument,
  type Stage,
  weightedMinor,
} from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { addsUpOn, type Context, inTransaction } from '../context.ts';
import { inOrder } from '../db/inOrder.ts';
import type { Connection } from '../db/sql.ts';
import { LOOKED_AT, type LookAtSession } from '../http/register.ts';
import type { Person } from '../session/person.ts';
import { organisation } from '../session/repository.ts';
import { calendarOf } from '../setting/repository/settings.ts';
import { documentThen, versionName } from '../setting/repository/versions.ts';
import { asOf } from './asOf.ts';
import { type DealCard, toCards } from './cards.ts';
import {
  type EndedRow,
  endedThisMonth,
  findLaneCards,
  liveProcess,
  type ReasonCount,
  stagesOfVersions,
} from './repository/lanes.ts';
import { type AskedFilter, type DealFilter, filterOn, type Known, openBook, pastBook } from './repository/openBook.ts';
import { countOpen, type OpenSums, sumOpen } from './repository/openSums.ts';

type Lanes = TypeOf<typeof contract>;
type Lane = Lanes['stages'][number];

export interface LanesQuery extends AskedFilter {
  /** As of the end of which day; as it is where it is left out. */
  readonly on?: string;
  /** By what is known of that day now, unless by what was known then. */
  readonly known?: Known;
}

/** So many cards of a stage are sent; the others are told by age, and open on request. */
const CARDS_A_STAGE = 30;

/**
 * Open deals of a process on its ladder: each stage's figures, its ages, and the cards that matter most. Adding up the open
 * deals takes longest, so that what else is shown is read beside it.
 */
export async function getLanes(
  context: Context,
  person: Person,
  process: ProcessId,
  { on: asked, known, ...query }: LanesQuery,
  lookAtSession: LookAtSession = LOOKED_AT,
): Promise<Lanes> {
  const { dataSource } = context;
  const now = context.clock.now();
  const [live, calendar, { timeZone, currency }] = await Promise.all([
    liveProcess(dataSource, process),
    calendarOf(dataSource, process),
    organisation(dataSource),
    lookAtSession(dataSource),
  ]);
  const { today, on, end } = asOf(asked, now, timeZone);
  if (end !== null) {
    const past = await lanesThen(context, person, process, filterOn(query, on), {
      on,
      end,
      known,
      currency,
      calendar,
    });
    return { process: { id: process, name: live.name }, currency, today, on, ...past };
  }
  const book = await openBook(dataSource, person, process, filterOn(query, today), now);
  const document = live.document && readDocument(live.document);
  const stages = document?.stages ?? [];
  const cardsIn = async (tx: EntityManager, ids: readonly StageId[]): Promise<readonly DealCard[]> =>
    toCards(tx, await findLaneCards(tx, book, ids, CARDS_A_STAGE), today, now);
  const [groups, openDeals, ended, [cards, version]] = await Promise.all([
    sumOpen(addsUpOn(context, book), book, { by: ['stage', 'age', 'standing'], measures: ['past'] }, today, currency),
    isNarrowed(query)
      ? openBook(dataSource, person, process, {}, now).then((whole) =>
          countOpen(addsUpOn(context, whole), whole, { by: [] }, today),
        )
      : null,
    endedThisMonth(dataSource, person, process, today),
    inTransaction(context, (tx) =>
      inOrder(
        cardsIn(
          tx,
          stages.map(({ id }) => id),
        ),
        live.version ? versionName(tx, live.version) : Promise.resolve(null),
      ),
    ),
  ]);
  const others = await otherStages(dataSource, process, groups, stages);
  const gone = others.map(({ id }) => id);
  const otherCards = gone.length > 0 ? await inTransaction(context, (tx) => cardsIn(tx, gone)) : [];
  const grouped = byStage(groups);
  const lanes = stages.map((stage) => toLane(stage, grouped, cards, calendar));
  const otherLanes = others.map((stage) => toLane(stage, grouped, otherCards, calendar));
  return {
    process: { id: process, name: live.name },
    currency,
    version,
    today,
    on,
    ...figuresOf(lanes, otherLanes, groups, openDeals),
    movesAsk: live.asks_next || live.asks_tasks ? 'may' : 'nothing',
    outcomes: toOutcomes(document?.outcomes ?? [], live.reasons, ended),
  };
}

interface PastDay {
  readonly on: string;
  readonly end: number;
  readonly known: Known | undefined;
  readonly currency: string;
  readonly calendar: Calendar;
}

/** How they stood at the end of a day that has gone by. What a card tells is of its deal as it is, so that there are none. */
async function lanesThen(
  context: Context,
  person: Person,
  process: ProcessId,
  filter: DealFilter,
  { on, end, known, currency, calendar }: PastDay,
): Promise<Omit<Lanes, 'process' | 'currency' | 'today' | 'on'>> {
  const { dataSource } = context;
  const [book, whole] = [pastBook(person, process, filter, end, known), pastBook(person, process, {}, end, known)];
  const source = addsUpOn(context, book);
  const [groups, live, openDeals] = await Promise.all([
    sumOpen(source, book, { by: ['stage', 'age', 'standing'], measures: ['past'] }, on, currency),
    documentThen(dataSource, process, end),
    isNarrowed(filter) ? countOpen(source, whole, { by: [] }, on) : null,
  ]);
  const stages = live ? readDocument(live.document).stages : [];
  const grouped = byStage(groups);
  const toLanes = (which: readonly LaneStage[]): readonly Lane[] =>
    which.map((stage) => toLane(stage, grouped, [], calendar));
  return {
    version: live?.version ?? null,
    ...figuresOf(toLanes(stages), toLanes(await otherStages(dataSource, process, groups, stages)), groups, openDeals),
    movesAsk: 'nothing',
    outcomes: [],
  };
}

const isNarrowed = (filter: object): boolean => Object.values(filter).some((value) => value !== undefined);

/** All lanes with what they add up to; `openDeals` is how many there are where they are narrowed. */
function figuresOf(
  stages: readonly Lane[],
  otherStages: readonly Lane[],
  groups: readonly GroupRow[],
  openDeals: readonly { readonly deals: number }[] | null,
) {
  const all = [...stages, ...otherStages];
  const sum = (part: (lane: Lane) => number): number => all.reduce((total, lane) => total + part(lane), 0);
  const count = sum((lane) => lane.count);
  return {
    stages: [...stages],
    otherStages: [...otherStages],
    openDeals: count,
    allOpenDeals: openDeals?.[0]?.deals ?? count,
    minor: sum(({ minor }) => minor),
    weightedMinor: sum((lane) => lane.weightedMinor),
    held: sum(({ held }) => held),
    pastTarget: sum(({ pastTarget }) => pastTarget),
    withoutRate: groups.reduce((total, group) => total + group.withoutRate, 0),
  };
}

type GroupRow = OpenSums<'stage' | 'age' | 'standing', 'past'>;

type LaneStage = Pick<Stage, 'id' | 'name' | 'chance' | 'target'>;

type Grouped = ReadonlyMap<StageId, readonly GroupRow[]>;

function byStage(groups: readonly GroupRow[]): Grouped {
  const grouped = new Map<StageId, GroupRow[]>();
  for (const group of groups) {
    const alike = grouped.get(group.stage);
    if (alike) alike.push(group);
    else grouped.set(group.stage, [group]);
  }
  return grouped;
}

function toLane(stage: LaneStage, groups: Grouped, cards: readonly DealCard[], calendar: Calendar): Lane {
  const mine = groups.get(stage.id) ?? [];
  const sum = (part: (group: GroupRow) => number): number => mine.reduce((total, group) => total + part(group), 0);
  const minor = sum((group) => group.minor);
  return {
    id: stage.id,
    name: stage.name,
    chance: stage.chance,
    targetDays: stage.target && calendarDaysOf(stage.target, calendar),
    count: sum(({ deals }) => deals),
    minor,
    weightedMinor: weightedMinor(minor, stage.chance),
    held: mine.filter(({ standing }) => standing === 'held').reduce((total, { deals }) => total + deals, 0),
    pastTarget: sum(({ past }) => past),
    medianAge: countedMedian(mine.map(({ age, deals }) => ({ days: age, count: deals }))),
    ages: mine
      .map(({ age, deals, past, minor: amount, standing }) => ({ age, count: deals, past, minor: amount, standing }))
      // Told alike each time, however the database came upon them.
      .sort((a, b) => a.age - b.age || (a.standing < b.standing ? -1 : 1)),
    cards: cards.filter((card) => card.stage === stage.id),
  };
}

/** Stages that deals on older versions are in and the live version no longer has. */
async function otherStages(
  connection: Connection,
  process: ProcessId,
  groups: readonly GroupRow[],
  live: readonly Stage[],
): Promise<LaneStage[]> {
  const missing = [...new Set(groups.map(({ stage }) => stage))].filter((id) => !live.some((stage) => stage.id === id));
  if (missing.length === 0) return [];
  const known = await stagesOfVersions(connection, process);
  return missing.map(
    (id) => known.find((stage) => stage.id === id) ?? { id, name: 'A stage that is gone', chance: 0, target: null },
  );
}

const toOutcomes = (
  outcomes: readonly Outcome[],
  reasons: readonly ReasonCount[],
  ended: readonly EndedRow[],
): Lanes['outcomes'] =>
  outcomes.map(({ id, name, counts }) => {
    const asked = reasons.find(({ outcome }) => outcome === id);
    const closed = ended.find(({ outcome }) => outcome === id);
    return {
      id,
      name,
      counts,
      count: closed?.count ?? 0,
      minor: closed?.minor ?? 0,
      reasons: asked?.reasons ?? 0,
      followUpReasons: asked?.followUpReasons ?? 0,
    };
  });
