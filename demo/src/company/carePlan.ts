import { DOCUMENT_FORMAT, type ProcessDocument, type Stage, type StageId, USUAL_OUTCOMES } from '@ladder/core';
import { criterion, filled } from './newBuild.ts';

const bare = { steps: [], arrival: [] } as const;

const STAGES: readonly Stage[] = [
  {
    ...bare,
    id: 'coming_due' as StageId,
    name: 'Coming due',
    purpose: 'Their care plan ends within the quarter.',
    chance: 60,
    target: { days: 15, counting: 'working' },
    idleDays: 14,
    enter: [filled('p1', 'hold', 'customer'), filled('p2', 'hold', 'care_plan')],
    leave: [filled('p3', 'hold', 'plan_ends')],
    checklist: [],
  },
  {
    ...bare,
    id: 'use_reviewed' as StageId,
    name: 'Use reviewed',
    purpose: 'They have seen what the plan did for them this year.',
    chance: 70,
    target: { days: 10, counting: 'working' },
    idleDays: 10,
    enter: [{ id: 'p4', level: 'hold', binds: 'must_stay', kind: 'field', field: 'visits_made' }],
    leave: [
      { id: 'p5', level: 'flag', binds: 'at_move', kind: 'activities', activity: 'call', least: 1, within: 'stay' },
    ],
    checklist: [{ id: 'w1', text: 'Visits and repairs listed', need: 'must', level: 'flag', afterReturn: 'keep' }],
  },
  {
    ...bare,
    id: 'terms_sent' as StageId,
    name: 'Terms sent',
    purpose: 'They hold the terms for the next year.',
    chance: 80,
    target: { days: 12, counting: 'working' },
    idleDays: 10,
    enter: [
      criterion('p6', 'hold', {
        kind: 'more',
        left: { of: 'field', field: 'value' },
        right: { of: 'value', value: { minor: 0, currency: 'GBP' } },
      }),
    ],
    leave: [],
    checklist: [
      {
        id: 'w2',
        text: 'Price above last year’s seen by a manager',
        need: 'must',
        level: 'flag',
        afterReturn: 'again',
        who: 'manager',
        message: 'Only where the plan costs more than in the year before.',
      },
    ],
  },
  {
    ...bare,
    id: 'agreed' as StageId,
    name: 'Agreed',
    purpose: 'They have said yes; the papers are on their way.',
    chance: 95,
    target: { days: 5, counting: 'working' },
    idleDays: 7,
    enter: [filled('p7', 'hold', 'close_date')],
    leave: [],
    checklist: [{ id: 'w3', text: 'Next visit booked', need: 'must', level: 'hold', afterReturn: 'keep' }],
  },
];

export const CARE_PLAN: ProcessDocument = {
  format: DOCUMENT_FORMAT,
  name: 'Care plan renewal',
  purpose: 'A plan for service and repairs goes on for another year.',
  kind: 'deal',
  currency: 'GBP',
  sections: [
    {
      id: 'deal',
      name: 'Deal',
      fields: ['customer', 'contact', 'value', 'close_date', 'source', 'next_action', 'next_action_day'],
    },
    { id: 'plan', name: 'Plan', fields: ['care_plan', 'plan_ends', 'visits_made'] },
  ],
  skips: 'flag',
  returns: 'allow',
  stages: STAGES,
  taskSets: [],
  outcomes: USUAL_OUTCOMES.deal,
};
