import { dateText, type Piece, valueText } from '../criteria/phrase.ts';
import type { FactValue } from '../facts/value.ts';
import type { StageId } from '../ids.ts';
import type { Shape } from '../shape.ts';
import type { Day } from '../time/day.ts';
import { type EventKind, type EventWords, plain, strong } from './event.ts';

interface FieldChange {
  readonly field: string;
  readonly before: FactValue;
  readonly after: FactValue;
}

/** A run of a guided step, named as it was called then. */
export interface StepNamed {
  readonly run: number;
  readonly name: string;
}

const edited: EventKind<'edited', { readonly changes: readonly FieldChange[]; readonly step?: StepNamed }> = {
  kind: 'edited',
  shape: {
    changes: {
      is: 'list',
      of: { is: 'parts', of: { field: { is: 'key' }, before: { is: 'fact' }, after: { is: 'fact' } } },
    },
    step: { is: 'maybe', of: { is: 'parts', of: { run: { is: 'count' }, name: { is: 'name' } } } },
  },
  says: ({ changes, step }, words) => [
    ...changes.flatMap((change, place) => [...(place > 0 ? [plain(' · ')] : []), ...changeWords(change, words)]),
    ...(step ? [plain(`, in ${step.name}`)] : []),
  ],
};

function changeWords({ field: id, before, after }: FieldChange, { catalogue, nameOf }: EventWords): readonly Piece[] {
  const field = catalogue.get(id);
  const show = (value: FactValue): string => valueText(value, field, nameOf);
  return [strong(field?.name ?? 'A field that is gone'), plain(` ${show(before)} → ${show(after)}`)];
}

const renamed: EventKind<'renamed', { readonly before: string; readonly after: string }> = {
  kind: 'renamed',
  shape: { before: { is: 'name' }, after: { is: 'name' } },
  says: ({ before, after }) => [strong('Name'), plain(` ${before} → ${after}`)],
};

interface Ticking {
  readonly item: string;
  readonly stage: StageId | null;
  readonly text: string;
}

const ticking = <Kind extends 'ticked' | 'unticked'>(kind: Kind): EventKind<Kind, Ticking> => ({
  kind,
  shape: {
    item: { is: 'key' },
    stage: { is: 'or_none', of: { is: 'key' } },
    text: { is: 'words', most: 2000 },
  },
  says: ({ text }) => [strong(text), plain(` ${kind}`)],
});

const ticked = ticking('ticked');
const unticked = ticking('unticked');

const followUpChanged: EventKind<'follow_up_changed', { readonly before: Day | null; readonly after: Day | null }> = {
  kind: 'follow_up_changed',
  shape: { before: { is: 'or_none', of: { is: 'day' } }, after: { is: 'or_none', of: { is: 'day' } } },
  says: ({ before, after }) => [strong('Follow-up'), plain(` ${dayText(before)} → ${dayText(after)}`)],
};

const dayText = (day: Day | null): string => (day === null ? 'none' : dateText(day));

interface Came {
  readonly before: string | null;
  readonly after: string | null;
}

interface Reassigned {
  readonly owner: Came;
  readonly team: Came;
  /** How many open ones went along. */
  readonly tasks: number;
  readonly steps: number;
}

const CAME: Shape = {
  is: 'parts',
  of: { before: { is: 'or_none', of: { is: 'id' } }, after: { is: 'or_none', of: { is: 'id' } } },
};

const reassigned: EventKind<'reassigned', Reassigned> = {
  kind: 'reassigned',
  shape: { owner: CAME, team: CAME, tasks: { is: 'tally' }, steps: { is: 'tally' } },
  says: ({ owner, team, tasks, steps }, { nameOf }) => {
    const name = (id: string | null): string => (id === null ? 'nobody' : (nameOf(id) ?? 'someone'));
    const along = [
      ...(tasks > 0 ? [tasks === 1 ? '1 task' : `${tasks} tasks`] : []),
      ...(steps > 0 ? [steps === 1 ? '1 step' : `${steps} steps`] : []),
    ];
    return [
      ...(owner.before === owner.after
        ? []
        : [strong('Owner'), plain(` ${name(owner.before)} → ${name(owner.after)}`)]),
      ...(team.before === team.after ? [] : [plain(`, team ${name(team.before)} → ${name(team.after)}`)]),
      ...(along.length > 0 ? [plain(`, with ${along.join(' and ')}`)] : []),
    ];
  },
};

interface Recounted {
  /** Name of the calendar. */
  readonly calendar: string;
  readonly moveOn?: { readonly before: Day; readonly after: Day };
  readonly steps: readonly (StepNamed & { readonly before: Day; readonly after: Day })[];
  readonly tasks: readonly { readonly task: number; readonly before: Day; readonly after: Day }[];
}

const FROM_TO = { before: { is: 'day' }, after: { is: 'day' } } as const;

/** Days that are counted in working days, after the calendar was changed (S27). */
const daysRecounted: EventKind<'days_recounted', Recounted> = {
  kind: 'days_recounted',
  shape: {
    calendar: { is: 'name' },
    moveOn: { is: 'maybe', of: { is: 'parts', of: FROM_TO } },
    steps: {
      is: 'list',
      of: { is: 'parts', of: { run: { is: 'count' }, name: { is: 'name' }, ...FROM_TO } },
    },
    tasks: { is: 'list', of: { is: 'parts', of: { task: { is: 'count' }, ...FROM_TO } } },
  },
  says: ({ calendar, moveOn, steps, tasks }) => {
    const fromTo = ({ before, after }: { before: Day; after: Day }) => ` ${dateText(before)} → ${dateText(after)}`;
    const parts = [
      ...(moveOn ? [`move on by${fromTo(moveOn)}`] : []),
      ...steps.map((step) => `${step.name} due${fromTo(step)}`),
      ...tasks.map((task) => `a task due${fromTo(task)}`),
    ];
    return [strong('Days counted anew'), plain(` by ${calendar}: ${parts.join('; ')}`)];
  },
};

export const EDIT_EVENTS = [edited, renamed, ticked, unticked, followUpChanged, reassigned, daysRecounted] as const;
