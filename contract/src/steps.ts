import {
  CAPTURE_NEEDS,
  DUE_AFTER,
  type FactValue,
  type GuidedStep,
  MESSAGE_HOWS,
  MOST_ACTIONS,
  MOST_RESULTS,
  MOST_WAIT_DAYS,
  STEP_ROLES,
} from '@ladder/core';
import { facts } from './facts.ts';
import { integer, type Known, key, list, nullable, object, oneOf, stageId, tagged, text } from './schema.ts';

const who = tagged(
  'by',
  object({ by: oneOf(['owner', 'bringer']) }),
  object({ by: oneOf(['person']), person: text({ min: 0, max: 100 }) }),
  object({ by: oneOf(['role']), role: oneOf(STEP_ROLES) }),
);
const leads = tagged(
  'to',
  object({ to: oneOf(['next', 'finish', 'move_on']) }),
  object({ to: oneOf(['step']), step: key() }),
  object({ to: oneOf(['stage']), stage: stageId() }),
  object({ to: oneOf(['outcome']), outcome: key(), reason: nullable(key()) }),
);

const set = tagged(
  'to',
  object({ to: oneOf(['value']), value: facts.value as Known<FactValue> }),
  object({ to: oneOf(['today', 'empty']) }),
);
/** A message that is prepared of a template, by a result or on arrival. */
export const messageAction = object({
  do: oneOf(['message']),
  template: text({ min: 0, max: 40 }),
  how: oneOf(MESSAGE_HOWS),
});
const action = tagged(
  'do',
  object({ do: oneOf(['set_field']), field: key(), set }),
  object({ do: oneOf(['tick']), item: key() }),
  object({ do: oneOf(['note']), text: text({ min: 0, max: 2_000 }) }),
  object({ do: oneOf(['add_tasks']), set: key() }),
  messageAction,
);

/** A guided step of a stage, as a process document has it. */
export const step = object({
  id: key(),
  name: text({ min: 0, max: 120 }),
  instruction: text({ min: 0, max: 10_000 }),
  who,
  due: nullable(object({ days: integer(0, 3_650), counting: oneOf(['calendar', 'working']), after: oneOf(DUE_AFTER) })),
  captures: list(object({ field: key(), need: oneOf(CAPTURE_NEEDS) }), 50),
  results: list(
    object({
      id: key(),
      name: text({ min: 0, max: 120 }),
      captures: oneOf(['asked', 'not_asked']),
      leads,
      actions: list(action, MOST_ACTIONS),
    }),
    MOST_RESULTS,
  ),
  byItself: nullable(object({ days: integer(1, MOST_WAIT_DAYS), result: key() })),
  afterReturn: oneOf(['keep', 'again']),
}) as Known<GuidedStep>;
