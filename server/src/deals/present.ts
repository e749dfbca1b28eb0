import type { deal as contract, TypeOf } from '@ladder/contract';
import {
  type AskedItem,
  canTakeBack,
  type Deal,
  daysBetween,
  daysOfStay,
  dealFacts,
  describeActual,
  describeFinding,
  describeItem,
  type Finding,
  type ItemVerdict,
  isClosed,
  isOpen,
  judgeItem,
  localDay,
  type MoveTarget,
  type NameOf,
  namesWith,
  nextTarget,
  owedItems,
  personActor,
  presentVisit,
  previewMove,
  type Route,
  type Setting,
  standingAt,
  standsAt,
  TAKE_BACK_MS,
  type ToldDeal,
  textValue,
  tickedItems,
  type Verdict,
} from '@ladder/core';
import { isReviewer, mayChange } from '../access/dealAccess.ts';
import type { Context } from '../context.ts';
import type { Connection } from '../db/sql.ts';
import type { Person } from '../session/person.ts';
import type { KnownSetting } from '../setting/repository/settings.ts';
import { versionName } from '../setting/repository/versions.ts';
import { nameLookup } from './names.ts';
import { presentDocuments } from './presentDocuments.ts';
import { presentSetting } from './presentSetting.ts';
import { presentStepsAtHand, presentStepsDone } from './presentSteps.ts';
import { presentTasks } from './presentTasks.ts';
import { presentWaivers } from './presentWaivers.ts';
import { rankOf } from './rank.ts';
import type { WholeDeal } from './repository/keptDeals.ts';
import { loadDealNames } from './repository/names.ts';
import { byBeginning } from './repository/parts/findings.ts';

export type DealDetail = TypeOf<typeof contract.detail>;
export type VerdictView = TypeOf<typeof contract.verdict>;
type FindingView = TypeOf<typeof contract.finding>;
type ItemView = TypeOf<typeof contract.itemVerdict>;

const iso = (at: number): string => new Date(at).toISOString();

/** One item of a verdict in words. */
function presentItem(verdict: ItemVerdict, passedOver: boolean, setting: Setting, nameOf: NameOf): ItemView {
  const { item, state, remedy, mayApply, mayApplyRates } = verdict;
  const names = namesWith(setting.document, nameOf);
  return {
    id: item.id,
    kind: item.kind,
    stage: item.stage,
    at: item.at,
    level: item.level,
    binds: item.binds,
    passedOver,
    state,
    remedy,
    mayApply,
    mayApplyRates,
    says: describeItem(item, setting.catalogue, names),
    message: item.message ?? null,
    actual: describeActual(verdict, setting.catalogue, names),
  } as ItemView;
}

/** A verdict in words. */
export function presentVerdict(
  target: MoveTarget,
  route: Route,
  verdict: Verdict,
  setting: Setting,
  nameOf: NameOf,
): VerdictView {
  const items = verdict.items.map((item: ItemVerdict<AskedItem>) =>
    presentItem(item, item.item.passedOver, setting, nameOf),
  );
  return { target, kind: route.kind, over: route.over, answer: verdict.answer, items };
}

/** A finding in words, as it is at the instant. */
export function presentFinding(
  finding: Finding,
  deal: ToldDeal,
  setting: Setting,
  at: number,
  nameOf: NameOf,
): FindingView {
  const { says, actual } = describeFinding(finding, deal, setting, at, nameOf);
  return {
    key: finding.key,
    kind: finding.kind,
    level: finding.level,
    origin: finding.origin,
    requirement: finding.requirement,
    askedBy: finding.askedBy,
    since: iso(finding.openedAt),
    sinceDays: daysBetween(localDay(finding.openedAt, setting.zone), localDay(at, setting.zone)),
    says,
    actual,
  };
}

/** Everything the deal page shows; quickest with what the deal was known by as it was loaded. */
export async function presentDeal(
  context: Context,
  connection: Connection,
  person: Person,
  deal: Deal,
  setting: KnownSetting,
  loaded: WholeDeal | null = null,
): Promise<DealDetail> {
  // The clock of another server, which wrote the newest record, may be ahead of this one's.
  const now = Math.max(context.clock.now(), deal.settledAt);
  const { document, about } = setting;
  const { names, importers } = await loadDealNames(connection, document, deal, loaded, about.publishedBy);
  const nameOf = nameLookup(names);
  const besides = {
    process: { id: deal.process, name: about.process },
    version: await versionOf(connection, deal, setting, nameOf),
    documents: presentDocuments(deal, nameOf),
    tasks: presentTasks(deal, setting, now, nameOf),
    waivers: presentWaivers(deal, setting, person, now, nameOf),
    stepsAtHand: presentStepsAtHand(deal, setting, now, { nameOf, importerOf: (id) => importers.get(id) ?? null }),
    stepsDone: presentStepsDone(deal, setting, person, now, nameOf),
    takeBack: presentTakeBack(deal, setting, person, now),
    setting: { id: presentSetting(setting).id, told: null },
    names,
    may: {
      change: mayChange(person, deal),
      force: person.role === 'administrator',
      void: isReviewer(person),
      reopen: isReviewer(person) && mayChange(person, deal) && isClosed(deal.status),
    },
  };
  return Object.assign(
    besides,
    presentFacts(deal, nameOf),
    presentJourney(deal, setting, now, nameOf),
    presentJudgement(deal, setting, now, nameOf),
  );
}

