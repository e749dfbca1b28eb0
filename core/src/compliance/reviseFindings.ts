import { type Finding, standsAt } from '../deals/finding.ts';
import type { Instant } from '../time/day.ts';

/**
 * The kept findings brought in line with what is expected from `now` on. What has ended stays as it was; what stands
 * and is still expected keeps the instant since which it is so; what is new begins at `now`, with the change that brought
 * it, however long its cause lies back (S20); the expected future replaces the kept one.
 */
export function reviseFindings(
  kept: readonly Finding[],
  expected: readonly Finding[],
  now: Instant,
): readonly Finding[] {
  const past = kept.filter(({ closedAt }) => closedAt <= now);
  const keys = new Set([...kept.filter((finding) => standsAt(finding, now)), ...expected].map(({ key }) => key));
  const revised = [...keys].flatMap((key) => {
    const current = kept.find((finding) => finding.key === key && standsAt(finding, now));
    const next = expected.filter((finding) => finding.key === key && finding.closedAt > now);
    return reviseOne(current, next, now);
  });
  return [...past, ...revised.map((finding) => kept.find((known) => isSame(known, finding)) ?? finding)];
}

function reviseOne(current: Finding | undefined, next: readonly Finding[], now: Instant): readonly Finding[] {
  const present = next.find((finding) => standsAt(finding, now));
  const later = next.filter(({ openedAt }) => openedAt > now);
  if (current && present && sameMatter(current, present)) return [withEnd(current, present.closedAt), ...later];
  const ended = current && current.openedAt < now ? [withEnd(current, now)] : [];
  const opened = present ? [{ ...present, openedAt: now }] : [];
  return [...ended, ...opened, ...later];
}

const sameMatter = (a: Finding, b: Finding): boolean =>
  a.kind === b.kind && a.level === b.level && a.origin === b.origin && a.askedBy === b.askedBy;

/** What is expected as it was before stays the very same object, so that the writer sees what to write. */
const isSame = (a: Finding, b: Finding): boolean =>
  a.key === b.key && a.openedAt === b.openedAt && a.closedAt === b.closedAt && sameMatter(a, b);

const withEnd = (finding: Finding, closedAt: Instant): Finding =>
  finding.closedAt === closedAt ? finding : { ...finding, closedAt };
