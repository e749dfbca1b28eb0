import { OUTCOME_COUNTS } from '@ladder/core';
import { deal } from './deals.ts';
import { processes } from './processes.ts';
import {
  day,
  described,
  integer,
  key,
  list,
  named,
  nullable,
  number,
  object,
  oneOf,
  processId,
  stageId,
  text,
} from './schema.ts';

const ageCount = object({
  age: integer(0),
  count: integer(1),
  past: integer(0),
  minor: integer(),
  standing: deal.standing,
});
const laneStage = object({
  id: stageId(),
  name: text(),
  chance: integer(0, 100),
  targetDays: nullable(integer(1)),
  count: integer(0),
  minor: integer(),
  weightedMinor: integer(),
  held: integer(0),
  pastTarget: integer(0),
  medianAge: nullable(number()),
  ages: list(ageCount),
  cards: list(deal.card),
});
/** A way in which deals end: what was closed so this month, and what closing so asks. */
const laneOutcome = object({
  id: key(),
  name: text({ min: 0 }),
  counts: oneOf(OUTCOME_COUNTS),
  count: integer(0),
  minor: integer(),
  reasons: integer(0),
  followUpReasons: integer(0),
});

/** The lanes of a process: each stage's figures, its ages, and as many cards as a screen can show. */
export const lanes = named(
  'Lanes',
  object({
    process: object({ id: processId(), name: text() }),
    currency: text({ max: 3 }),
    version: nullable(processes.versionName),
    today: day(),
    on: described(day(), 'The day that they are told of.'),
    stages: list(laneStage),
    otherStages: list(laneStage),
    openDeals: integer(0),
    allOpenDeals: integer(0),
    minor: integer(),
    weightedMinor: integer(),
    held: integer(0),
    pastTarget: integer(0),
    withoutRate: integer(0),
    outcomes: list(laneOutcome),
    movesAsk: described(
      oneOf(['nothing', 'may']),
      'Whether whoever moves a deal on may be asked what comes next, or what becomes of its tasks.',
    ),
  }),
);
