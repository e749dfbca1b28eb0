import { canonicalText } from '../canonicalText.ts';
import type { FieldSection, Outcome, ProcessDocument, Stage } from './document.ts';

/** A part of a draft that is one person's or another's as a whole. */
export type DraftPart = 'stage' | 'outcome' | 'task_set' | 'purpose' | 'rules' | 'fields' | 'order';

/** A part that two people have changed, each otherwise. */
export interface DraftConflict {
  readonly key: string;
  readonly part: DraftPart;
  /** The stage, outcome or set of tasks. */
  readonly id: string | null;
  readonly name: string | null;
  /** Whether both can be kept beside each other. */
  readonly both: 'possible' | 'impossible';
}

export const CONFLICT_CHOICES = ['mine', 'theirs', 'both'] as const;
export type ConflictChoice = (typeof CONFLICT_CHOICES)[number];

export interface Merged {
  readonly document: ProcessDocument;
  readonly conflicts: readonly DraftConflict[];
  /** Keys of the parts that are as the other left them. */
  readonly taken: readonly string[];
}

interface Named {
  readonly id: string;
  readonly name: string;
}

/**
 * Two drafts that came from one: what either changed alone is as they left it, part by part. What both changed is a conflict,
 * settled by `choices` (by its key); where nothing is chosen, mine stands in the document.
 *
 * @param newKey makes ids for requirements and items of which both forms are kept
 */
export function mergeDrafts(
  base: ProcessDocument,
  mine: ProcessDocument,
  theirs: ProcessDocument,
  choices: Readonly<Record<string, ConflictChoice>>,
  newKey: () => string,
): Merged {
  const conflicts: DraftConflict[] = [];
  const taken: string[] = [];
  const settle = <Value>(
    told: Omit<DraftConflict, 'both'>,
    [was, ours, other]: readonly [Value, Value, Value],
    both: ((ours: Value, other: Value) => Value) | null,
  ): Value => {
    const [before, here, there] = [was, ours, other].map((value) => canonicalText(value ?? null));
    if (here === there || there === before) return ours;
    if (here === before) {
      taken.push(told.key);
      return other;
    }
    conflicts.push({ ...told, both: both ? 'possible' : 'impossible' });
    const choice = choices[told.key] ?? 'mine';
    if (choice === 'theirs') return other;
    return choice === 'both' && both ? both(ours, other) : ours;
  };
  const whole = <Value>(
    part: DraftPart,
    read: (document: ProcessDocument) => Value,
    both: ((a: Value, b: Value) => Value) | null,
  ): Value => settle({ key: part, part, id: null, name: null }, [read(base), read(mine), read(theirs)], both);
  const list = <Thing extends Named>(
    part: DraftPart,
    read: (document: ProcessDocument) => readonly Thing[],
    both: (ours: Thing, other: Thing) => Thing,
  ): readonly Thing[] => {
    const of = (document: ProcessDocument, id: string): Thing | undefined =>
      read(document).find((thing) => thing.id === id);
    const ids = [...new Set([base, mine, theirs].flatMap((document) => read(document).map(({ id }) => id)))];
    const kept = ids.flatMap((id) => {
      const forms = [of(base, id), of(mine, id), of(theirs, id)] as const;
      const told = { key: `${part} ${id}`, part, id, name: (forms[1] ?? forms[2] ?? forms[0])?.name ?? null };
      return (
        settle<Thing | undefined>(told, forms, (ours, other) =>
          ours && other ? both(ours, other) : (ours ?? other),
        ) ?? []
      );
    });
    const order = orderOf(read, part, kept);
    return order.flatMap((id) => kept.find((thing) => thing.id === id) ?? []);
  };
  const orderOf = <Thing extends Named>(
    read: (document: ProcessDocument) => readonly Thing[],
    part: DraftPart,
    kept: readonly Thing[],
  ): readonly string[] => {
    const common = (document: ProcessDocument): readonly string[] =>
      read(document).flatMap(({ id }) =>
        [base, mine, theirs].every((one) => read(one).some((thing) => thing.id === id)) ? [id] : [],
      );
    const key = part === 'stage' ? 'order' : `order ${part}`;
    const order = settle(
      { key, part: 'order', id: null, name: null },
      [common(base), common(mine), common(theirs)],
      null,
    );
    const isTheirs =
      canonicalText(order) === canonicalText(common(theirs)) && canonicalText(order) !== canonicalText(common(mine));
    const [first, second] = isTheirs ? [theirs, mine] : [mine, theirs];
    return woven([read(first), read(second), kept].map((things) => things.map(({ id }) => id)));
  };
  const purpose = whole(
    'purpose',
    (document) => document.purpose,
    (ours, other) => [ours, other].filter((text) => text !== '').join(' '),
  );
  const { skips, returns } = whole('rules', (document) => ({ skips: document.skips, returns: document.returns }), null);
  const sections = whole('fields', (document) => document.sections, bothSections);
  const stages = list(
    'stage',
    (document) => document.stages,
    (ours, other) => bothStages(ours, other, newKey),
  );
  // Each may have taken out what the other left.
  const some = stages.length > 0 ? stages : mine.stages;
  const outcomes = list(
    'outcome',
    (document) => document.outcomes,
    (ours, other): Outcome => ({
      ...ours,
      requirements: bothLists(ours.requirements, other.requirements, newKey),
    }),
  );
  const taskSets = list(
    'task_set',
    (document) => document.taskSets,
    (ours, other) => ({
      ...ours,
      tasks: [...ours.tasks, ...other.tasks.filter(({ id }) => !ours.tasks.some((task) => task.id === id))],
    }),
  );
  return {
    document: { ...mine, purpose, skips, returns, sections, stages: some, outcomes, taskSets },
    conflicts,
    taken,
  };
}

