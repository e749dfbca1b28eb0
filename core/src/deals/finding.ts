import type { HouseRule } from '../processes/houseRules.ts';
import type { Level } from '../requirements/item.ts';
import { REQUIREMENT_KINDS, type RequirementFindingKind } from '../requirements/kinds.ts';
import type { Instant } from '../time/day.ts';

const REQUIREMENT_NAMES = Object.fromEntries(
  REQUIREMENT_KINDS.map(({ finding }) => [finding.kind, finding.name]),
) as Readonly<Record<RequirementFindingKind, string>>;

const HOUSE_RULE_NAMES: Readonly<Record<HouseRule, string>> = {
  past_target: 'Past target',
  idle: 'Idle',
  close_date_past: 'Close date past',
  no_next_action: 'No next action',
  step_late: 'Step late',
};

/** How a deal entered its stage (S17). */
const ENTRY_NAMES = {
  skipped: 'Stage skipped',
  returned: 'Came back',
  forced: 'Forced',
  on_waiver: 'On a waiver',
} as const;
export type EntryKind = keyof typeof ENTRY_NAMES;

/** Every way in which a deal can fail to comply, in the order in which it is shown, and how it is called. */
export const FINDING_NAMES = {
  ...REQUIREMENT_NAMES,
  gate_changed: 'Gate changed',
  ...HOUSE_RULE_NAMES,
  ...ENTRY_NAMES,
} as const;
export type FindingKind = keyof typeof FINDING_NAMES;
export const FINDING_KINDS = Object.keys(FINDING_NAMES) as readonly FindingKind[];

/** Why an unmet requirement is a finding already. */
export const FINDING_ORIGINS = ['owed', 'refused', 'entry', 'house_rule'] as const;
export type FindingOrigin = (typeof FINDING_ORIGINS)[number];

/** The end of a finding that nothing yet ends. */
export const OPEN_ENDED: Instant = Number.POSITIVE_INFINITY;

interface FindingBase {
  /** What it is about, unique among the findings of a deal that overlap in time. */
  readonly key: string;
  readonly level: Level;
  readonly origin: FindingOrigin;
  /** The stage that asks for it. */
  readonly askedBy: string | null;
  readonly openedAt: Instant;
  readonly closedAt: Instant;
}

/** What is found about a requirement; what fails only because of a publish says so. */
export interface RequirementFinding extends FindingBase {
  readonly kind: RequirementFindingKind | 'gate_changed';
  readonly requirement: string;
}

interface OtherFinding extends FindingBase {
  readonly kind: HouseRule | EntryKind;
  readonly requirement: null;
}

/**
 * One way in which a deal did not comply, from `openedAt` up to and without `closedAt`. Both may lie in the future,
 * where only the clock decides: a reading as of T compares with them (S20).
 */
export type Finding = RequirementFinding | OtherFinding;

/** Whether the finding stands at the instant. */
export const standsAt = (finding: Finding, at: Instant): boolean => finding.openedAt <= at && at < finding.closedAt;

export const STANDINGS = ['clear', 'flagged', 'held'] as const;
export type Standing = (typeof STANDINGS)[number];

/** A deal's standing at the instant: the one definition that every screen, report and query uses (S16). */
export function standingAt(findings: readonly Finding[], at: Instant): Standing {
  const open = findings.filter((finding) => standsAt(finding, at));
  if (open.some(({ level }) => level === 'hold')) return 'held';
  return open.length > 0 ? 'flagged' : 'clear';
}
