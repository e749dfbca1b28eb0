import type { Choice, Field } from '@ladder/core';

const choices = (...names: readonly string[]): readonly Choice[] =>
  names.map((name) => ({ id: name.toLowerCase().replaceAll(/[^a-z]+/g, '_'), name }));

/** The fields that Hollin & Marsh added to the catalogue. */
export const FIELDS: readonly Field[] = [
  { id: 'crop', name: 'Crop', holder: 'deal', type: 'choice', choices: choices('Tomatoes', 'Peppers', 'Cucumbers', 'Leafy salads', 'Berries', 'Cut flowers', 'Herbs', 'Collections', 'Teaching') },
  { id: 'glazed_area', name: 'Glazed area', holder: 'deal', type: 'number', unit: 'm²', min: 1, max: 200_000, help: 'Area under glass, measured inside the gutters.' },
  { id: 'planning', name: 'Planning', holder: 'deal', type: 'choice', choices: choices('Not applied', 'Applied', 'Granted', 'Not needed', 'Refused') },
  { id: 'survey_date', name: 'Survey date', holder: 'deal', type: 'date' },
  { id: 'load_check', name: 'Load check', holder: 'deal', type: 'choice', choices: choices('Passed', 'Repair first', 'Failed'), help: 'Result of the ridge and gutter load check.' },
  { id: 'decision_group', name: 'Decision group', holder: 'deal', type: 'choices', choices: choices('Grower', 'Finance', 'Board', 'Signatory') },
  { id: 'heating', name: 'Heating', holder: 'deal', type: 'choice', choices: choices('Hot water', 'Heat pump', 'None') },
  { id: 'build_cost', name: 'Build cost', holder: 'deal', type: 'money', min: 0, help: 'Materials, steel and labour, without our margin.' },
  {
    id: 'margin', name: 'Margin', holder: 'deal', type: 'calculated', unit: '%',
    formula: {
      kind: 'multiply',
      left: { kind: 'divide', left: { kind: 'subtract', left: { kind: 'field', field: 'value' }, right: { kind: 'field', field: 'build_cost' } }, right: { kind: 'field', field: 'value' } },
      right: { kind: 'number', value: 100 },
    },
  },
  { id: 'contract_link', name: 'Signed contract', holder: 'deal', type: 'link', help: 'Where the signed contract is kept.' },
  { id: 'deposit_paid', name: 'Deposit paid', holder: 'deal', type: 'yes_no' },
  { id: 'site_notes', name: 'Site notes', holder: 'deal', type: 'long_text' },
  { id: 'audit_date', name: 'Audit date', holder: 'deal', type: 'date' },
  { id: 'energy_use', name: 'Energy use', holder: 'deal', type: 'number', unit: 'kWh/m²', min: 0, max: 2_000 },
  { id: 'payback', name: 'Payback', holder: 'deal', type: 'number', unit: 'years', min: 0, max: 60 },
  { id: 'grant', name: 'Grant', holder: 'deal', type: 'choice', choices: choices('None', 'Applied for', 'Awarded') },
  { id: 'engineer', name: 'Engineer', holder: 'deal', type: 'person' },
  { id: 'customer_kind', name: 'Kind of customer', holder: 'customer', type: 'choice', choices: choices('Grower', 'Botanic garden', 'School') },
  { id: 'credit_checked', name: 'Credit checked', holder: 'customer', type: 'yes_no' },
];
