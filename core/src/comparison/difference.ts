import { canonicalText } from '../canonicalText.ts';

/** Of what a difference is: of a stage, of an outcome or of the process as a whole. */
export type DifferencePart =
  | 'name'
  | 'purpose'
  | 'chance'
  | 'target'
  | 'idle'
  | 'enter'
  | 'leave'
  | 'checklist'
  | 'steps'
  | 'arrival'
  | 'outcome'
  | 'skips'
  | 'returns'
  | 'fields'
  | 'task_sets';

/** What one thing said and says, each as a sentence; null where it was not there, or is gone. */
export interface Difference {
  readonly part: DifferencePart;
  /** What it is about, where that has a name of its own. */
  readonly name: string | null;
  readonly before: string | null;
  readonly after: string | null;
}

/** The difference of one value; none where it says the same. */
export const differing = (
  part: DifferencePart,
  before: string,
  after: string,
  name: string | null = null,
): readonly Difference[] => (before === after ? [] : [{ part, name, before, after }]);

interface Named {
  readonly id: string;
}

/** How a thing of a list is told: in a sentence, or part by part under a name. */
export interface Told<Thing> {
  readonly sentence: (thing: Thing) => string;
  readonly name?: (thing: Thing) => string;
  readonly parts?: (thing: Thing) => Readonly<Record<string, string>>;
}

/** Differences of two lists whose things have ids: what was added, taken out, changed, and put in another order. */
export function compareLists<Thing extends Named>(
  part: DifferencePart,
  before: readonly Thing[],
  after: readonly Thing[],
  was: Told<Thing>,
  is: Told<Thing>,
): readonly Difference[] {
  const old = new Map(before.map((thing) => [thing.id, thing]));
  const kept = after.filter(({ id }) => old.has(id));
  const keptBefore = before.filter(({ id }) => kept.some((thing) => thing.id === id));
  const isReordered = kept.some(({ id }, place) => keptBefore[place]?.id !== id);
  return [
    ...before
      .filter(({ id }) => !kept.some((thing) => thing.id === id))
      .map((thing): Difference => ({ part, name: null, before: was.sentence(thing), after: null })),
    ...after.flatMap((thing): readonly Difference[] => {
      const earlier = old.get(thing.id);
      if (!earlier) return [{ part, name: null, before: null, after: is.sentence(thing) }];
      return canonicalText(earlier) === canonicalText(thing) ? [] : changed(part, earlier, thing, was, is);
    }),
    ...(isReordered ? [{ part, name: 'Order', before: inOrder(keptBefore, was), after: inOrder(kept, is) }] : []),
  ];
}

function inOrder<Thing>(things: readonly Thing[], { name, sentence }: Told<Thing>): string {
  return things.map((thing) => (name ?? sentence)(thing)).join(', ');
}

function changed<Thing>(
  part: DifferencePart,
  before: Thing,
  after: Thing,
  was: Told<Thing>,
  is: Told<Thing>,
): readonly Difference[] {
  if (!was.parts || !is.parts) return differing(part, was.sentence(before), is.sentence(after));
  const [old, fresh, called] = [was.parts(before), is.parts(after), is.name?.(after) ?? ''];
  return Object.keys(fresh).flatMap((key) =>
    differing(part, old[key] ?? '', fresh[key] ?? '', key === '' ? called : `${called}: ${key}`),
  );
}
