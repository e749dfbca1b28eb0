import {
  type FactValue,
  FIELD_HOLDERS,
  FIELD_TYPES,
  FIELD_USE_WAYS,
  type Field,
  type Formula,
  OWN_FIELD_TYPES,
} from '@ladder/core';
import {
  anyDay,
  described,
  either,
  id,
  integer,
  key,
  list,
  map,
  named,
  nullable,
  number,
  object,
  oneOf,
  optional,
  page,
  processId,
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

const USED_IN = ['live', 'draft', 'in_use'] as const;

/** Where a field is used, and how often it is filled. */
const fieldUse = named(
  'FieldUse',
  object({
    field: key(),
    used: described(yesNo(), 'Whether it was published or filled, so that its type and unit stay.'),
    uses: list(
      object({
        process: object({ id: processId(), name: text() }),
        in: described(
          list(oneOf(USED_IN)),
          'Which of the process’s versions: those in use are older than the live one.',
        ),
        way: oneOf(FIELD_USE_WAYS),
        place: described(text({ min: 0 }), 'Name of the section, stage or outcome.'),
        what: described(text({ min: 0 }), 'What is asked, or the name of the step.'),
        choices: described(list(text()), 'Ids of its choices that are named there.'),
      }),
    ),
    readBy: described(list(key()), 'Calculated numbers that are worked out from it.'),
    filled: described(
      list(
        object({ process: nullable(object({ id: processId(), name: text() })), of: integer(0), filled: integer(0) }),
      ),
      'Open deals of each process whose live version lists or asks for it, or all customers or contacts; of many the newest alone.',
    ),
  }),
);

/** A record on which a formula is tried. */
const example = object({
  id: id(),
  name: text({ max: 300 }),
  currency: described(text({ min: 3, max: 3 }), 'In which amounts count.'),
  values: map(value),
  rates: list(object({ from: text({ min: 3, max: 3 }), value: text(), turned: oneOf(['yes', 'no']) })),
});

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
  fieldChange: object({ ...fieldParts(), saw: described(object(fieldParts()), 'What each changed part was before.') }),
  formulaChange: object({ formula, saw: formula }),
  choiceMapping: object({ from: key(), to: key() }),
  fieldUsesPage: page(fieldUse),
  examples: object({ items: list(example, 20) }),
};

/** Parts of a field that are changed; its type and unit only before its first use. */
function fieldParts() {
  return {
    name: optional(text({ max: 200 })),
    help: describing.help,
    type: optional(oneOf(OWN_FIELD_TYPES)),
    unit: optional(nullable(text({ max: 20 }))),
    min: optional(nullable(number())),
    max: optional(nullable(number())),
    firstDay: optional(nullable(anyDay())),
    lastDay: optional(nullable(anyDay())),
    choices: describing.choices,
  };
}
