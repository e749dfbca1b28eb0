import { addDays, type Deal, type FactValue, isMoney } from '@ladder/core';
import { between, chance, pick, type Random } from '../random.ts';

const SOURCES = ['Trade show', 'Referral', 'Web enquiry', 'Existing customer', 'Advert'] as const;
const ACTIONS = [
  'Call about the layout',
  'Send the questionnaire',
  'Chase the signature',
  'Book the surveyor',
  'Ask about planning',
  'Send sample glazing',
] as const;
const CROPS = ['tomatoes', 'peppers', 'cucumbers', 'leafy_salads', 'berries', 'cut_flowers', 'herbs'] as const;

/** A value that a seller would fill in for a field on a day, and that most requirements are content with. */
export function goodValue(random: Random, field: string, deal: Deal, today: string): FactValue {
  const value = isMoney(deal.values.value) ? deal.values.value.minor : 30_000_000;
  switch (field) {
    case 'source':
      return pick(random, SOURCES);
    case 'next_action':
      return pick(random, ACTIONS);
    case 'crop':
      return pick(random, CROPS);
    case 'glazed_area':
      return between(random, 24, 900) * 10;
    case 'planning':
      return chance(random, 0.6) ? 'granted' : 'not_needed';
    case 'survey_date':
    case 'audit_date':
      return addDays(today, -between(random, 0, 6));
    case 'load_check':
      return 'passed';
    case 'decision_group':
      return chance(random, 0.8) ? ['grower', 'finance', 'signatory'] : ['grower', 'signatory'];
    case 'heating':
      return pick(random, ['hot_water', 'heat_pump', 'none']);
    case 'value':
      return { minor: between(random, 8, 95) * 1_000_000, currency: 'GBP' };
    case 'build_cost':
      return { minor: Math.round((value * (0.7 + random() * 0.2)) / 100_000) * 100_000, currency: 'GBP' };
    case 'close_date':
      return addDays(today, between(random, 14, 55));
    case 'contract_link':
      return `https://files.hollin-marsh.example/contracts/${deal.id.slice(-6)}`;
    case 'deposit_paid':
      return true;
    case 'energy_use':
      return between(random, 180, 620);
    case 'payback':
      return between(random, 3, 11);
    case 'care_plan':
      return pick(random, ['basic', 'full', 'full', 'full_with_night_calls']);
    case 'plan_ends':
      return addDays(today, between(random, 10, 80));
    case 'visits_made':
      return between(random, 2, 14);
    case 'wants':
      return pick(random, ['a_new_glasshouse', 'a_retrofit', 'service', 'something_else']);
    case 'grant':
      return pick(random, ['none', 'applied_for', 'awarded']);
    default:
      return null;
  }
}

/** Who won instead, as far as the reason for which a deal was lost tells. */
export function wonBy(random: Random, reason: string): FactValue {
  if (reason === 'l_other') return 'another_builder';
  if (reason === 'l_repair') return chance(random, 0.6) ? 'their_own_people' : 'a_second_hand_house';
  if (reason === 'l_price') return pick(random, ['another_builder', 'a_second_hand_house', 'nobody']);
  return 'nobody';
}

/** A value that is filled in and not good enough, for the fields that go wrong in real life. */
export function poorValue(random: Random, field: string): FactValue {
  if (field === 'planning') return pick(random, ['not_applied', 'applied']);
  if (field === 'glazed_area') return between(random, 8, 19) * 10;
  if (field === 'load_check') return 'repair_first';
  return field === 'decision_group' ? ['grower'] : null;
}
