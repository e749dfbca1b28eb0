import type { FieldHolder, FieldType, FieldUse, OWN_FIELD_TYPES } from '@ladder/core';

export const OWN_TYPE_NAMES: Readonly<Record<(typeof OWN_FIELD_TYPES)[number], string>> = {
  text: 'Text',
  long_text: 'Long text',
  number: 'Number',
  money: 'Money',
  date: 'Date',
  yes_no: 'Yes or no',
  choice: 'Choice',
  choices: 'Several choices',
  person: 'Person',
  link: 'Link',
  calculated: 'Calculated number',
};

export const TYPE_NAMES: Readonly<Record<FieldType, string>> = {
  ...OWN_TYPE_NAMES,
  customer: 'Customer',
  contact: 'Contact',
  team: 'Team',
};

export const HOLDER_NAMES: Readonly<Record<FieldHolder, string>> = {
  deal: 'the deal',
  customer: 'the customer, for all its deals',
  contact: 'the contact, for all its deals',
};

export const USE_WORDS: Readonly<Record<FieldUse['way'], string>> = {
  listed: 'listed under',
  to_enter: 'to enter',
  before_leaving: 'before leaving',
  to_close: 'to close as',
  filled: 'filled in a step of',
  set: 'set by a step of',
};
