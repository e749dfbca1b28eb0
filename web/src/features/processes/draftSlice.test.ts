import type { ProcessId, StageId, VersionId } from '@ladder/core';
import { newDocument } from '@ladder/core';
import { describe, expect, it } from 'vitest';
import {
  describeEditProblem,
  draftConflicted,
  draftEdited,
  draftMerged,
  draftOpened,
  draftRedone,
  draftSaved,
  draftSlice,
  draftUndone,
} from './draftSlice.ts';

const document = newDocument('Care plan', 'deal', 'GBP', { id: 'a' as StageId, name: 'First' });
type State = ReturnType<typeof draftSlice.reducer>;
const run = (...actions: Parameters<typeof draftSlice.reducer>[1][]): State =>
  actions.reduce<State | undefined>((state, action) => draftSlice.reducer(state, action), undefined) as State;
const opened = draftOpened({
  process: 'p' as ProcessId,
  version: 'v' as VersionId,
  document,
  revision: 4,
  savedAt: '2026-11-24T10:00:00Z',
});
const rename = (name: string) => draftEdited({ kind: 'change_stage', stage: 'a' as StageId, change: { name } });
const nameOf = (state: State) => state.document?.stages[0]?.name;

describe('the draft on the screen', () => {
  it('is undone and redone step by step, and a new edit ends what could be redone', () => {
    expect(nameOf(run(opened, rename('B'), rename('C'), draftUndone()))).toBe('B');
    expect(nameOf(run(opened, rename('B'), rename('C'), draftUndone(), draftUndone(), draftRedone()))).toBe('B');
    expect(run(opened, rename('B'), draftUndone(), rename('D')).future).toEqual([]);
    expect(nameOf(run(opened, draftUndone()))).toBe('First');
  });

  it('is saved only if nothing changed while it was being saved', () => {
    const saved = draftSaved({ changes: 1, revision: 5, savedAt: 'x', document });
    expect(run(opened, rename('B'), saved)).toMatchObject({ save: 'saved', revision: 5 });
    expect(run(opened, rename('B'), rename('C'), saved)).toMatchObject({ save: 'changed', revision: 5 });
  });

  const theirs = { document: { ...document, purpose: 'Theirs' }, revision: 9, savedAt: 'y' };

  it('stays in conflict whatever is edited, until it is put together', () => {
    expect(run(opened, rename('B'), draftConflicted(theirs), rename('C')).save).toBe('conflict');
    const settled = run(opened, draftConflicted(theirs), draftMerged({ document: theirs.document, theirs }));
    expect(settled).toMatchObject({ save: 'saved', revision: 9, theirs: null });
  });

  it('put together with what someone else saved is undone without undoing theirs', () => {
    const both = { ...theirs.document, stages: document.stages.map((stage) => ({ ...stage, name: 'B' })) };
    const state = run(opened, rename('B'), draftMerged({ document: both, theirs }));
    expect(state).toMatchObject({ save: 'changed', revision: 9 });
    const undone = draftSlice.reducer(state, draftUndone());
    expect([nameOf(undone), undone.document?.purpose]).toEqual(['First', 'Theirs']);
  });

  it('keeps an edit that cannot be made out, and says why', () => {
    const state = run(opened, draftEdited({ kind: 'add_stage', id: 'b' as StageId, name: 'first', place: 1 }));
    expect(state.document?.stages).toHaveLength(1);
    expect(state.problem && describeEditProblem(state.problem)).toBe('There is already a stage called “first”.');
  });
});