function bothSections(ours: readonly FieldSection[], other: readonly FieldSection[]): readonly FieldSection[] {
  const known = new Set(ours.flatMap(({ fields }) => fields));
  const beside = (id: string): readonly string[] =>
    (other.find((section) => section.id === id)?.fields ?? []).filter((field) => !known.has(field));
  return [
    ...ours.map((section) => ({ ...section, fields: [...section.fields, ...beside(section.id)] })),
    ...other.filter(({ id }) => !ours.some((section) => section.id === id)),
  ];
}

/** One order of all: the first's, with what only the others have after what it follows there. */
function woven(orders: readonly (readonly string[])[]): readonly string[] {
  const [first = [], ...others] = orders;
  const all = [...first];
  for (const order of others)
    order.forEach((id, place) => {
      if (all.includes(id)) return;
      const followed = order.slice(0, place).findLast((before) => all.includes(before));
      all.splice(followed === undefined ? 0 : all.indexOf(followed) + 1, 0, id);
    });
  return all;
}

/** A stage as one person left it, with whatever the other asks or does otherwise beside it. */
const bothStages = (ours: Stage, other: Stage, newKey: () => string): Stage => ({
  ...ours,
  enter: bothLists(ours.enter, other.enter, newKey),
  leave: bothLists(ours.leave, other.leave, newKey),
  checklist: bothLists(ours.checklist, other.checklist, newKey),
  steps: [
    ...ours.steps,
    ...other.steps.filter((step) => !ours.steps.some(({ id, name }) => id === step.id || name === step.name)),
  ],
  arrival: [
    ...ours.arrival,
    ...other.arrival.filter((one) => !ours.arrival.some((known) => canonicalText(known) === canonicalText(one))),
  ],
});

function bothLists<Thing extends { readonly id: string }>(
  ours: readonly Thing[],
  other: readonly Thing[],
  newKey: () => string,
): readonly Thing[] {
  const beside = other.flatMap((thing) => {
    const known = ours.find(({ id }) => id === thing.id);
    if (!known) return [thing];
    return canonicalText(known) === canonicalText(thing) ? [] : [{ ...thing, id: newKey() }];
  });
  return [...ours, ...beside];
}
