import { isMoney } from '../facts/value.ts';
import { itemsToEnter } from '../gate/item.ts';
import { judgeGate, type KeptVerdict, type Verdict } from '../gate/verdict.ts';
import { convert, isCurrency } from '../money/money.ts';
import { stageOf } from '../processes/document.ts';
import { daysBetween, localDay } from '../time/day.ts';
import type { Deal } from './deal.ts';
import { dealFacts, snapshotOf } from './dealFacts.ts';
import type { PathStep } from './parts/path.ts';
import { textValue } from './parts/values.ts';
import { presentVisit } from './parts/visits.ts';
import type { MoveRecord } from './record.ts';
import type { Moment, Setting } from './setting.ts';

/** A verdict reduced to what is kept with the move. */
export const keepVerdict = ({ answer, items }: Verdict): KeptVerdict => ({
  answer,
  items: items.map(({ item, state }) => ({ id: item.id, level: item.level, state, passedOver: item.passedOver })),
});

/** The record of a move that `deal`, as it was before, makes at the moment (S23, S32). */
export function moveRecord(
  deal: Deal,
  setting: Setting,
  moment: Moment,
  step: PathStep,
  verdict: KeptVerdict,
  reason: string | null,
): MoveRecord {
  const day = localDay(moment.happenedAt, setting.zone);
  const visit = presentVisit(deal);
  const value = isMoney(deal.values.value) ? deal.values.value : null;
  return {
    seq: step.seq,
    kind: step.kind,
    from: step.from,
    to: step.to,
    outcome: step.outcome ?? null,
    over: step.over,
    happenedAt: moment.happenedAt,
    recordedAt: moment.recordedAt,
    day,
    stayDays: step.from === null ? null : daysBetween(visit.enteredDay, day),
    targetDays: step.from === null || visit.moveOnDay === null ? null : daysBetween(visit.enteredDay, visit.moveOnDay),
    by: moment.by,
    forced: step.forced,
    reason,
    version: setting.version,
    owner: textValue(deal, 'owner'),
    team: textValue(deal, 'team'),
    source: textValue(deal, 'source'),
    value,
    reportingMinor: reportingMinor(value, setting),
    verdict,
    snapshot: snapshotOf(deal, setting, moment.happenedAt),
  };
}

/** What the stage where a deal begins asks to enter, as its first move keeps it. */
export function startVerdict(deal: Deal, stageId: string, setting: Setting, moment: Moment): Verdict {
  const stage = stageOf(setting.document, stageId);
  const items = (stage ? itemsToEnter(stage) : []).map((item) => ({ ...item, passedOver: false }));
  return judgeGate(items, dealFacts(deal, setting, moment.happenedAt), setting.catalogue);
}

function reportingMinor(value: MoveRecord['value'], setting: Setting): number | null {
  if (!value || !isCurrency(setting.reportingCurrency)) return null;
  return convert(value, setting.reportingCurrency, setting.rateOf)?.minor ?? null;
}
