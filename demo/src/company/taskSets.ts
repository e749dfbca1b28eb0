import type { Arrival, SetTask, TaskSet } from '@ladder/core';
import { MESSAGE_TEMPLATES } from './messageTemplates.ts';

const task = (id: string, title: string, days: number, who: SetTask['who'] = { by: 'owner' }): SetTask => ({
  id,
  title,
  who,
  due: { days, counting: 'working' },
});

const set = (id: string, name: string, ...tasks: readonly SetTask[]): TaskSet => ({
  id,
  name,
  tasks,
  afterReturn: 'keep',
});

export const NEW_BUILD_SETS: readonly TaskSet[] = [
  set(
    'k_survey',
    'Before a survey visit',
    task('k_access', 'Ask about access for the crane', 1),
    task('k_map', 'Send the site map to the surveyor', 2),
    task('k_stay', 'Book the overnight stay', 4, { by: 'nobody' }),
  ),
  set(
    'k_price',
    'Before the price is presented',
    task('k_steel', 'Ask for this week’s price of steel', 1),
    task('k_read', 'Let a colleague read the proposal', 3),
  ),
  set(
    'k_slot',
    'Once the deposit is in',
    task('k_thanks', 'Write to the grower with the build slot', 1),
    task('k_team', 'Tell the build team who is on the site', 2),
  ),
];

export const RETROFIT_SETS: readonly TaskSet[] = [
  set(
    'k_audit',
    'Before an audit',
    task('k_meter', 'Ask for a year of meter readings', 2),
    task('k_kit', 'Put the heat camera aside', 3),
  ),
];

/** What happens on arrival, by stage. */
export const ARRIVALS: Readonly<Record<string, readonly Arrival[]>> = {
  survey: [{ do: 'add_tasks', set: 'k_survey' }],
  audit_booked: [{ do: 'add_tasks', set: 'k_audit' }],
  contract_review: [{ do: 'message', template: MESSAGE_TEMPLATES[0].id, how: 'to_confirm' }],
};
