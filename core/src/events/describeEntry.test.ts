import { describe, expect, it } from 'vitest';
import type { DealId, StageId } from '../ids.ts';
import { CATALOGUE, documentOf, stage } from '../testing/builders.ts';
import { describeEntry } from './describeEntry.ts';
import type { JournalBody } from './kinds.ts';
import { JOURNAL_KINDS } from './kinds.ts';

const document = documentOf([stage('a', { name: 'Site brief' }), stage('b', { name: 'Survey' }), stage('c')]);
const nameOf = (id: string) => (id === 'p1' ? 'Priya Nandan' : undefined);
const say = (body: JournalBody): string =>
  describeEntry(body, { document, catalogue: CATALOGUE, nameOf })
    .map(({ text }) => text)
    .join('');
const moved = (more: Partial<Extract<JournalBody, { kind: 'moved' }>>): JournalBody => ({
  kind: 'moved',
  seq: 2,
  move: 'forward',
  from: 'a' as StageId,
  to: 'b' as StageId,
  over: [],
  answer: 'passes',
  open: [],
  forced: 'no',
  reason: null,
  ...more,
});

const ENTRIES: readonly (readonly [JournalBody, string])[] = [
  [{ kind: 'task_added', task: 1, due: '2026-11-26', to: 'p1', set: null }, 'Task for Priya Nandan, due 26 Nov 2026'],
  [
    { kind: 'task_added', task: 1, due: '2026-11-26', to: null, set: 'Before a visit' },
    'Task of “Before a visit” for nobody yet, due 26 Nov 2026',
  ],
  [{ kind: 'task_ended', task: 1, how: 'done' }, 'Task done'],
  [{ kind: 'task_ended', task: 1, how: 'cancelled' }, 'Task cancelled'],
  [{ kind: 'task_ended', task: 1, how: 'withdrawn' }, 'Task withdrawn, as what had made it was taken back'],
  [{ kind: 'task_reopened', task: 1 }, 'Task is to be done again'],
  [
    { kind: 'task_put_off', task: 1, before: '2026-11-26', after: '2026-12-01' },
    'Task put off from 26 Nov 2026 to 1 Dec 2026',
  ],
  [
    { kind: 'task_put_off', task: 1, before: '2026-11-26', after: '2026-11-26' },
    'Task due 26 Nov 2026 at another time',
  ],
  [{ kind: 'task_passed', task: 1, to: 'p1' }, 'Task passed to Priya Nandan'],
  [{ kind: 'task_passed', task: 1, to: null }, 'Task passed to nobody'],
  [{ kind: 'task_renamed', task: 1 }, 'Task is called otherwise now'],
  [
    { kind: 'waiver_asked', request: 1, target: 'stage:b', items: ['r', 's'], until: '2026-12-01' },
    'Waiver asked for 2 requirements to Survey, until 1 Dec 2026',
  ],
  [{ kind: 'waiver_decided', request: 1, how: 'granted', until: '2026-12-01' }, 'Waiver granted until 1 Dec 2026'],
  [{ kind: 'waiver_decided', request: 1, how: 'refused', until: null }, 'Waiver refused'],
  [{ kind: 'waiver_withdrawn', request: 1 }, 'Asks for the waiver no longer'],
  [{ kind: 'waiver_revoked', request: 1 }, 'Waiver revoked'],
  [moved({ waived: ['r'] }), 'Site brief → Survey, 1 requirement on a waiver'],
  [{ kind: 'created', stage: 'a' as StageId, name: 'Deal' }, 'Begun in Site brief'],
  [{ kind: 'imported', stage: 'b' as StageId, name: 'Deal' }, 'Imported into Survey'],
  [
    {
      kind: 'reassigned',
      owner: { before: 'p1', after: 'p2' },
      team: { before: 't1', after: null },
      tasks: 2,
      steps: 1,
    },
    'Owner Priya Nandan → someone, team someone → nobody, with 2 tasks and 1 step',
  ],
  [{ kind: 'renamed', before: 'A', after: 'B', insteadOf: 'p1' }, 'Name A → B, for Priya Nandan'],
  [{ kind: 'reopened', stage: 'b' as StageId }, 'Reopened in Survey'],
  [
    { kind: 'begun_from', from: { deal: 'x' as DealId, name: 'Palm house' } },
    'Begun from Palm house, which had closed',
  ],
  [{ kind: 'went_on', next: { deal: 'x' as DealId, name: 'Palm house 2' } }, 'Went on as Palm house 2'],
  [{ kind: 'renamed', before: 'North', after: 'South' }, 'Name North → South'],
  [{ kind: 'ticked', item: 'i', stage: 'a' as StageId, text: 'Called' }, 'Called ticked'],
  [{ kind: 'unticked', item: 'i', stage: 'a' as StageId, text: 'Called' }, 'Called unticked'],
  [moved({}), 'Site brief → Survey'],
  [
    moved({ move: 'skip', to: 'c' as StageId, over: ['b' as StageId], open: ['r'] }),
    'Site brief → c, skipping Survey with 1 requirement open',
  ],
  [moved({ forced: 'yes', open: ['r', 's'] }), 'Site brief → Survey, forced with 2 requirements open'],
  [moved({ move: 'return', from: 'b' as StageId, to: 'a' as StageId }), 'Survey ← back to Site brief'],
  [moved({ move: 'won', to: null }), 'Closed as won'],
  [moved({ move: 'lost', to: null }), 'Closed as lost'],
  [moved({ to: 'gone' as StageId }), 'Site brief → a stage that is gone'],
  [
    { kind: 'refused', from: 'a' as StageId, target: 'stage:b', open: ['r'] },
    'Move to Survey refused: 1 requirement open',
  ],
  [{ kind: 'refused', from: 'a' as StageId, target: 'won', open: [] }, 'Move to Won refused: 0 requirements open'],
  [{ kind: 'attempt_withdrawn', target: 'lost' }, 'Gave up moving to Lost'],
  [
    { kind: 'taken_back', seq: 2, move: 'forward', from: 'a' as StageId, to: 'b' as StageId },
    'Taken back: Site brief → Survey',
  ],
  [{ kind: 'taken_back', seq: 3, move: 'won', from: 'b' as StageId, to: null }, 'Taken back: Closed as won'],
  [
    { kind: 'step_ended', run: 2, step: 's', name: 'Load check', result: 'r', resultName: 'Repair first' },
    'Load check: Repair first',
  ],
  [
    {
      kind: 'result_taken_back',
      run: 2,
      step: 's',
      name: 'Load check',
      result: 'r',
      resultName: 'Passed',
      kept: ['area'],
      notes: 'stay',
    },
    'Taken back: Load check, Passed; Glazed area stays as changed since; its note stays',
  ],
  [{ kind: 'step_noted', run: 2, name: 'Load check' }, 'Load check noted'],
  [
    { kind: 'step_stuck', run: 2, step: 's', name: 'Load check', why: 'Area is needed.' },
    'Load check could not go on by itself: Area is needed.',
  ],
  [
    { kind: 'step_put_off', run: 2, step: 's', name: 'Load check', before: '2026-11-20', after: '2026-11-27' },
    'Load check put off from 20 Nov 2026 to 27 Nov 2026',
  ],
  [
    { kind: 'step_put_off', run: 2, step: 's', name: 'Load check', before: null, after: '2026-11-27' },
    'Load check is due 27 Nov 2026',
  ],
  [{ kind: 'step_passed', run: 2, step: 's', name: 'Load check', to: 'p1' }, 'Load check passed to Priya Nandan'],
  [
    { kind: 'edited', changes: [{ field: 'area', before: null, after: 90 }], step: { run: 2, name: 'Walk the site' } },
    'Glazed area not filled → 90\u00a0m², in Walk the site',
  ],
  [{ kind: 'document_attached', document: 'd1', of: 'p1' }, 'Priya Nandan attached'],
  [{ kind: 'document_removed', document: 'd1', of: 'gone' }, 'Document removed'],
  [{ kind: 'activity', activity: 'call' }, ''],
  [{ kind: 'version_changed', before: 'v1', after: 'v2' }, 'Moved over to a newer version of the process'],
  [{ kind: 'follow_up_changed', before: null, after: '2027-01-09' }, 'Follow-up none → 9 Jan 2027'],
  [
    {
      kind: 'days_recounted',
      calendar: 'Works',
      moveOn: { before: '2026-12-24', after: '2026-12-29' },
      steps: [{ run: 1, name: 'Survey', before: '2026-12-23', after: '2026-12-24' }],
      tasks: [{ task: 2, before: '2026-12-28', after: '2026-12-30' }],
    },
    'Days counted anew by Works: move on by 24 Dec 2026 → 29 Dec 2026; Survey due 23 Dec 2026 → 24 Dec 2026; a task due 28 Dec 2026 → 30 Dec 2026',
  ],
  [{ kind: 'text_erased', seq: 4 }, 'Text erased of entry 4'],
  [{ kind: 'voided' }, 'Voided: out of all measures'],
  [{ kind: 'voided', duplicateOf: { deal: 'd' as DealId, name: 'North' } }, 'Voided: a duplicate of North'],
  [{ kind: 'merged', duplicate: { deal: 'd' as DealId, name: 'South' } }, 'Merged into this: South'],
  [
    {
      kind: 'edited',
      changes: [
        { field: 'area', before: null, after: 1200 },
        { field: 'owner', before: 'p1', after: 'p2' },
        { field: 'gone', before: 'x', after: null },
      ],
    },
    'Glazed area not filled → 1,200\u00a0m² · Owner Priya Nandan → p2 · A field that is gone x → not filled',
  ],
];

describe('a journal entry in words', () => {
  it.each(ENTRIES)('%j', (body, expected) => {
    expect(say(body)).toBe(expected);
  });

  it('has words for every kind there is', () => {
    expect(new Set(ENTRIES.map(([{ kind }]) => kind))).toEqual(new Set(JOURNAL_KINDS));
  });
});
