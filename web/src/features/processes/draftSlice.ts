import type { ProcessId, VersionId } from '@ladder/core';
import {
  applyEdit,
  canonicalText,
  type EditProblem,
  mergeDrafts,
  type ProcessDocument,
  type ProcessEdit,
} from '@ladder/core';
import { createSlice, type PayloadAction, type WithSlice } from '@reduxjs/toolkit';
import { rootReducer } from '../../client/store.ts';
import { newKey } from '../../parts/newKey.ts';

/** How the draft on the screen stands to the one on the server. */
type SaveState = 'saved' | 'changed' | 'conflict';

interface DraftState {
  readonly process: ProcessId | null;
  readonly version: VersionId | null;
  readonly document: ProcessDocument | null;
  readonly revision: number;
  /** As it stands on the server at that revision: what changes of two people are told apart by. */
  readonly saved: ProcessDocument | null;
  /** What someone else saved meanwhile, and cannot be put together with what is here without being asked. */
  readonly theirs: TheirDraft | null;
  /** Counts the changes made here, so that a save knows whether more came while it was under way. */
  readonly changes: number;
  readonly save: SaveState;
  readonly savedAt: string | null;
  readonly past: readonly ProcessDocument[];
  readonly future: readonly ProcessDocument[];
  readonly problem: EditProblem | null;
}

const initialState: DraftState = {
  process: null,
  version: null,
  document: null,
  revision: 0,
  saved: null,
  theirs: null,
  changes: 0,
  save: 'saved',
  savedAt: null,
  past: [],
  future: [],
  problem: null,
};

const UNDO_STEPS = 100;

/** The draft as someone else saved it. */
export interface TheirDraft {
  readonly document: ProcessDocument;
  readonly revision: number;
  readonly savedAt: string;
}

/** What is here put together with theirs. */
interface MergedDraft {
  readonly document: ProcessDocument;
  readonly theirs: TheirDraft;
}

interface Opened {
  readonly process: ProcessId;
  readonly version: VersionId;
  readonly document: ProcessDocument;
  readonly revision: number;
  readonly savedAt: string;
}

/** The process draft being edited; undo keeps earlier immutable documents. */
export const draftSlice = createSlice({
  name: 'draft',
  initialState,
  reducers: {
    draftOpened: (_state, { payload }: PayloadAction<Opened>) =>
      ({ ...initialState, ...payload, saved: payload.document }) as never,
    draftEdited: (state, { payload }: PayloadAction<ProcessEdit>) => {
      if (!state.document) return state;
      const document = state.document as ProcessDocument;
      const edited = applyEdit(document, payload);
      if (!edited.ok) return { ...state, problem: edited.error } as never;
      const past = [...(state.past as readonly ProcessDocument[]).slice(-UNDO_STEPS), document];
      return {
        ...state,
        document: edited.value,
        past,
        future: [],
        changes: state.changes + 1,
        save: state.save === 'conflict' ? 'conflict' : 'changed',
        problem: null,
      } as never;
    },
    draftUndone: (state) => step(state as DraftState, 'past') as never,
    draftRedone: (state) => step(state as DraftState, 'future') as never,
    draftSaved: (
      state,
      { payload }: PayloadAction<{ changes: number; revision: number; savedAt: string; document: ProcessDocument }>,
    ) => {
      state.saved = payload.document as never;
      state.revision = payload.revision;
      state.savedAt = payload.savedAt;
      if (state.changes === payload.changes) state.save = 'saved';
    },
    draftConflicted: (state, { payload }: PayloadAction<TheirDraft>) =>
      ({ ...state, save: 'conflict', theirs: payload }) as never,
    draftMerged: (state, { payload }: PayloadAction<MergedDraft>) => merged(state as DraftState, payload) as never,
    problemDismissed: (state) => {
      state.problem = null;
    },
  },
});

/** Undo goes back in what was done here, and never undoes what the other did. */
function merged(state: DraftState, { document, theirs }: MergedDraft): DraftState {
  const base = state.saved ?? theirs.document;
  const withTheirs = (step: ProcessDocument): ProcessDocument => {
    const { conflicts, document: both } = mergeDrafts(base, step, theirs.document, {}, newKey);
    if (conflicts.length === 0) return both;
    const all = Object.fromEntries(conflicts.map(({ key }) => [key, 'theirs' as const]));
    return mergeDrafts(base, step, theirs.document, all, newKey).document;
  };
  return {
    ...state,
    document,
    saved: theirs.document,
    theirs: null,
    revision: theirs.revision,
    savedAt: theirs.savedAt,
    changes: state.changes + 1,
    save: canonicalText(document) === canonicalText(theirs.document) ? 'saved' : 'changed',
    past: state.past.map(withTheirs),
    future: state.future.map(withTheirs),
  };
}

declare module '../../client/store.ts' {
  export interface LazySlices extends WithSlice<typeof draftSlice> {}
}

/** The draft as it stands in the store. */
export const draftOf = draftSlice.injectInto(rootReducer).selectSlice;

function step(state: DraftState, from: 'past' | 'future'): DraftState {
  const document = state[from].at(-1);
  if (!document || !state.document) return state;
  const to = from === 'past' ? 'future' : 'past';
  return {
    ...state,
    document,
    changes: state.changes + 1,
    [from]: state[from].slice(0, -1),
    [to]: [...state[to], state.document],
    save: state.save === 'conflict' ? 'conflict' : 'changed',
    problem: null,
  };
}

export const {
  draftOpened,
  draftEdited,
  draftUndone,
  draftRedone,
  draftSaved,
  draftConflicted,
  draftMerged,
  problemDismissed,
} = draftSlice.actions;

/** An edit that could not be made, in words. */
export function describeEditProblem(problem: EditProblem): string {
  switch (problem.code) {
    case 'no_such_stage':
      return 'This stage is gone from the draft.';
    case 'last_stage':
      return 'A process keeps at least one stage.';
    case 'name_taken':
      return `There is already a stage called “${problem.name}”.`;
    case 'no_name':
      return 'A stage needs a name.';
  }
}
