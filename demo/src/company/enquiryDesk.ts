import { DOCUMENT_FORMAT, type ProcessDocument, type Stage, type StageId, USUAL_OUTCOMES } from '@ladder/core';
import { filled } from './newBuild.ts';

const bare = { steps: [], arrival: [], leave: [] } as const;

const STAGES: readonly Stage[] = [
  {
    ...bare,
    id: 'new_enquiry' as StageId,
    name: 'New enquiry',
    purpose: 'Somebody has asked; we do not know yet what for.',
    chance: 10,
    target: { days: 2, counting: 'working' },
    idleDays: 3,
    enter: [filled('d1', 'flag', 'source')],
    checklist: [],
  },
  {
    ...bare,
    id: 'reaching_out' as StageId,
    name: 'Reaching out',
    purpose: 'We try to speak to them.',
    chance: 20,
    target: { days: 5, counting: 'working' },
    idleDays: 4,
    enter: [],
    checklist: [{ id: 'e1', text: 'Tried by telephone, twice', need: 'optional', level: 'flag', afterReturn: 'again' }],
  },
  {
    ...bare,
    id: 'in_conversation' as StageId,
    name: 'In conversation',
    purpose: 'We have spoken, and know what they want.',
    chance: 45,
    target: { days: 10, counting: 'working' },
    idleDays: 7,
    enter: [
      { id: 'd2', level: 'hold', binds: 'at_move', kind: 'activities', activity: 'call', least: 1, within: 'ever' },
      filled('d3', 'hold', 'wants'),
    ],
    checklist: [],
  },
];

export const ENQUIRY_DESK: ProcessDocument = {
  format: DOCUMENT_FORMAT,
  name: 'Enquiry desk',
  purpose: 'Early interest, sorted before it is called a deal.',
  kind: 'lead',
  currency: 'GBP',
  sections: [
    {
      id: 'enquiry',
      name: 'Enquiry',
      fields: ['customer', 'contact', 'source', 'wants', 'next_action', 'next_action_day'],
    },
  ],
  skips: 'allow',
  returns: 'allow',
  stages: STAGES,
  taskSets: [],
  outcomes: USUAL_OUTCOMES.lead.map((outcome) =>
    outcome.counts === 'won' ? { ...outcome, requirements: [filled('d4', 'hold', 'customer')] } : outcome,
  ),
};
