import { RUN_ENDS } from '@ladder/core';
import {
  day,
  described,
  id,
  instant,
  integer,
  key,
  named,
  nullable,
  object,
  oneOf,
  stageId,
  text,
  yesNo,
} from './schema.ts';

/* What is done with a deal: the steps at hand and done, and what is attached to it. */

const runParts = {
  seq: integer(1),
  stage: stageId(),
  step: key(),
  name: text(),
  visitSeq: integer(1),
  owed: yesNo(),
};

export const stepAtHand = named(
  'StepAtHand',
  object({
    ...runParts,
    begunDay: day(),
    dueDay: nullable(day()),
    daysLate: integer(0),
    person: nullable(object({ id: id(), name: text() })),
    /** When it goes on by itself, and with which result. */
    goesOn: nullable(object({ at: instant(), result: key() })),
    /** How often it was done before in this stay. */
    doneBefore: integer(0),
  }),
);

export const stepDone = named(
  'StepDone',
  object({
    ...runParts,
    how: oneOf(RUN_ENDS),
    resultName: nullable(text()),
    at: instant(),
    day: day(),
    by: nullable(text()),
    dueDay: nullable(day()),
    takeBack: yesNo(),
  }),
);

export const documentOfDeal = named(
  'DealDocument',
  object({
    id: id(),
    kind: object({ id: id(), name: text() }),
    name: described(text({ min: 0 }), 'Empty where it was erased.'),
    mediaType: described(text(), 'As found from its bytes.'),
    /** What its name says it is, where that is something else. */
    namedAs: nullable(text()),
    bytes: integer(0),
    at: instant(),
    by: nullable(text()),
  }),
);
