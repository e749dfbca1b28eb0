import type { Level } from '../processes/document.ts';
import type { Instant } from '../time/day.ts';

/** Every way in which a deal can fail to comply, in the order in which it is shown. */
export const FINDING_KINDS = [
  'criterion',
  'field',
  'checklist',
  'gate_changed',
  'past_target',
  'idle',
  'close_date_past',
  'no_next_action',
  'skipped',
  'returned',
  'forced',
] as const;
export type FindingKind = (typeof FINDING_KINDS)[number];

/** Why an unmet requirement is a finding already. */
export type FindingOrigin = 'owed' | 'refused' | 'entry' | 'house_rule';

/** The end of a finding that nothing yet ends. */
export const OPEN_ENDED: Instant = Number.POSITIVE_INFINITY;

/**
 * One way in which a deal did not comply, from `openedAt` up to and without `closedAt`. Both may lie in the future,
 * where only the clock decides: a reading as of T compares with them (S20).
 */
export interface Finding {
  /** What it is about, unique among the findings of a deal that overlap in time. */
  readonly key: string;
  readonly kind: FindingKind;
  readonly level: Level;
  readonly origin: FindingOrigin;
  readonly requirement: string | null;
  /** The stage that asks for it. */
  readonly askedBy: string | null;
  readonly openedAt: Instant;
  readonly closedAt: Instant;
}

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
