import type { FieldType } from '../facts/field.ts';
import type { FactValue } from '../facts/value.ts';
import type { StageId } from '../ids.ts';
import type { Target } from '../time/calendar.ts';

/** More are rarely followed (common practice); the sheet says so. */
export const FEW_STEPS = 7;
/** More than this no stage takes. */
export const MOST_STEPS = 50;
export const MOST_RESULTS = 12;
export const MOST_ACTIONS = 20;
/** A step goes on by itself after a day at least, so that nothing can go round within an instant. */
export const MOST_WAIT_DAYS = 3_650;

/** Whom a step can fall to that is of a role; nobody's until one of them takes it. */
export const STEP_ROLES = ['seller', 'manager'] as const;
export type StepRole = (typeof STEP_ROLES)[number];

/** Who does a step (S52). */
export type StepWho =
  | { readonly by: 'owner' | 'bringer' }
  | { readonly by: 'person'; readonly person: string }
  | { readonly by: 'role'; readonly role: StepRole };
export const STEP_WHO = ['owner', 'bringer', 'person', 'role'] as const satisfies readonly StepWho['by'][];

/** From which day a due day counts (S51). */
export const DUE_AFTER = ['arrival', 'step_before'] as const;

/** So many days after the deal arrived in the stage, or after the step before ended; none is the same day. */
export interface StepDue extends Target {
  readonly after: (typeof DUE_AFTER)[number];
}

export const CAPTURE_NEEDS = ['must', 'may'] as const;

/** A field that is filled in the step. */
export interface Capture {
  readonly field: string;
  readonly need: (typeof CAPTURE_NEEDS)[number];
}

/** What comes after a result. */
export type Lead =
  | { readonly to: 'next' }
  /** The stage's steps are finished, and the deal stays, or moves on. */
  | { readonly to: 'finish' | 'move_on' }
  | { readonly to: 'step'; readonly step: string }
  | { readonly to: 'stage'; readonly stage: StageId }
  /** Closes the deal, with one of the process's reasons where one was named; the seller is asked for it otherwise. */
  | { readonly to: 'outcome'; readonly outcome: string; readonly reason: string | null };

/** What a field is set to: a value, the day on which the result is taken, or nothing. */
export type SetTo =
  | { readonly to: 'value'; readonly value: FactValue }
  | { readonly to: 'today' }
  | { readonly to: 'empty' };

/** A message is prepared of a template that the organisation keeps: to be confirmed by a person, or sent at once. */
export interface MessageAction {
  readonly do: 'message';
  /** The template's id. */
  readonly template: string;
  readonly how: MessageHow;
}

export const MESSAGE_HOWS = ['to_confirm', 'at_once'] as const;
export type MessageHow = (typeof MESSAGE_HOWS)[number];

/** What a result does beside leading on, in the same moment. */
export type ResultAction =
  | { readonly do: 'set_field'; readonly field: string; readonly set: SetTo }
  | { readonly do: 'tick'; readonly item: string }
  | { readonly do: 'note'; readonly text: string }
  | { readonly do: 'add_tasks'; readonly set: string }
  | MessageAction;

/** Fields of other types name people, teams and parties: they are changed by a person alone. */
export const SETTABLE_TYPES = [
  'text',
  'long_text',
  'number',
  'money',
  'date',
  'yes_no',
  'choice',
  'choices',
  'link',
] as const satisfies readonly FieldType[];

/** How a step can end. */
export interface StepResult {
  readonly id: string;
  readonly name: string;
  /** Whether the step's must fields have to be filled for it: nobody answers a call that was not taken. */
  readonly captures: 'asked' | 'not_asked';
  readonly leads: Lead;
  /** In the order in which they are carried out. */
  readonly actions: readonly ResultAction[];
}

/** A step that nobody ends goes on by itself: so many days after it began, the result is taken by the process (S53). */
export interface GoesOn {
  readonly days: number;
  readonly result: string;
}

/** Something that is done in a stage, by whom, by when and with which results. */
export interface GuidedStep {
  readonly id: string;
  readonly name: string;
  /** In Markdown. */
  readonly instruction: string;
  readonly who: StepWho;
  readonly due: StepDue | null;
  readonly captures: readonly Capture[];
  readonly results: readonly StepResult[];
  /** Null where it waits for someone. */
  readonly byItself: GoesOn | null;
  /** Whether a result of an earlier stay counts when the deal comes back, or the step is done again (S7). */
  readonly afterReturn: 'keep' | 'again';
}

/** A result as it is added: it leads to the next step. */
export const newResult = (named: { readonly id: string; readonly name: string }): StepResult => ({
  ...named,
  captures: 'asked',
  leads: { to: 'next' },
  actions: [],
});

/** A step as it is added: the deal's owner does it, and it is done. */
export const newStep = (
  id: string,
  name: string,
  result: { readonly id: string; readonly name: string },
): GuidedStep => ({
  id,
  name,
  instruction: '',
  who: { by: 'owner' },
  due: null,
  captures: [],
  results: [newResult(result)],
  byItself: null,
  afterReturn: 'keep',
});

/** What a result is called by where names are looked up: ids of results are unique in their step only. */
export const resultKey = (step: string, result: string): string => `${step}/${result}`;
