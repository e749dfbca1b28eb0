import { dateText, type Piece, valueText } from '../criteria/phrase.ts';
import type { FactValue } from '../facts/value.ts';
import type { StageId } from '../ids.ts';
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

export const EDIT_EVENTS = [edited, renamed, ticked, unticked, followUpChanged] as const;
