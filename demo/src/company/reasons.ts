import type { Reason } from '@ladder/core';

const reason = (
  id: string,
  outcome: 'won' | 'lost',
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
