import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { canonicalText } from '../canonicalText.ts';
import type { StageId } from '../ids.ts';
import { documentOf, must, needs, stage } from '../testing/builders.ts';
import type { ProcessDocument } from './document.ts';
import { applyEdit, type ProcessEdit } from './edit.ts';
import { type ConflictChoice, mergeDrafts } from './mergeDrafts.ts';

const base = documentOf(['A', 'B', 'C'].map((id) => stage(id)));
const edited = (document: ProcessDocument, ...edits: readonly ProcessEdit[]): ProcessDocument =>
  edits.reduce((now, edit) => {
    const after = applyEdit(now, edit);
    return after.ok ? after.value : now;
  }, document);
const on = (id: string) => id as StageId;
const chance = (id: string, to: number): ProcessEdit => ({
  kind: 'change_stage',
  stage: on(id),
  change: { chance: to },
});
const ask = (id: string, requirement: string, level: 'hold' | 'flag' = 'hold'): ProcessEdit => ({
  kind: 'put_requirement',
  place: { at: 'enter', stage: on(id) },
  requirement: needs(requirement, 'area', { level }),
});
let next = 0;
const merge = (
  mine: ProcessDocument,
  theirs: ProcessDocument,
  choices: Record<string, ConflictChoice> = {},
  from = base,
) => mergeDrafts(from, mine, theirs, choices, () => `new_${next++}`);
const stageOf = (document: ProcessDocument, id: string) => document.stages.find((one) => one.id === id);

describe('two drafts that came from one', () => {
  it('are put together where they changed different stages', () => {
    const added = { kind: 'add_stage', id: on('N'), name: 'New', place: 1 } as const;
    const { document, conflicts, taken } = merge(
      edited(base, chance('A', 20), added),
      edited(base, chance('B', 70), { kind: 'remove_stage', stage: on('C') }),
    );
    expect(conflicts).toEqual([]);
    expect(document.stages.map(({ id, chance: set }) => [id, set])).toEqual([
      ['A', 20],
      ['N', 0],
      ['B', 70],
    ]);
    expect([...taken].sort()).toEqual(['stage B', 'stage C']);
  });

  it('conflict where both changed one stage: mine, theirs or both', () => {
    const [mine, theirs] = [
      edited(base, ask('B', 'r1'), chance('B', 60)),
      edited(base, ask('B', 'r2'), ask('B', 'r1', 'flag')),
    ];
    const settled = (choice: ConflictChoice) => stageOf(merge(mine, theirs, { 'stage B': choice }).document, 'B');
    expect(merge(mine, theirs).conflicts).toEqual([
      { key: 'stage B', part: 'stage', id: 'B', name: 'B', both: 'possible' },
    ]);
    expect(settled('mine')).toEqual(stageOf(mine, 'B'));
    expect(settled('theirs')).toEqual(stageOf(theirs, 'B'));
    const both = must({ ok: true, value: settled('both') });
    expect(both?.chance).toBe(60);
    expect(both?.enter.map(({ level }) => level).sort()).toEqual(['flag', 'hold', 'hold']);
    expect(new Set(both?.enter.map(({ id }) => id)).size).toBe(3);
  });

  it('conflict where one took out what the other changed', () => {
    const gone = edited(base, { kind: 'remove_stage', stage: on('B') });
    const { conflicts, document } = merge(gone, edited(base, chance('B', 60)), { 'stage B': 'theirs' });
    expect(conflicts.map(({ key }) => key)).toEqual(['stage B']);
    expect(document.stages.map(({ id }) => id)).toEqual(['A', 'B', 'C']);
  });

  it('keep the order that one of them changed, and ask where both did', () => {
    const up: ProcessEdit = { kind: 'move_stage', stage: on('C'), place: 0 };
    expect(merge(edited(base, chance('A', 1)), edited(base, up)).document.stages.map(({ id }) => id)).toEqual([
      'C',
      'A',
      'B',
    ]);
    const down: ProcessEdit = { kind: 'move_stage', stage: on('A'), place: 2 };
    expect(merge(edited(base, down), edited(base, up)).conflicts.map(({ part, both }) => [part, both])).toEqual([
      ['order', 'impossible'],
    ]);
  });

  const edit: fc.Arbitrary<ProcessEdit> = fc.oneof(
    fc.tuple(fc.constantFrom('A', 'B', 'C'), fc.integer({ min: 0, max: 3 })).map(([id, to]) => chance(id, to)),
    fc
      .tuple(fc.constantFrom('A', 'B', 'C'), fc.constantFrom('r1', 'r2', 'r3'))
      .map(([id, one]) => ask(id, `${id}${one}`)),
    // C stays: where each takes out what the other left, mine is kept.
    fc.constantFrom('A', 'B').map((id): ProcessEdit => ({ kind: 'remove_stage', stage: on(id) })),
    fc
      .tuple(fc.constantFrom('A', 'B', 'C'), fc.integer({ min: 0, max: 2 }))
      .map(([id, place]): ProcessEdit => ({ kind: 'move_stage', stage: on(id), place })),
    fc.constantFrom('', 'Why').map((purpose): ProcessEdit => ({ kind: 'set_purpose', purpose })),
    fc
      .constantFrom('allow' as const, 'hold' as const)
      .map((skips): ProcessEdit => ({ kind: 'set_rules', skips, returns: 'flag' })),
  );
  const edits = fc.array(edit, { maxLength: 4 });

  it('of which one changed nothing are the other; and it matters not who saved first, but for conflicts', () => {
    fc.assert(
      fc.property(edits, edits, (ours, others) => {
        const [mine, theirs] = [edited(base, ...ours), edited(base, ...others)];
        expect(merge(base, theirs)).toMatchObject({ document: theirs, conflicts: [] });
        expect(merge(mine, base)).toMatchObject({ document: mine, conflicts: [], taken: [] });
        expect(merge(mine, mine)).toMatchObject({ document: mine, conflicts: [] });
        const [one, other] = [merge(mine, theirs), merge(theirs, mine)];
        expect(one.conflicts.map(({ key }) => key).sort()).toEqual(other.conflicts.map(({ key }) => key).sort());
        const sorted = ({ document }: { document: ProcessDocument }) =>
          canonicalText({ ...document, stages: [...document.stages].sort((a, b) => (a.id < b.id ? -1 : 1)) });
        if (one.conflicts.length === 0) expect(sorted(one)).toBe(sorted(other));
        const all = Object.fromEntries(one.conflicts.map(({ key }) => [key, 'theirs' as const]));
        expect(sorted(merge(mine, theirs, all))).toBe(sorted(merge(theirs, mine)));
      }),
      { numRuns: 400 },
    );
  });
});
