import { CAPTURE_NEEDS, DUE_AFTER, type GuidedStep, MOST_RESULTS, STEP_ROLES } from '@ladder/core';
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

/** A guided step of a stage, as a process document has it. */
export const step = object({
  id: key(),
  name: text({ min: 0, max: 120 }),
  instruction: text({ min: 0, max: 10_000 }),
  who,
  due: nullable(object({ days: integer(0, 3_650), counting: oneOf(['calendar', 'working']), after: oneOf(DUE_AFTER) })),
  captures: list(object({ field: key(), need: oneOf(CAPTURE_NEEDS) }), 50),
  results: list(
    object({ id: key(), name: text({ min: 0, max: 120 }), captures: oneOf(['asked', 'not_asked']), leads }),
    MOST_RESULTS,
  ),
  afterReturn: oneOf(['keep', 'again']),
}) as Known<GuidedStep>;
