import { withCalculated } from '../facts/calculate.ts';
import { type FactValue, normaliseValue, type Values } from '../facts/value.ts';
import { stageOf } from '../processes/document.ts';
import { moveOnDay } from '../time/calendar.ts';
import { type Day, type Instant, localDay } from '../time/day.ts';
import { type Deal, NO_ACTIVITY, type PathStep, type Visit } from './deal.ts';
import { startRecord } from './moveRecord.ts';
import type { Change } from './record.ts';
import type { Moment, Setting } from './setting.ts';
import { journal, settle } from './settle.ts';

export interface NewDeal {
  readonly id: string;
  readonly process: string;
  readonly externalId: string | null;
  readonly name: string;
  readonly stage: string;
  readonly values: Values;
  readonly partyValues: Values;
}

/** History that an imported deal brings along. */
export interface ImportedHistory {
  readonly createdAt: Instant;
  readonly enteredAt: Instant;
  readonly lastActivityAt: Instant | null;
}

/** A new deal in a stage. Never refused for a gate: what is unmet becomes findings (S10). */
export function createDeal(input: NewDeal, setting: Setting, moment: Moment, history?: ImportedHistory): Change {
  const enteredAt = history?.enteredAt ?? moment.happenedAt;
  const visit = newVisit(1, input.stage, enteredAt, 1, setting);
  const start: PathStep = {
    seq: 1,
    kind: 'start',
    from: null,
    to: input.stage,
    over: [],
    owes: [],
    forced: 'no',
    at: enteredAt,
    by: moment.by,
  };
  const deal: Deal = {
    id: input.id,
    process: input.process,
    version: setting.version,
    externalId: input.externalId,
    name: input.name,
    status: { state: 'open' },
    values: cleanValues(input.values, setting),
    partyValues: input.partyValues,
    createdAt: history?.createdAt ?? moment.happenedAt,
    revision: 1,
    lastActivityAt: history?.lastActivityAt ?? null,
    activityCounts: NO_ACTIVITY,
    closeDateMoves: 0,
    moveCount: 1,
    path: [start],
    visits: [visit],
    ticks: [],
    findings: [],
    spans: [],
    waivers: [],
    attempt: null,
    grace: null,
  };
  const records = [
    journal(deal, moment, { kind: history ? 'imported' : 'created', stage: input.stage, name: input.name }),
    { kind: 'move', move: startRecord(deal, setting, { ...moment, happenedAt: enteredAt }) } as const,
  ];
  return settle(deal, setting, moment, records);
}

function cleanValues(values: Values, setting: Setting): Values {
  const clean: Record<string, FactValue> = {};
  for (const [field, value] of Object.entries(values)) clean[field] = normaliseValue(value);
  return withCalculated(clean, setting.catalogue);
}

/** A stay that begins at an instant, with the day by which it should end. */
export function newVisit(seq: number, stage: string, enteredAt: Instant, moveSeq: number, setting: Setting): Visit {
  const enteredDay: Day = localDay(enteredAt, setting.zone);
  const target = stageOf(setting.document, stage)?.target ?? null;
  return {
    seq,
    stage,
    enteredAt,
    enteredDay,
    leftAt: null,
    leftDay: null,
    moveSeq,
    takenBack: 'no',
    moveOnDay: target && moveOnDay(enteredDay, target, setting.calendar),
  };
}
