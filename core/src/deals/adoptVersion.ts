import { owedItems } from '../compliance/owed.ts';
import { isOpen, judgeItem } from '../gate/verdict.ts';
import { askedBy } from '../processes/diff.ts';
import { stageOf } from '../processes/document.ts';
import { type Instant, localDay } from '../time/day.ts';
import { newVisit } from './create.ts';
import { type Deal, type PathStep, presentVisit } from './deal.ts';
import { dealFacts } from './dealFacts.ts';
import { moveRecord } from './moveRecord.ts';
import type { Change, DealRecord } from './record.ts';
import type { Moment, Setting } from './setting.ts';
import { journal, revised, settle } from './settle.ts';

export interface Adoption {
  readonly from: Setting;
  readonly to: Setting;
  /** Where deals go whose stage the new version no longer has, by the stage's id. */
  readonly transfers: Readonly<Record<string, string>>;
  readonly graceUntil: Instant;
}

/**
 * The deal moved over to a newer version (S28): its stay, ticks and due day are kept, a removed stage is left by a
 * transfer that measures do not count, and what fails only because of the new version flags until the grace ends.
 */
export function adoptVersion(deal: Deal, adoption: Adoption, moment: Moment): Change {
  const { from, to } = adoption;
  const { deal: moved, records } = leaveRemovedStage(deal, adoption, moment);
  const changed = changedRequirements(from, to);
  const adopted = revised({ ...moved, version: to.version });
  const grace = {
    until: adoption.graceUntil,
    requirements: newlyOpen(adopted, to, moment).filter((id) => changed.has(id)),
  };
  const body = { kind: 'version_changed', before: from.version, after: to.version } as const;
  return settle({ ...adopted, grace }, to, moment, [...records, journal(adopted, moment, body)]);
}

function changedRequirements(from: Setting, to: Setting): ReadonlySet<string> {
  const old = askedBy(from.document);
  return new Set([...askedBy(to.document)].filter(([id, { text }]) => old.get(id)?.text !== text).map(([id]) => id));
}

function newlyOpen(deal: Deal, setting: Setting, moment: Moment): readonly string[] {
  const facts = dealFacts(deal, setting, moment.happenedAt);
  return owedItems(deal, setting.document)
    .filter(({ item }) => isOpen(judgeItem(item, facts, setting.catalogue).state))
    .map(({ item }) => item.id);
}

function leaveRemovedStage(
  deal: Deal,
  adoption: Adoption,
  moment: Moment,
): { deal: Deal; records: readonly DealRecord[] } {
  const present = presentVisit(deal);
  const target = adoption.transfers[present.stage];
  if (stageOf(adoption.to.document, present.stage) || target === undefined) return { deal, records: [] };
  const step: PathStep = {
    seq: deal.moveCount + 1,
    kind: 'transfer',
    from: present.stage,
    to: target,
    over: [],
    owes: [],
    forced: 'no',
    at: moment.happenedAt,
    by: moment.by,
  };
  const left = { ...present, leftAt: moment.happenedAt, leftDay: localDay(moment.happenedAt, adoption.to.zone) };
  const visit = newVisit(deal.visits.length + 1, target, moment.happenedAt, step.seq, adoption.to);
  const move = moveRecord(deal, adoption.from, moment, step, { answer: 'passes', items: [] }, null);
  return {
    deal: {
      ...deal,
      moveCount: step.seq,
      attempt: null,
      path: [...deal.path, step],
      visits: [...deal.visits.map((old) => (old === present ? left : old)), visit],
    },
    records: [{ kind: 'move', move }],
  };
}
