import type { Day } from '../time/day.ts';

/** Why a deal is on somebody's day. */
export const DAY_ITEM_KINDS = [
  'held',
  'waiver',
  'step',
  'task',
  'next_action',
  'follow_up',
  'past_target',
  'idle',
] as const;
export type DayItemKind = (typeof DAY_ITEM_KINDS)[number];

interface OfSomeone {
  /** To whom it falls; null where it is nobody's. */
  readonly person: string | null;
}

/** A guided step at hand. */
export interface StepItem extends OfSomeone {
  readonly kind: 'step';
  readonly run: number;
  readonly name: string;
  /** Null where it is due on no day. */
  readonly dueDay: Day | null;
  readonly owed: 'no' | 'yes';
}

export interface TaskItem extends OfSomeone {
  readonly kind: 'task';
  readonly task: number;
  readonly title: string;
  readonly dueDay: Day;
  readonly dueTime: string | null;
}

/** What somebody said that they would do next, and when. */
export interface NextActionItem extends OfSomeone {
  readonly kind: 'next_action';
  readonly text: string;
  readonly dueDay: Day;
}

/** A closed deal that is to be looked at again. */
export interface FollowUpItem extends OfSomeone {
  readonly kind: 'follow_up';
  readonly dueDay: Day;
}

/** A finding holds the deal. */
export interface HeldItem extends OfSomeone {
  readonly kind: 'held';
  readonly since: Day;
  readonly findings: number;
}

/** A waiver that somebody asked for, to be decided from the day on which it was asked. */
export interface WaiverItem extends OfSomeone {
  readonly kind: 'waiver';
  readonly request: number;
  /** How many requirements it is for. */
  readonly items: number;
  readonly askedBy: string | null;
  readonly dueDay: Day;
}

/** Longer in its stage than its target. */
export interface PastTargetItem extends OfSomeone {
  readonly kind: 'past_target';
  readonly dueDay: Day;
}

/** No activity for longer than its stage allows. */
export interface IdleItem extends OfSomeone {
  readonly kind: 'idle';
  /** The last day on which it was not. */
  readonly dueDay: Day;
  readonly activeDay: Day;
  readonly allowedDays: number;
}

export type DayItem =
  | StepItem
  | WaiverItem
  | TaskItem
  | NextActionItem
  | FollowUpItem
  | HeldItem
  | PastTargetItem
  | IdleItem;
