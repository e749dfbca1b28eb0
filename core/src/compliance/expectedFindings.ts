import type { Deal } from '../deals/deal.ts';
import { dealFacts } from '../deals/dealFacts.ts';
import { type EntryKind, type Finding, OPEN_ENDED, type RequirementFinding } from '../deals/finding.ts';
import type { PathStep } from '../deals/parts/path.ts';
import { runsThatCount } from '../deals/parts/runs.ts';
import { textValue } from '../deals/parts/values.ts';
import { presentVisit } from '../deals/parts/visits.ts';
import type { Setting } from '../deals/setting.ts';
import { isEmpty } from '../facts/value.ts';
import { assembleGate } from '../gate/assemble.ts';
import { itemsOf } from '../gate/item.ts';
import { routeTo, targetFromText } from '../gate/route.ts';
import type { StageId } from '../ids.ts';
import { stageOf } from '../processes/document.ts';
import type { HouseRule } from '../processes/houseRules.ts';
import { factsAt, type GateFacts, isOpen, type Level, withoutWaivers } from '../requirements/item.ts';
import { turnsOf } from '../requirements/itemParts.ts';
import { judgeItem } from '../requirements/judgeItem.ts';
import { kindNamed } from '../requirements/kindOf.ts';
import type { GateItem, RequirementFindingKind } from '../requirements/kinds.ts';
import { addDays, type Day, daysBetween, type Instant, localDay, startOfDay } from '../time/day.ts';
import { gracesFor } from './grace.ts';
import { type OwedItem, owedItems } from './owed.ts';
import { cutPeriods, joinPeriods, liesIn, openPeriods, type Period, periodsWhere, splitPeriod } from './periods.ts';

/** What is found on a deal from `now` on if nothing but the clock changes; and whether the refused attempt is still in the way. */
export interface Expected {
  readonly findings: readonly Finding[];
  readonly attempt: 'none' | 'stands' | 'settled';
}

/** Judges the whole deal afresh. A closed or voided deal has no findings. */
export function expectedFindings(deal: Deal, setting: Setting, now: Instant): Expected {
  if (deal.status.state !== 'open') return { findings: [], attempt: deal.attempt ? 'settled' : 'none' };
  const facts = dealFacts(deal, setting, now);
  const owed = owedItems(deal, setting.document).flatMap((each) => owedFindings(deal, each, setting, facts));
  const attempt = attemptFindings(deal, setting, facts);
  const taken = new Set(owed.map(({ key }) => key));
  return {
    attempt: attempt.attempt,
    findings: [
      ...owed,
      ...attempt.findings.filter(({ key }) => !taken.has(key)),
      ...entryFindings(deal, setting, facts, now),
      ...houseRuleFindings(deal, setting, now),
    ],
  };
}

/** Findings about what is owed; what fails only because of a publish flags until its grace is over. */
function owedFindings(
  deal: Deal,
  { item, origin, step }: OwedItem,
  setting: Setting,
  facts: GateFacts,
): readonly Finding[] {
  const periodsOf = (asked: GateItem): readonly Period[] => openPeriods(asked, facts, setting.catalogue);
  const periods = periodsOf(item);
  // Most of what is owed is met, and no grace is looked for.
  if (periods.length === 0) return [];
  const graces = gracesFor(deal, setting.publishes, item.id, step).map(({ until, before }) => ({
    until,
    before,
    failed: before ? periodsOf(before) : [],
  }));
  const cuts = graces.flatMap(({ until, failed }) => [until, ...failed.flatMap(({ from, to }) => [from, to])]);
  const pieces = periods.flatMap((period) => splitPeriod(period, cuts));
  const findings = pieces.map(({ from, to }) => {
    const isNew = graces.filter(({ before, failed }) => !(heldAlready(before, item) && liesIn(failed, from)));
    const kind = isNew.length > 0 ? 'gate_changed' : findingKindOf(item);
    const level = isNew.some(({ until }) => from < until) ? 'flag' : item.level;
    return itemFinding(item, kind, level, origin, { from, to });
  });
  return joinFindings(findings);
}

/** Whether failing the requirement as it was before meant as much as failing it now. */
const heldAlready = (before: GateItem | null, item: GateItem): boolean =>
  before !== null && (before.level === 'hold' || item.level === 'flag');

const findingKindOf = ({ kind }: GateItem): RequirementFindingKind =>
  kindNamed(kind).finding.kind as RequirementFindingKind;

const itemFinding = (
  item: GateItem,
  kind: RequirementFinding['kind'],
  level: Level,
  origin: Finding['origin'],
  { from, to }: Period,
): RequirementFinding => ({
  key: `requirement:${item.id}`,
  kind,
  level,
  origin,
  requirement: item.id,
  askedBy: item.stage,
  openedAt: from,
  closedAt: to,
});

/** Findings of one requirement, in order, those that go on unchanged joined. */
function joinFindings(findings: readonly Finding[]): readonly Finding[] {
  const joined: Finding[] = [];
  for (const finding of findings) {
    const last = joined.at(-1);
    const goesOn =
      last && last.closedAt === finding.openedAt && last.kind === finding.kind && last.level === finding.level;
    if (goesOn) joined[joined.length - 1] = { ...last, closedAt: finding.closedAt };
    else joined.push(finding);
  }
  return joined;
}