/** The version it follows. An open deal keeps it in use; of a closed one's it is looked at whether others do (S26). */
async function versionOf(
  connection: Connection,
  deal: Deal,
  { about }: KnownSetting,
  nameOf: NameOf,
): Promise<DealDetail['version']> {
  if (about.state === 'superseded' && deal.status.state !== 'open') return versionName(connection, deal.version);
  return {
    id: deal.version,
    number: about.number,
    state: about.state === 'superseded' ? 'in_use' : about.state,
    publishedAt: about.publishedAt?.toISOString() ?? null,
    publishedBy: about.publishedBy === null ? null : (nameOf(about.publishedBy) ?? null),
  };
}

/** What it is, and what is known of it. */
function presentFacts(deal: Deal, nameOf: NameOf) {
  const { id, name, externalId, revision, values, partyValues, currency } = deal;
  const party = (field: string): { id: string; name: string } | null => {
    const known = textValue(deal, field);
    return known === null ? null : { id: known, name: nameOf(known) ?? 'Unknown' };
  };
  return {
    id,
    name,
    externalId,
    revision,
    values,
    partyValues,
    currency,
    customer: party('customer'),
    contact: party('contact'),
    status: presentStatus(deal),
    createdAt: iso(deal.createdAt),
  };
}

/** Where it is and how it came there. */
const presentJourney = (deal: Deal, setting: Setting, now: number, nameOf: NameOf) => ({
  stage: presentVisit(deal).stage,
  age: ageOf(deal, setting, now),
  visits: presentVisits(deal, setting, now),
  path: deal.path.map(({ seq, kind, from, to, over, at, by, forced }) => ({
    seq,
    kind,
    from,
    to,
    over,
    forced: forced === 'yes',
    at: iso(at),
    by: nameOf(by) ?? null,
  })),
  ticked: presentTicks(deal, setting, nameOf),
});

/** How it complies, and what its next gate asks. */
const presentJudgement = (deal: Deal, setting: Setting, now: number, nameOf: NameOf) => ({
  standing: standingAt(deal.findings, now),
  gate: nextGate(deal, setting, now, nameOf),
  owed: openOwed(deal, setting, now, nameOf),
  findings: deal.findings
    .filter((finding) => standsAt(finding, now))
    .sort(byBeginning)
    .map((finding) => presentFinding(finding, deal, setting, now, nameOf)),
  attempt: deal.attempt && {
    target: deal.attempt.target,
    at: iso(deal.attempt.at),
    by: nameOf(deal.attempt.by) ?? null,
  },
});

function presentStatus({ status }: Deal): DealDetail['status'] {
  if (!isClosed(status)) return { state: status.state };
  const { at: _at, ...closing } = status;
  return closing;
}

/** Days in the present stay; of a closed deal, until it closed. */
function ageOf(deal: Deal, setting: Setting, now: number): number {
  const visit = presentVisit(deal);
  return daysOfStay(visit.enteredDay, visit.left?.day ?? null, localDay(now, setting.zone));
}

function presentVisits(deal: Deal, setting: Setting, now: number): DealDetail['visits'] {
  const today = localDay(now, setting.zone);
  return deal.visits
    .filter(({ takenBack }) => takenBack === 'no')
    .map(({ seq, stage, enteredDay, left, moveOnDay }) => ({
      seq,
      stage,
      enteredDay,
      leftDay: left?.day ?? null,
      moveOnDay,
      days: daysOfStay(enteredDay, left?.day ?? null, today),
    }));
}

function presentTicks(deal: Deal, setting: Setting, nameOf: NameOf): DealDetail['ticked'] {
  const counted = tickedItems(deal, setting.document);
  return deal.ticks
    .filter(({ item, untickedAt }) => untickedAt === null && counted.has(item))
    .sort((a, b) => a.at - b.at || (a.item < b.item ? -1 : 1))
    .map(({ item, at, by }) => ({ item, at: iso(at), by: nameOf(by) ?? null }));
}

function nextGate(deal: Deal, setting: Setting, now: number, nameOf: NameOf): VerdictView | null {
  const target = nextTarget(setting.document, presentVisit(deal).stage);
  const preview = previewMove(deal, setting, target, { happenedAt: now });
  return preview.ok ? presentVerdict(target, preview.value.route, preview.value.verdict, setting, nameOf) : null;
}

/** What the deal owes and does not meet. */
function openOwed(deal: Deal, setting: Setting, now: number, nameOf: NameOf): ItemView[] {
  if (deal.status.state !== 'open') return [];
  const facts = dealFacts(deal, setting, now);
  return owedItems(deal, setting.document)
    .map(({ item, step }) => ({ verdict: judgeItem(item, facts, setting.catalogue), step }))
    .filter(({ verdict }) => isOpen(verdict.state))
    .map(({ verdict, step }) =>
      presentItem(verdict, verdict.item.stage !== null && step.over.includes(verdict.item.stage), setting, nameOf),
    );
}

function presentTakeBack(deal: Deal, setting: Setting, person: Person, now: number): DealDetail['takeBack'] {
  const rank = rankOf(person);
  const step = mayChange(person, deal) ? canTakeBack(deal, setting, { id: personActor(person.id), rank }, now) : null;
  if (!step?.ok) return null;
  return {
    seq: step.value.seq,
    kind: step.value.kind,
    until: rank === 'maker' ? iso(step.value.at + TAKE_BACK_MS) : null,
  };
}
