import type { Reason } from '@ladder/core';

const reason = (
  id: string,
  outcome: 'won' | 'lost' | 'qualified' | 'disqualified',
  name: string,
  followUp: Reason['followUp'] = 'not_asked',
): Reason => ({ id, outcome, name, followUp, withdrawn: 'no' });

export const REASONS: readonly Reason[] = [
  reason('w_design', 'won', 'Best design'),
  reason('w_price', 'won', 'Price'),
  reason('w_known', 'won', 'Knew us already'),
  reason('w_slot', 'won', 'Could build in time'),
  reason('w_service', 'won', 'Service after building'),
  reason('l_price', 'lost', 'Price', 'asked'),
  reason('l_planning', 'lost', 'Planning refused', 'asked'),
  reason('l_season', 'lost', 'Put off to another season', 'asked'),
  reason('l_other', 'lost', 'Went to another builder'),
  reason('l_repair', 'lost', 'Repairs the old house'),
  reason('l_money', 'lost', 'No finance'),
  reason('l_silent', 'lost', 'Went silent'),
];

/** Why an enquiry becomes a deal, or does not. */
export const DESK_REASONS: readonly Reason[] = [
  reason('q_project', 'qualified', 'Has a project and a year for it'),
  reason('q_referred', 'qualified', 'Was sent by a customer'),
  reason('x_out', 'disqualified', 'Outside what we build'),
  reason('x_far', 'disqualified', 'Too far away'),
  reason('x_silent', 'disqualified', 'Never answered'),
  reason('x_later', 'disqualified', 'Not before next year', 'asked'),
];
