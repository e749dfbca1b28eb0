import type { NameOf, Piece } from '../criteria/phrase.ts';
import { dateText } from '../criteria/phrase.ts';
import type { DealWith } from '../deals/deal.ts';
import { dealFacts } from '../deals/dealFacts.ts';
import type { Finding } from '../deals/finding.ts';
import { textValue } from '../deals/parts/values.ts';
import { presentVisit } from '../deals/parts/visits.ts';
import type { FactPartName } from '../deals/parts.ts';
import type { Setting } from '../deals/setting.ts';
import { itemsOf } from '../gate/item.ts';
import { stageOf } from '../processes/document.ts';
import { namesWith } from '../processes/documentNames.ts';
import { describeActual, describeItem } from '../requirements/describeItem.ts';
import { judgeItem } from '../requirements/judgeItem.ts';
import { type Instant, localDay } from '../time/day.ts';

/** What a finding is told from. */
export type ToldDeal = DealWith<FactPartName | 'path'>;

export interface FindingWords {
  /** What is needed. */
  readonly says: readonly Piece[];
  /** What is so instead. */
  readonly actual: string | null;
}

const strong = (text: string): Piece => ({ text, strong: true });
const plain = (text: string): Piece => ({ text, strong: false });

/** A finding in words, with the actual value as it is at the instant. */
export function describeFinding(
  finding: Finding,
  deal: ToldDeal,
  setting: Setting,
  at: Instant,
  nameOf: NameOf,
): FindingWords {
  if (finding.requirement !== null) return describeRequirement(finding.requirement, deal, setting, at, nameOf);
  switch (finding.kind) {
    case 'past_target':
      return {
        says: [strong('Move on'), plain(' by '), strong(dayOr(presentVisit(deal).moveOnDay))],
        actual: 'still there',
      };
    case 'idle':
      return { says: idleWords(deal, setting), actual: lastActive(deal, setting) };
    case 'close_date_past':
      return { says: [strong('Close date'), plain(' is not past')], actual: dayOr(textValue(deal, 'close_date')) };
    case 'no_next_action':
      return { says: [strong('Next action'), plain(' is filled')], actual: 'not filled' };
    case 'step_late':
      return lateWords(finding, deal);
    case 'skipped':
    case 'returned':
    case 'forced':
    case 'on_waiver':
      return { says: entryWords(finding, deal, setting), actual: null };
  }
}

function describeRequirement(
  requirement: string,
  deal: ToldDeal,
  setting: Setting,
  at: Instant,
  nameOf: NameOf,
): FindingWords {
  const item = itemsOf(setting.document).get(requirement);
  if (!item) return { says: [plain('A requirement that the process no longer has')], actual: null };
  const names = namesWith(setting.document, nameOf);
  const verdict = judgeItem(item, dealFacts(deal, setting, at), setting.catalogue);
  return {
    says: describeItem(item, setting.catalogue, names),
    actual: describeActual(verdict, setting.catalogue, names),
  };
}

const dayOr = (day: string | null): string => (day === null ? 'no day' : dateText(day));

function lateWords({ key }: Finding, deal: ToldDeal): FindingWords {
  const run = deal.runs.find(({ seq }) => key === `house:step_late:${seq}`);
  return {
    says: [strong(run?.name ?? 'A step'), plain(' is done by '), strong(dayOr(run?.dueDay ?? null))],
    actual: 'still to do',
  };
}

function idleWords(deal: ToldDeal, setting: Setting): readonly Piece[] {
  const days = stageOf(setting.document, presentVisit(deal).stage)?.idleDays;
  return [strong('Something happens'), plain(' at least every '), strong(days === 1 ? 'day' : `${days ?? '…'} days`)];
}

const lastActive = (deal: ToldDeal, setting: Setting): string =>
  deal.lastActivityAt === null ? 'nothing yet' : `last on ${dateText(localDay(deal.lastActivityAt, setting.zone))}`;

function entryWords(finding: Finding, deal: ToldDeal, setting: Setting): readonly Piece[] {
  const step = deal.path.find(({ seq }) => finding.key === `${finding.kind}:${seq}`);
  const names = (step?.over ?? []).map((id) => stageOf(setting.document, id)?.name ?? id).join(', ');
  if (finding.kind === 'skipped') return [strong(names), plain(' was skipped, and what it asks is owed')];
  if (finding.kind === 'on_waiver') return [strong('Passed on a waiver'), plain(': what was waived is met')];
  if (finding.kind === 'forced') return [strong('Forced move'), plain(': what its gate asked is met')];
  return [strong('Came back'), plain(` from ${stageOf(setting.document, step?.from ?? '')?.name ?? 'a later stage'}`)];
}
