import { createDeal } from '../commands/create.ts';
import type { Facts } from '../criteria/facts.ts';
import { personActor } from '../deals/actor.ts';
import type { Deal } from '../deals/deal.ts';
import type { Moment, Reason, Setting } from '../deals/setting.ts';
import { NO_ACTIVITY } from '../facts/activityKind.ts';
import { BUILT_IN_FIELDS, catalogueOf, type Field } from '../facts/field.ts';
import type { Values } from '../facts/value.ts';
import { changedRequirements } from '../gate/publish.ts';
import type { DealId, ProcessId, StageId, VersionId } from '../ids.ts';
import type { Exchange, Rate, RateOf } from '../money/money.ts';
import {
  DOCUMENT_FORMAT,
  type Outcome,
  type ProcessDocument,
  type Stage,
  USUAL_OUTCOMES,
} from '../processes/document.ts';
import { type HouseRules, NO_HOUSE_RULES } from '../processes/houseRules.ts';
import type { GateFacts } from '../requirements/item.ts';
import type { Requirement } from '../requirements/kinds.ts';
import { type TaskFates, USUAL_TASK_FATES } from '../tasks/task.ts';
import { MONDAY_TO_FRIDAY } from '../time/calendar.ts';
import { dayNumber } from '../time/day.ts';
import { USUAL_WAIVER_RIGHTS, type WaiverRights } from '../waivers/waiver.ts';

/** Tuesday 24 November 2026, ten in the morning in London. */
export const NOW = Date.UTC(2026, 10, 24, 10);
export const TODAY = dayNumber('2026-11-24');
export const DAY = 86_400_000;

export const FIELDS: readonly Field[] = [
  ...BUILT_IN_FIELDS,
  { id: 'area', name: 'Glazed area', holder: 'deal', type: 'number', unit: 'm²' },
  { id: 'survey', name: 'Survey date', holder: 'deal', type: 'date' },
  {
    id: 'crop',
    name: 'Crop',
    holder: 'deal',
    type: 'choice',
    choices: [
      { id: 'tomatoes', name: 'Tomatoes' },
      { id: 'herbs', name: 'Herbs' },
    ],
  },
  {
    id: 'group',
    name: 'Decision group',
    holder: 'deal',
    type: 'choices',
    choices: [
      { id: 'grower', name: 'Grower' },
      { id: 'signatory', name: 'Signatory' },
    ],
  },
  { id: 'paid', name: 'Deposit paid', holder: 'deal', type: 'yes_no' },
  { id: 'notes', name: 'Notes', holder: 'deal', type: 'text' },
  { id: 'cost', name: 'Build cost', holder: 'deal', type: 'money' },
  { id: 'credit', name: 'Credit checked', holder: 'customer', type: 'yes_no' },
];
export const CATALOGUE = catalogueOf(FIELDS);

export const factsOf = (values: Values, more: Partial<GateFacts> = {}): GateFacts & Facts => ({
  values,
  enteredDay: TODAY - 10,
  lastActivityDay: TODAY - 3,
  at: NOW,
  zone: 'Europe/London',
  today: TODAY,
  rateOf: () => undefined,
  currencyOf: { deal: 'GBP', customer: 'GBP', contact: 'GBP' },
  ticked: new Set(),
  closeDateMoves: 0,
  activityCounts: { ever: NO_ACTIVITY, stay: NO_ACTIVITY },
  documentCounts: {},
  stepsFinished: new Set(),
  stepResults: {},
  waived: new Set(),
  waivers: [],
  ...more,
});

export const stage = (id: string, more: Partial<Stage> = {}): Stage => ({
  id: id as StageId,
  name: id,
  purpose: '',
  chance: 50,
  target: { days: 10, counting: 'calendar' },
  idleDays: 7,
  enter: [],
  leave: [],
  checklist: [],
  steps: [],
  arrival: [],
  ...more,
});

export const needs = (id: string, field: string, more: Partial<Requirement> = {}): Requirement =>
  ({ id, level: 'hold', binds: 'must_stay', kind: 'field', field, ...more }) as Requirement;

export const documentOf = (stages: readonly Stage[], more: Partial<ProcessDocument> = {}): ProcessDocument => ({
  format: DOCUMENT_FORMAT,
  name: 'Test',
  purpose: '',
  kind: 'deal',
  currency: 'GBP',
  sections: [],
  skips: 'flag',
  returns: 'flag',
  stages,
  outcomes: USUAL_OUTCOMES.deal,
  taskSets: [],
  ...more,
});

/** Won and lost, won asking for this. */
export const wonAsking = (...requirements: readonly Requirement[]): readonly Outcome[] =>
  USUAL_OUTCOMES.deal.map((outcome) => (outcome.counts === 'won' ? { ...outcome, requirements } : outcome));

export const WON = { to: 'outcome', outcome: 'won' } as const;
export const LOST = { to: 'outcome', outcome: 'lost' } as const;

export const settingOf = (
  document: ProcessDocument,
  more: {
    houseRules?: HouseRules;
    reasons?: readonly Reason[];
    rateOf?: RateOf;
    taskFates?: TaskFates;
    waiverRights?: WaiverRights;
  } = {},
): Setting => ({
  version: 'v1' as VersionId,
  document,
  catalogue: CATALOGUE,
  houseRules: more.houseRules ?? NO_HOUSE_RULES,
  publishes: [],
  reasons: more.reasons ?? [],
  taskFates: more.taskFates ?? USUAL_TASK_FATES,
  waiverRights: more.waiverRights ?? USUAL_WAIVER_RIGHTS,
  calendar: MONDAY_TO_FRIDAY,
  zone: 'Europe/London',
  reportingCurrency: 'GBP',
  rateOf: more.rateOf ?? (() => undefined),
});

export const at = (happenedAt: number, by = 'priya'): Moment => ({
  by: personActor(by),
  happenedAt,
  recordedAt: happenedAt,
});

export const dealIn = (setting: Setting, values: Values = {}, moment: Moment = at(NOW)): Deal =>
  createDeal(
    {
      id: 'deal' as DealId,
      process: 'process' as ProcessId,
      externalId: null,
      name: 'Deal',
      stage: setting.document.stages[0]?.id ?? ('' as StageId),
      values: { owner: 'priya', ...values },
      partyValues: {},
    },
    setting,
    moment,
  ).deal;

/** Where a deal that follows `from` goes with a publish: the setting after it, which knows the grace that it gave. */
export const published = (from: Setting, to: Setting, graceUntil: number): Setting => ({
  ...to,
  publishes: [
    ...from.publishes,
    {
      version: to.version,
      graceUntil,
      changed: { [from.version]: changedRequirements(from.document, to.document) },
    },
  ],
});

/** A rate as it was set. */
export const rate = (value: string): Rate => ({ value, turned: 'no' });

/** Amounts count in pounds, and no rate is known. */
export const IN_POUNDS: Exchange = { currency: 'GBP', rateOf: () => undefined };

/** The value of a success; throws, with the error, where a command failed. */
export function must<T>(result: { ok: true; value: T } | { ok: false; error: unknown }): T {
  if (!result.ok) throw new Error(JSON.stringify(result.error));
  return result.value;
}