/** What a refused attempt's gate still asks. It is over at the instant when nothing in it holds any more (S16). */
function attemptFindings(deal: Deal, setting: Setting, facts: GateFacts): Expected {
  if (!deal.attempt) return { findings: [], attempt: 'none' };
  const items = attemptGate(deal, setting);
  const turns = [...new Set(items.flatMap((item) => turnsOf(item, facts)))].sort((a, b) => a - b);
  const holds = (at: Instant): boolean => {
    const then = factsAt(facts, at);
    return items.some((item) => item.level === 'hold' && isOpen(judgeItem(item, then, setting.catalogue).state));
  };
  const first = periodsWhere([facts.at, ...turns], holds)[0];
  if (!first || first.from > facts.at) return { findings: [], attempt: 'settled' };
  const findings = items.flatMap((item) =>
    cutPeriods(openPeriods(item, facts, setting.catalogue), first.to).map((period) =>
      itemFinding(item, findingKindOf(item), item.level, 'refused', period),
    ),
  );
  return { findings, attempt: 'stands' };
}

function attemptGate(deal: Deal, setting: Setting): readonly GateItem[] {
  if (!deal.attempt) return [];
  const target = targetFromText(deal.attempt.target);
  const from = presentVisit(deal).stage;
  const route = routeTo(setting.document, from, target);
  return route.ok ? assembleGate(setting.document, from, target, route.value) : [];
}

/** Findings of how the deal entered its stage; they end with the stay, or when all that is owed from it is met (S17). */
function entryFindings(deal: Deal, setting: Setting, facts: GateFacts, now: Instant): readonly Finding[] {
  const visit = presentVisit(deal);
  const step = deal.path.find(({ seq }) => seq === visit.moveSeq);
  const kind = step && entryKind(step, setting);
  if (!step || !kind) return [];
  const periods = kind === 'returned' ? [{ from: now, to: OPEN_ENDED }] : periodsOwed(step, setting, facts);
  return periods.map(({ from, to }) => ({
    key: `${kind}:${step.seq}`,
    kind,
    level: 'flag',
    origin: 'entry',
    requirement: null,
    askedBy: visit.stage,
    openedAt: from,
    closedAt: to,
  }));
}

function entryKind(step: PathStep, setting: Setting): EntryKind | null {
  if (step.forced === 'yes') return 'forced';
  if (step.waived && step.waived.length > 0) return 'on_waiver';
  if (step.kind === 'skip') return 'skipped';
  return step.kind === 'return' && setting.document.returns === 'flag' ? 'returned' : null;
}

function periodsOwed(step: PathStep, setting: Setting, facts: GateFacts): readonly Period[] {
  const all = itemsOf(setting.document);
  const items = step.owes.flatMap((id) => all.get(id) ?? []);
  // What was waived is owed all the same, until it is met.
  const bare = withoutWaivers(facts);
  return joinPeriods(items.flatMap((item) => openPeriods(item, bare, setting.catalogue)));
}

function houseRuleFindings(deal: Deal, setting: Setting, now: Instant): readonly Finding[] {
  return (Object.keys(setting.houseRules) as HouseRule[]).flatMap((rule) => {
    const asked = setting.houseRules[rule];
    return asked ? brokenBy(rule, deal, setting, now).map((broken) => houseRuleFinding(rule, asked, broken)) : [];
  });
}

/** What breaks a rule: the same one in time under its key, from when on it does, and the stage that it is about. */
interface Broken {
  readonly key: string;
  readonly from: Instant;
  readonly stage: StageId;
}

const houseRuleFinding = (
  kind: HouseRule,
  { level, since }: { level: Level; since: Instant },
  { key, from, stage }: Broken,
): Finding => ({
  key: `house:${key}`,
  kind,
  level,
  origin: 'house_rule',
  requirement: null,
  askedBy: stage,
  openedAt: Math.max(from, since),
  closedAt: OPEN_ENDED,
});

function brokenBy(rule: HouseRule, deal: Deal, setting: Setting, now: Instant): readonly Broken[] {
  if (rule === 'step_late') return lateSteps(deal, setting);
  const { stage, enteredAt } = presentVisit(deal);
  const from = brokenFrom(rule, deal, setting, now);
  return from === null ? [] : [{ key: rule, from: Math.max(from, enteredAt), stage }];
}

/** A step is late from the day after its due day, each by itself (S51). */
const lateSteps = (deal: Deal, { zone }: Setting): readonly Broken[] =>
  runsThatCount(deal).flatMap(({ seq, stage, dueDay, begunAt, end }) =>
    end !== null || dueDay === null
      ? []
      : [{ key: `step_late:${seq}`, from: Math.max(startOfDay(addDays(dueDay, 1), zone), begunAt), stage }],
  );

/**
 * The instant from which the rule is broken if nothing is done; null where it cannot be. It may lie before `now` where
 * that follows from when things happened: the stay began, someone was active.
 */
function brokenFrom(rule: Exclude<HouseRule, 'step_late'>, deal: Deal, setting: Setting, now: Instant): Instant | null {
  const visit = presentVisit(deal);
  const dayAfter = (day: string, days: number): Instant => startOfDay(addDays(day, days + 1), setting.zone);
  switch (rule) {
    case 'past_target':
      return visit.moveOnDay === null ? null : dayAfter(visit.moveOnDay, 0);
    case 'idle': {
      const allowed = stageOf(setting.document, visit.stage)?.idleDays ?? null;
      if (allowed === null) return null;
      const active = deal.lastActivityAt === null ? visit.enteredDay : localDay(deal.lastActivityAt, setting.zone);
      return dayAfter(laterDay(active, visit.enteredDay), allowed);
    }
    case 'close_date_past': {
      const day = textValue(deal, 'close_date');
      return day === null ? null : Math.max(now, dayAfter(day, 0));
    }
    case 'no_next_action':
      return isEmpty(deal.values.next_action) ? now : null;
  }
}

const laterDay = (a: Day, b: Day): Day => (daysBetween(a, b) > 0 ? b : a);
