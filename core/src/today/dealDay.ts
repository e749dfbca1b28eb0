import type { Standing } from '../deals/finding.ts';
import type { Setting } from '../deals/setting.ts';
import { stepHolder } from '../deals/stepPerson.ts';
import type { StageId } from '../ids.ts';
import { convert, type Money, weightedMinor } from '../money/money.ts';
import { type Stage, stageOf } from '../processes/document.ts';
import { addDays, type Day } from '../time/day.ts';
import type { DayItem } from './dayItem.ts';

/** How many days ahead a day looks. */
export const DAYS_AHEAD = 14;

/** What is read of a deal to say what there is to do about it. */
export interface DealAtHand {
  readonly status: 'open' | 'won' | 'lost';
  readonly stage: StageId;
  readonly owner: string | null;
  readonly value: Money | null;
  readonly standing: Standing;
  /** Since when findings hold it, and how many; null where none does. */
  readonly held: { readonly since: Day; readonly findings: number } | null;
  readonly enteredDay: Day;
  readonly moveOnDay: Day | null;
  /** The day of its last activity. */
  readonly activeDay: Day | null;
  readonly nextAction: { readonly text: string; readonly day: Day } | null;
  /** Of a closed deal. */
  readonly followUp: Day | null;
  readonly runs: readonly RunAtHand[];
  readonly tasks: readonly TaskAtHand[];
  /** Requests that are to be decided. */
  readonly waivers: readonly WaiverAtHand[];
}

export interface WaiverAtHand {
  readonly request: number;
  readonly items: number;
  readonly askedBy: string | null;
  readonly askedDay: Day;
}

/** Someone who decides on waivers, where their role may. */
export interface Decider {
  readonly id: string;
  readonly role: string;
}

/** What of a deal's setting says what there is to do about it. */
export type DaySetting = Pick<Setting, 'document' | 'waiverRights'>;

export interface RunAtHand {
  readonly seq: number;
  readonly stage: StageId;
  readonly step: string;
  readonly name: string;
  readonly owed: 'no' | 'yes';
  readonly dueDay: Day | null;
  readonly assignee: string | null;
  /** The person who brought the deal to where the step is done. */
  readonly bringer: string | null;
}

export interface TaskAtHand {
  readonly seq: number;
  readonly title: string;
  readonly assignee: string | null;
  readonly dueDay: Day;
  readonly dueTime: string | null;
}

/** Everything that there is to do about a deal until `DAYS_AHEAD` days from today, for whoever decides on its waivers too. */
export const itemsOfDeal = (
  deal: DealAtHand,
  setting: DaySetting,
  today: Day,
  decider: Decider,
): readonly DayItem[] => [
  ...waiverItems(deal, setting, decider),
  ...itemsUntil(deal, setting, today, addDays(today, DAYS_AHEAD)),
];

/** The same until any day, waivers aside. */
export function itemsUntil(
  deal: DealAtHand,
  setting: Pick<Setting, 'document'>,
  today: Day,
  until: Day,
): readonly DayItem[] {
  const all = [...taskItems(deal), ...(deal.status === 'open' ? openItems(deal, setting, today) : closedItems(deal))];
  return all.filter((item) => item.kind === 'held' || item.dueDay === null || item.dueDay <= until);
}

/** Nobody decides on what they asked for themselves. */
const waiverItems = (
  { waivers }: DealAtHand,
  { waiverRights }: DaySetting,
  { id, role }: Decider,
): readonly DayItem[] =>
  (waiverRights.roles as readonly string[]).includes(role)
    ? waivers
        .filter(({ askedBy }) => askedBy !== id)
        .map(({ request, items, askedBy, askedDay }) => ({
          kind: 'waiver',
          request,
          items,
          askedBy,
          dueDay: askedDay,
          person: id,
        }))
    : [];

/** What the deal is worth on the ladder, in the organisation's currency; nothing where it is closed, or has no rate. */
export function weightOfDeal(
  { status, stage, value }: DealAtHand,
  { document, reportingCurrency, rateOf }: Pick<Setting, 'document' | 'reportingCurrency' | 'rateOf'>,
): number {
  const worth = value && convert(value, reportingCurrency, rateOf);
  if (!worth || status !== 'open') return 0;
  return weightedMinor(worth.minor, stageOf(document, stage)?.chance ?? 0);
}

const taskItems = ({ tasks }: DealAtHand): readonly DayItem[] =>
  tasks.map(({ seq, title, assignee, dueDay, dueTime }) => ({
    kind: 'task',
    task: seq,
    title,
    dueDay,
    dueTime,
    person: assignee,
  }));

const closedItems = ({ owner, followUp }: DealAtHand): readonly DayItem[] =>
  followUp === null ? [] : [{ kind: 'follow_up', dueDay: followUp, person: owner }];

function openItems(deal: DealAtHand, { document }: Pick<Setting, 'document'>, today: Day): readonly DayItem[] {
  const { owner: person, held, moveOnDay, nextAction } = deal;
  const isPast = moveOnDay !== null && moveOnDay < today;
  return [
    ...(held ? [{ kind: 'held', ...held, person } as const] : []),
    ...deal.runs.map((run) => stepItem(run, deal, document.stages)),
    ...(nextAction ? [{ kind: 'next_action', text: nextAction.text, dueDay: nextAction.day, person } as const] : []),
    ...(isPast ? [{ kind: 'past_target', dueDay: moveOnDay, person } as const] : []),
    ...idleItem(deal, stageOf(document, deal.stage), today),
  ];
}

function stepItem(run: RunAtHand, { owner }: DealAtHand, stages: readonly Stage[]): DayItem {
  const step = stages.find(({ id }) => id === run.stage)?.steps.find(({ id }) => id === run.step);
  return {
    kind: 'step',
    run: run.seq,
    name: step?.name ?? run.name,
    dueDay: run.dueDay,
    owed: run.owed,
    person: step ? stepHolder(step, { owner, assignee: run.assignee, bringer: run.bringer }) : run.assignee,
  };
}

function idleItem(
  { enteredDay, activeDay, owner: person }: DealAtHand,
  stage: Stage | undefined,
  today: Day,
): readonly DayItem[] {
  const allowedDays = stage?.idleDays ?? null;
  if (allowedDays === null) return [];
  const since = activeDay !== null && activeDay > enteredDay ? activeDay : enteredDay;
  const dueDay = addDays(since, allowedDays);
  return dueDay < today ? [{ kind: 'idle', dueDay, activeDay: since, allowedDays, person }] : [];
}
