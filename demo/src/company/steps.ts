import type { Capture, GuidedStep, Lead, Stage, StageId, StepDue, StepResult, StepWho } from '@ladder/core';
import { ARRIVALS } from './taskSets.ts';

const must = (field: string): Capture => ({ field, need: 'must' });
const may = (field: string): Capture => ({ field, need: 'may' });
const NEXT: Lead = { to: 'next' };
const FINISH: Lead = { to: 'finish' };
const step = (id: string): Lead => ({ to: 'step', step: id });
const lost = (reason: string | null): Lead => ({ to: 'outcome', outcome: 'lost', reason });
const back = (stage: string): Lead => ({ to: 'stage', stage: stage as StageId });

const result = (id: string, name: string, leads: Lead, captures: StepResult['captures'] = 'asked'): StepResult => ({
  id,
  name,
  captures,
  leads,
  actions: [],
});
const due = (days: number, after: StepDue['after'], counting: StepDue['counting'] = 'working'): StepDue => ({
  days,
  counting,
  after,
});

const guided = (
  id: string,
  name: string,
  instruction: string,
  more: Pick<GuidedStep, 'due' | 'results'> & Partial<GuidedStep>,
): GuidedStep => ({
  id,
  name,
  instruction,
  who: { by: 'owner' },
  captures: [],
  byItself: null,
  afterReturn: 'keep',
  ...more,
});

const MANAGER: StepWho = { by: 'role', role: 'manager' };

const NEW_BUILD_STEPS: Readonly<Record<string, readonly GuidedStep[]>> = {
  survey: [
    guided('s_book', 'Book the visit', 'Ring the grower and agree a day when **the site owner is there too**.', {
      due: due(3, 'arrival'),
      captures: [must('survey_date')],
      results: [
        result('booked', 'Booked', NEXT),
        result('no_answer', 'Nobody answered', step('s_book'), 'not_asked'),
        result('unwanted', 'No longer wanted', lost('l_silent'), 'not_asked'),
      ],
    }),
    guided(
      's_walk',
      'Walk the site',
      'Look at, and photograph:\n\n- the footings, at every second bay\n- access for the crane\n- where power and water come in',
      {
        due: due(5, 'step_before'),
        captures: [may('glazed_area')],
        results: [result('sound', 'Sound', NEXT), result('repair', 'Footings need repair', step('s_walk'))],
        afterReturn: 'again',
      },
    ),
    guided(
      's_load',
      'Load check',
      'Ring the surveyor for the ridge and gutter loads. Pass needs **0.75 kN/m²** or more at both.',
      {
        due: due(4, 'step_before'),
        who: { by: 'bringer' },
        captures: [must('load_check')],
        results: [
          result('passed', 'Passed', FINISH),
          result('repair', 'Repair first', step('s_walk')),
          result('failed', 'Failed', lost('l_repair')),
        ],
      },
    ),
  ],
  outline_design: [
    guided('s_draw', 'Draw the layout', 'Two layouts at most, each with its bay width and ridge height.', {
      due: due(7, 'arrival'),
      results: [result('drawn', 'Drawn', NEXT)],
      afterReturn: 'again',
    }),
    guided('s_review', 'Review call', 'Walk through the layout with *everyone who decides*, not the grower alone.', {
      due: due(4, 'step_before'),
      captures: [may('decision_group'), may('heating')],
      results: [
        result('liked', 'They like it', FINISH),
        result('changes', 'Changes asked for', step('s_draw')),
        {
          ...result('no_answer', 'Nobody answered', step('s_review'), 'not_asked'),
          actions: [{ do: 'note', text: 'No review call came about; another is due.' }],
        },
      ],
      byItself: { days: 14, result: 'no_answer' },
      afterReturn: 'again',
    }),
  ],
  costed_proposal: [
    guided('s_cost', 'Cost the build', 'Steel at the price of this week. Note what is left out.', {
      due: due(5, 'arrival'),
      who: MANAGER,
      captures: [must('build_cost')],
      results: [
        { ...result('costed', 'Costed', NEXT), actions: [{ do: 'add_tasks', set: 'k_price' }] },
        result('too_big', 'Too big for them', back('outline_design')),
      ],
    }),
    guided('s_present', 'Present the price', 'In person where it can be. Ask on which day they decide.', {
      due: due(3, 'step_before'),
      captures: [may('close_date')],
      results: [
        result('agreed', 'Agreed in principle', { to: 'move_on' }),
        result('cheaper', 'Wants it cheaper', step('s_cost')),
        result('declined', 'Declined', lost(null), 'not_asked'),
      ],
    }),
  ],
};

const RETROFIT_STEPS: Readonly<Record<string, readonly GuidedStep[]>> = {
  audit_booked: [
    guided('q_day', 'Confirm the day', 'Ask for the meter readings in the same call.', {
      due: due(3, 'arrival'),
      captures: [must('audit_date')],
      results: [
        result('confirmed', 'Confirmed', FINISH),
        result('later', 'Wants it later', step('q_day'), 'not_asked'),
      ],
    }),
  ],
  audit_done: [
    guided('q_findings', 'Send the findings', 'One page: where the heat goes, and the three dearest leaks.', {
      due: due(4, 'arrival'),
      captures: [must('energy_use')],
      results: [result('sent', 'Sent', NEXT)],
    }),
    guided('q_talk', 'Talk them through', 'Ask what they would change first if it were free.', {
      due: due(5, 'step_before', 'calendar'),
      results: [
        result('keen', 'Keen', FINISH),
        result('unsure', 'Unsure', step('q_talk')),
        result('dropped', 'Dropped', lost(null), 'not_asked'),
      ],
    }),
  ],
  proposal: [
    guided('q_payback', 'Walk through the payback', 'With whoever signs. Leave the sheet with them.', {
      due: due(4, 'arrival'),
      captures: [may('close_date')],
      results: [
        result('accepted', 'Accepted', { to: 'move_on' }),
        result('again', 'Asked us to come back', step('q_payback'), 'not_asked'),
      ],
    }),
  ],
};

/** A stage as it is told beside what is done in it. */
export type BareStage = Omit<Stage, 'steps' | 'arrival'>;

const withWork =
  (steps: Readonly<Record<string, readonly GuidedStep[]>>) =>
  (stage: BareStage): Stage => ({ ...stage, steps: steps[stage.id] ?? [], arrival: ARRIVALS[stage.id] ?? [] });

/** Stages of New glasshouse build and of Climate retrofit, with what is done in them. */
export const newBuildStage = withWork(NEW_BUILD_STEPS);
export const retrofitStage = withWork(RETROFIT_STEPS);
