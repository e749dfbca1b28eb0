import type { StageId } from '@ladder/core';
import {
  type ChecklistItem,
  type Criterion,
  DOCUMENT_FORMAT,
  type Level,
  type Operand,
  type ProcessDocument,
  type Requirement,
  USUAL_OUTCOMES,
} from '@ladder/core';
import { type BareStage, newBuildStage } from './steps.ts';
import { NEW_BUILD_SETS } from './taskSets.ts';

const field = (id: string): Operand => ({ of: 'field', field: id });
const must = (id: string, text: string): ChecklistItem => ({
  id,
  text,
  need: 'must',
  level: 'hold',
  afterReturn: 'keep',
});
const optional = (id: string, text: string): ChecklistItem => ({
  id,
  text,
  need: 'optional',
  level: 'flag',
  afterReturn: 'keep',
});

/** A criterion judged at the move. */
export const criterion = (id: string, level: Level, tree: Criterion, message?: string): Requirement => ({
  id,
  level,
  binds: 'at_move',
  kind: 'criterion',
  criterion: tree,
  ...(message ? { message } : {}),
});

/** A field that must be filled, and stay so. */
export const filled = (id: string, level: Level, fieldId: string, appliesWhen?: Criterion): Requirement => ({
  id,
  level,
  binds: 'must_stay',
  kind: 'field',
  field: fieldId,
  ...(appliesWhen ? { appliesWhen } : {}),
});

const edible: Criterion = { kind: 'none_of', left: field('crop'), values: ['collections', 'teaching'] };

const STAGES: readonly BareStage[] = [
  {
    id: 'site_brief' as StageId,
    name: 'Site brief',
    purpose: 'We know what they grow, where, and roughly how much glass it takes.',
    chance: 10,
    target: { days: 10, counting: 'calendar' },
    idleDays: 10,
    enter: [filled('n1', 'hold', 'customer'), filled('n2', 'flag', 'source')],
    leave: [],
    checklist: [must('c1', 'Brief call held'), optional('c2', 'Site photos received')],
  },
  {
    id: 'survey' as StageId,
    name: 'Survey',
    purpose: 'We have stood on the site and know it can carry the build.',
    chance: 25,
    target: { days: 15, counting: 'calendar' },
    idleDays: 12,
    enter: [
      criterion(
        'n3',
        'hold',
        { kind: 'at_least', left: field('glazed_area'), right: { of: 'value', value: 200 } },
        'Below 200 m² the Care plan team takes it on.',
      ),
      criterion('n4', 'hold', { kind: 'one_of', left: field('planning'), values: ['granted', 'not_needed'] }),
      filled('n5', 'flag', 'crop'),
    ],
    leave: [
      filled('n6', 'flag', 'survey_date'),
      { id: 'n17', level: 'flag', binds: 'at_move', kind: 'steps', of: 'survey' },
    ],
    checklist: [must('c3', 'Access agreed with site owner'), must('c4', 'Ground report read')],
  },
  {
    id: 'outline_design' as StageId,
    name: 'Outline design',
    purpose: 'They have seen a layout that fits their crop and their site.',
    chance: 45,
    target: { days: 20, counting: 'calendar' },
    idleDays: 14,
    enter: [
      {
        ...criterion('n7', 'hold', {
          kind: 'equals',
          left: field('load_check'),
          right: { of: 'value', value: 'passed' },
        }),
        binds: 'must_stay',
      },
      filled('n8', 'hold', 'decision_group'),
    ],
    leave: [],
    checklist: [
      must('c5', 'Layout reviewed with grower'),
      must('c6', 'Heating option chosen'),
      optional('c7', 'Sample glazing shown'),
    ],
  },
  {
    id: 'costed_proposal' as StageId,
    name: 'Costed proposal',
    purpose: 'They hold a price that we stand by.',
    chance: 60,
    target: { days: 15, counting: 'working' },
    idleDays: 10,
    enter: [
      { id: 'n18', level: 'flag', binds: 'at_move', kind: 'activities', activity: 'meeting', least: 1, within: 'ever' },
      criterion('n9', 'hold', {
        kind: 'more',
        left: field('value'),
        right: { of: 'value', value: { minor: 0, currency: 'GBP' } },
      }),
      filled('n10', 'hold', 'build_cost'),
      criterion('n11', 'flag', { kind: 'at_least', left: field('margin'), right: { of: 'value', value: 15 } }),
      filled('n12', 'flag', 'heating', edible),
    ],
    leave: [],
    checklist: [must('c8', 'Margin signed off by manager')],
  },
  {
    id: 'contract_review' as StageId,
    name: 'Contract review',
    purpose: 'Their people who sign are reading our contract.',
    chance: 80,
    target: { days: 12, counting: 'calendar' },
    idleDays: 8,
    enter: [
      criterion('n13', 'hold', { kind: 'includes_any', left: field('decision_group'), values: ['signatory'] }),
      criterion('n14', 'hold', {
        kind: 'between',
        left: field('close_date'),
        low: { of: 'today', plus: 0 },
        high: { of: 'today', plus: 60 },
      }),
    ],
    leave: [],
    checklist: [must('c9', 'Terms accepted in writing'), must('c10', 'Insurance certificate seen')],
  },
  {
    id: 'deposit_and_slot' as StageId,
    name: 'Deposit and slot',
    purpose: 'The deposit is on its way and a build slot is kept for them.',
    chance: 95,
    target: { days: 7, counting: 'calendar' },
    idleDays: 5,
    enter: [filled('n15', 'hold', 'contract_link')],
    leave: [],
    checklist: [must('c11', 'Deposit invoice sent'), must('c12', 'Build slot reserved')],
  },
];

const PAID = criterion('n16', 'hold', {
  kind: 'equals',
  left: field('deposit_paid'),
  right: { of: 'value', value: true },
});

export const NEW_BUILD: ProcessDocument = {
  format: DOCUMENT_FORMAT,
  name: 'New glasshouse build',
  purpose: 'A commercial glasshouse, from the first brief to a deposit and a build slot.',
  kind: 'deal',
  currency: 'GBP',
  sections: [
    {
      id: 'deal',
      name: 'Deal',
      fields: [
        'customer',
        'contact',
        'value',
        'close_date',
        'source',
        'next_action',
        'next_action_day',
        'build_cost',
        'margin',
      ],
    },
    {
      id: 'site',
      name: 'Site',
      fields: ['crop', 'glazed_area', 'planning', 'survey_date', 'load_check', 'heating', 'site_notes'],
    },
    {
      id: 'people',
      name: 'People and contract',
      fields: ['decision_group', 'contract_link', 'deposit_paid', 'won_by'],
    },
  ],
  skips: 'hold',
  returns: 'flag',
  stages: STAGES.map(newBuildStage),
  taskSets: NEW_BUILD_SETS,
  outcomes: USUAL_OUTCOMES.deal.map((outcome) => ({
    ...outcome,
    requirements: outcome.counts === 'won' ? [PAID] : [filled('n19', 'flag', 'won_by')],
  })),
};

/** The process as it was first published, before the load check and the margin were asked. */
export const NEW_BUILD_FIRST: ProcessDocument = {
  ...NEW_BUILD,
  skips: 'flag',
  stages: NEW_BUILD.stages.map((stage) => ({
    ...stage,
    enter: stage.enter.filter(({ id }) => id !== 'n7' && id !== 'n11'),
  })),
};
