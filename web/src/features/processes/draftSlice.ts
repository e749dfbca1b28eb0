import type { ProcessId } from '@ladder/core';
import { applyEdit, type EditProblem, type ProcessDocument, type ProcessEdit } from '@ladder/core';
import { createSlice, type PayloadAction, type WithSlice } from '@reduxjs/toolkit';
import { rootReducer } from '../../client/store.ts';

/** How the draft on the screen stands to the one on the server. */
type SaveState = 'saved' | 'changed' | 'conflict';

interface DraftState {
  readonly process: ProcessId | null;
  readonly document: ProcessDocument | null;
  readonly revision: number;
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
  document: null,
  revision: 0,
  changes: 0,
  save: 'saved',
  savedAt: null,
  past: [],
  future: [],
  problem: null,
};

const UNDO_STEPS = 100;

interface Opened {
  readonly process: ProcessId;
  readonly document: ProcessDocument;
  readonly revision: number;
  readonly savedAt: string;
}

/** The process draft being edited; undo keeps earlier immutable documents. */
export const draftSlice = createSlice({
  name: 'draft',
  initialState,
  reducers: {
    draftOpened: (_state, { payload }: PayloadAction<Opened>) => ({ ...initialState, ...payload }) as never,
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
    draftSaved: (state, { payload }: PayloadAction<{ changes: number; revision: number; savedAt: string }>) => {
      state.revision = payload.revision;
      state.savedAt = payload.savedAt;
      if (state.changes === payload.changes) state.save = 'saved';
    },
    draftConflicted: (state) => {
      state.save = 'conflict';
    },
    problemDismissed: (state) => {
      state.problem = null;
    },
  },
});

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

export const { draftOpened, draftEdited, draftUndone, draftRedone, draftSaved, draftConflicted, problemDismissed } =
  draftSlice.actions;

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
