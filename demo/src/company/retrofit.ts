import type { StageId } from '@ladder/core';
import { DOCUMENT_FORMAT, type ProcessDocument, USUAL_OUTCOMES } from '@ladder/core';
import { criterion, filled } from './newBuild.ts';
import { type BareStage, retrofitStage } from './steps.ts';
import { RETROFIT_SETS } from './taskSets.ts';

const STAGES: readonly BareStage[] = [
  {
    id: 'audit_booked' as StageId,
    name: 'Audit booked',
    purpose: 'A day is set on which we measure their house.',
    chance: 20,
    target: { days: 14, counting: 'calendar' },
    idleDays: 14,
    enter: [filled('r1', 'hold', 'customer')],
    leave: [filled('r2', 'hold', 'audit_date')],
    checklist: [{ id: 'k1', text: 'Meter readings asked for', need: 'must', level: 'flag', afterReturn: 'keep' }],
  },
  {
    id: 'audit_done' as StageId,
    name: 'Audit done',
    purpose: 'We know where their heat goes.',
    chance: 35,
    target: { days: 10, counting: 'calendar' },
    idleDays: 10,
    enter: [
      criterion(
        'r3',
        'hold',
        { kind: 'at_most', left: { of: 'field', field: 'audit_date' }, right: { of: 'today', plus: 0 } },
        'The audit has to have taken place.',
      ),
      filled('r4', 'flag', 'energy_use'),
    ],
    leave: [],
    checklist: [
      { id: 'k2', text: 'Findings walked through with the grower', need: 'must', level: 'hold', afterReturn: 'again' },
    ],
  },
  {
    id: 'retrofit_plan' as StageId,
    name: 'Retrofit plan',
    purpose: 'They know what we would change and what it saves.',
    chance: 50,
    target: { days: 15, counting: 'calendar' },
    idleDays: 12,
    enter: [
      filled('r5', 'hold', 'energy_use'),
      { id: 'r10', level: 'flag', binds: 'at_move', kind: 'step', step: 'q_talk', results: ['keen'] },
    ],
    leave: [],
    checklist: [{ id: 'k3', text: 'Savings checked by an engineer', need: 'must', level: 'hold', afterReturn: 'keep' }],
  },
  {
    id: 'proposal' as StageId,
    name: 'Proposal',
    purpose: 'They hold a price and a payback.',
    chance: 65,
    target: { days: 12, counting: 'calendar' },
    idleDays: 10,
    enter: [
      criterion('r6', 'hold', {
        kind: 'more',
        left: { of: 'field', field: 'value' },
        right: { of: 'value', value: { minor: 0, currency: 'GBP' } },
      }),
      criterion('r7', 'flag', {
        kind: 'at_most',
        left: { of: 'field', field: 'payback' },
        right: { of: 'value', value: 9 },
      }),
    ],
    leave: [],
    checklist: [{ id: 'k4', text: 'Grant rules explained', need: 'optional', level: 'flag', afterReturn: 'keep' }],
  },
  {
    id: 'approval' as StageId,
    name: 'Approval',
    purpose: 'The people who decide have our proposal before them.',
    chance: 85,
    target: { days: 20, counting: 'calendar' },
    idleDays: 10,
    enter: [filled('r8', 'hold', 'grant'), filled('r9', 'hold', 'close_date')],
    leave: [],
    checklist: [{ id: 'k5', text: 'Approval in writing', need: 'must', level: 'hold', afterReturn: 'keep' }],
  },
];

export const RETROFIT: ProcessDocument = {
  format: DOCUMENT_FORMAT,
  name: 'Climate retrofit',
  purpose: 'Better screens, heating and controls in a glasshouse that stands already.',
  kind: 'deal',
  currency: 'GBP',
  sections: [
    {
      id: 'deal',
      name: 'Deal',
      fields: ['customer', 'contact', 'value', 'close_date', 'source', 'next_action', 'next_action_day'],
    },
    {
      id: 'audit',
      name: 'Audit',
      fields: ['audit_date', 'energy_use', 'payback', 'grant', 'glazed_area', 'crop', 'engineer'],
    },
  ],
  skips: 'flag',
  returns: 'flag',
  stages: STAGES.map(retrofitStage),
  taskSets: RETROFIT_SETS,
  outcomes: USUAL_OUTCOMES.deal,
};
