import type { FindingKind } from '@ladder/core';

/** Kinds of findings as they stand above a column. */
export const KIND_NAMES: Readonly<Record<FindingKind, string>> = {
  criterion: 'Criterion not met',
  field: 'Field missing',
  checklist: 'Checklist open',
  gate_changed: 'Gate changed',
  past_target: 'Past target',
  idle: 'Idle',
  close_date_past: 'Close date past',
  no_next_action: 'No next action',
  skipped: 'Stage skipped',
  returned: 'Came back',
  forced: 'Forced',
};
