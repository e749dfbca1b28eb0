import { FINDING_KINDS } from '@ladder/core';
import { deal } from './deals.ts';
import { facts } from './facts.ts';
import { processes } from './processes.ts';
import {
  day,
  dealId,
  described,
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
  page,
  processId,
  stageId,
  text,
} from './schema.ts';

const counts = {
  deals: integer(0),
  clear: integer(0),
  flagged: integer(0),
  held: integer(0),
  /** Open findings by kind; kinds without any are left out. */
  findings: map(integer(0)),
  /** Deals with at least one finding of the kind. */
  dealsWith: map(integer(0)),
};

const share = nullable(object({ of: integer(0), count: integer(0), share: number(), low: number(), high: number() }));

const ofStep = { stage: object({ id: stageId(), name: text() }), step: key(), name: text() };

export const compliance = {
  summary: named(
    'ComplianceSummary',
    object({
      process: object({ id: processId(), name: text() }),
      version: nullable(processes.versionName),
      today: day(),
      on: described(day(), 'The day that it is told of.'),
      currency: text({ max: 3 }),
      stages: list(object({ id: stageId(), name: text(), ...counts })),
      all: object(counts),
      kinds: list(oneOf(FINDING_KINDS)),
      heldMinor: integer(),
      heldWithoutRate: integer(0),
      olderVersions: integer(0),
    }),
  ),
  findingsPage: page(
    named(
      'FindingRow',
      object({
        deal: object({
          id: dealId(),
          name: text(),
          customer: nullable(text()),
          owner: nullable(text()),
          value: nullable(facts.money),
          standing: deal.standing,
        }),
        stage: object({ id: stageId(), name: text() }),
        finding: deal.finding,
        others: integer(0),
      }),
    ),
  ),
  work: named(
    'StepWork',
    object({
      process: object({ id: processId(), name: text() }),
      today: day(),
      from: day(),
      to: day(),
      standing: list(object({ ...ofStep, deals: integer(0), late: integer(0) })),
    }),
  ),
  stepsDonePage: page(
    named(
      'StepsDone',
      object({
        ...ofStep,
        person: object({ id: nullable(id()), name: text() }),
        result: key(),
        resultName: text(),
        count: integer(1),
        late: integer(0),
      }),
    ),
  ),
  pastDuePage: page(
    named(
      'PastDue',
      object({
        process: object({ id: processId(), name: text() }),
        team: nullable(object({ id: id(), name: text() })),
        person: nullable(object({ id: id(), name: text() })),
        lateSteps: integer(0),
        lateDeals: integer(0),
        pastTarget: integer(0),
      }),
    ),
  ),
  runsPage: page(
    named(
      'StepRunRow',
      object({
        deal: object({ id: dealId(), name: text(), owner: nullable(text()) }),
        seq: integer(1),
        stage: object({ id: stageId(), name: text() }),
        step: text(),
        result: nullable(text()),
        person: nullable(text()),
        dueDay: nullable(day()),
        doneDay: nullable(day()),
        daysLate: integer(0),
      }),
    ),
  ),
  movement: named(
    'Movement',
    object({
      process: object({ id: processId(), name: text() }),
      version: nullable(processes.versionName),
      from: day(),
      to: day(),
      stages: list(
        object({
          stage: stageId(),
          name: text(),
          targetDays: nullable(integer(1)),
          entered: integer(0),
          movedOn: integer(0),
          lost: integer(0),
          returned: integer(0),
          openDeals: integer(0),
          openPastTarget: integer(0),
          movedOnShare: share,
          medianDays: nullable(number()),
          staysEnded: integer(0),
          steps: list(
            object({
              step: key(),
              name: text(),
              runs: integer(1),
              medianDays: nullable(number()),
              results: list(object({ result: key(), name: text(), count: integer(1) })),
            }),
          ),
        }),
      ),
      won: integer(0),
      lost: integer(0),
      started: integer(0),
      medianCycleDays: nullable(number()),
      winShare: share,
    }),
  ),
};
