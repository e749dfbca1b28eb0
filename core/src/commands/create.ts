import { judgeBrought, rejudge } from '../compliance/rejudge.ts';
import type { Deal } from '../deals/deal.ts';
import { recalculated } from '../deals/exchange.ts';
import { keepVerdict, moveRecord, startVerdict } from '../deals/moveRecord.ts';
import type { PathStep } from '../deals/parts/path.ts';
import { BEGINNING } from '../deals/parts.ts';
import type { Change } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import type { DealLink } from '../events/dealLink.ts';
import { NO_ACTIVITY } from '../facts/activityKind.ts';
import { type FactValue, normaliseValue, type Values } from '../facts/value.ts';
import type { DealId, ProcessId, StageId } from '../ids.ts';
import { isOpen } from '../requirements/item.ts';
import type { Instant } from '../time/day.ts';
import { journal, judged } from './change.ts';
import { beginStay } from './stay.ts';
import { arrive } from './taskSets.ts';

export interface NewDeal {
  readonly id: DealId;
  readonly process: ProcessId;
  readonly externalId: string | null;
  readonly name: string;
  readonly stage: StageId;
  /** The process's where none is chosen. */
  readonly currency?: string;
  readonly values: Values;
  readonly partyValues: Values;
  /** A closed deal that it was begun from. */
  readonly from?: DealLink;
}

/** History that an imported deal brings along. */
export interface ImportedHistory {
  readonly createdAt: Instant;
  readonly enteredAt: Instant;
  readonly lastActivityAt: Instant | null;
}

/**
 * A new deal in a stage of the version. Never refused for a gate: what is unmet becomes findings (S10), those of time
 * since it became so by the history that it brings.
 */
export function createDeal(input: NewDeal, setting: Setting, moment: Moment, history?: ImportedHistory): Change {
  const enteredAt = Math.min(history?.enteredAt ?? moment.happenedAt, moment.recordedAt);
  const entered = { ...moment, happenedAt: enteredAt };
  const bare = bareDeal(input, setting, moment, history);
  const standing = beginStay(bare, input.stage, 1, { at: enteredAt, by: moment.by }, setting);
  const verdict = startVerdict(standing, input.stage, setting, entered);
  const open = verdict.items.flatMap(({ item, state }) => (isOpen(state) && item.binds === 'at_move' ? [item.id] : []));
  const start = startStep(input.stage, open, entered);
  const deal: Deal = { ...standing, path: [start] };
  const records = [
    journal(deal, moment, { kind: history ? 'imported' : 'created', stage: input.stage, name: input.name }),
    ...(input.from ? [journal(deal, moment, { kind: 'begun_from', from: input.from })] : []),
    { kind: 'move', move: moveRecord(deal, setting, entered, start, keepVerdict(verdict), null) } as const,
  ];
  // What an import brings has arrived long ago.
  const arrived = history ? { deal, records: [] } : arrive(deal, input.stage, 1, setting, moment);
  return {
    deal: judged(arrived.deal, setting, moment, history ? judgeBrought : rejudge),
    records: [...records, ...arrived.records],
  };
}

const startStep = (stage: StageId, flagged: readonly string[], { happenedAt, by }: Moment): PathStep => ({
  seq: 1,
  kind: 'start',
  from: null,
  to: stage,
  over: [],
  owes: [],
  skipped: [],
  flagged,
  graceUntil: null,
  forced: 'no',
  at: happenedAt,
  by,
});

function bareDeal(input: NewDeal, setting: Setting, moment: Moment, history: ImportedHistory | undefined): Deal {
  const deal: Deal = {
    ...BEGINNING,
    id: input.id,
    process: input.process,
    version: setting.version,
    externalId: input.externalId,
    name: input.name,
    status: { state: 'open' },
    currency: input.currency ?? setting.document.currency,
    values: cleanValues(input.values),
    partyValues: input.partyValues,
    createdAt: history?.createdAt ?? moment.happenedAt,
    revision: 1,
    lastActivityAt: history?.lastActivityAt ?? null,
    activityCounts: NO_ACTIVITY,
    closeDateMoves: 0,
    settledAt: moment.recordedAt,
  };
  return recalculated(deal, setting);
}

function cleanValues(values: Values): Values {
  const clean: Record<string, FactValue> = {};
  for (const [field, value] of Object.entries(values)) clean[field] = normaliseValue(value);
  return clean;
}
