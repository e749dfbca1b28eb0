import { type FactValue, FIELD_HOLDERS, FIELD_TYPES, type Field, type Formula, OWN_FIELD_TYPES } from '@ladder/core';
import {
  anyDay,
  either,
  integer,
  key,
  list,
  named,
  nullable,
  number,
  object,
  oneOf,
  optional,
  page,
  type Schema,
  self,
  tagged,
  text,
  yesNo,
} from './schema.ts';

const money = named('Money', object({ minor: integer(), currency: text({ min: 3, max: 3 }) }));

/** A value of any type; null is empty. Whether it fits its field is checked against the catalogue. */
const value = named(
  'Value',
  nullable(either(text({ min: 0, max: 20_000 }), number(), yesNo(), list(text({ max: 200 }), 500), money)),
) as Schema<FactValue> & { readonly optional: 'no' };

const choice = object({ id: key(), name: text({ max: 200 }), withdrawn: optional(yesNo()) });

const part = self<Formula>('Formula');
const formula = named(
  'Formula',
  tagged(
    'kind',
    object({ kind: oneOf(['number']), value: number() }),
    object({ kind: oneOf(['field']), field: key() }),
    object({ kind: oneOf(['add', 'subtract', 'multiply', 'divide']), left: part, right: part }),
  ),
) as Schema<Formula> & { readonly optional: 'no' };

const describing = {
  name: text({ max: 200 }),
  help: optional(text({ min: 0 })),
  unit: optional(text({ max: 20 })),
  min: optional(number()),
  max: optional(number()),
  firstDay: optional(anyDay()),
  lastDay: optional(anyDay()),
  choices: optional(list(choice, 500)),
};

const field = named(
  'Field',
  object({
    id: key(),
    holder: oneOf(FIELD_HOLDERS),
    type: oneOf(FIELD_TYPES),
    ...describing,
    formula: optional(formula),
    builtIn: optional(yesNo()),
  }),
) as Schema<Field> & { readonly optional: 'no' };

/** A field of the administrator's, as a file has it. */
const ownField = {
  id: key(),
  holder: oneOf(FIELD_HOLDERS),
  type: oneOf(OWN_FIELD_TYPES),
  ...describing,
  formula: optional(formula),
};

export const facts = {
  ownField,
  money,
  value,
  field,
  fieldsPage: page(field),
  newField: object({
    holder: oneOf(FIELD_HOLDERS),
    type: oneOf(OWN_FIELD_TYPES),
    ...describing,
    formula: optional(formula),
  }),
  fieldChange: object({
    name: optional(text({ max: 200 })),
    help: describing.help,
    min: nullableBound(),
    max: nullableBound(),
    choices: describing.choices,
  }),
};

function nullableBound() {
  return optional(nullable(number()));
}
