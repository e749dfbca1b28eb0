import {
  ACTIVITY_KINDS,
  ASKED_AT,
  BINDINGS,
  DEAL_STATUSES,
  type FactValue,
  FINDING_KINDS,
  FINDING_ORIGINS,
  GATE_ANSWERS,
  ITEM_STATES,
  JOURNAL_KINDS,
  LEVELS,
  MOVE_KINDS,
  OUTCOME_COUNTS,
  STANDINGS,
  type Values,
} from '@ladder/core';
import { documentOfDeal, stepAtHand, stepDone } from './dealWork.ts';
import { facts } from './facts.ts';
import { journalBody } from './journal.ts';
import { pieces } from './pieces.ts';
import { processes } from './processes.ts';
import { requirementKind } from './requirements.ts';
import {
  day,
  dealId,
  described,
  id,
  instant,
  integer,
  type Known,
  key,
  list,
  map,
  named,
  nullable,
  object,
  oneOf,
  optional,
  page,
  processId,
  stageId,
  tagged,
  text,
  versionId,
  yesNo,
} from './schema.ts';
import { tasks } from './tasks.ts';
import { waivers } from './waivers.ts';

const level = oneOf(LEVELS);
const currencyPair = object({ from: text({ max: 3 }), to: text({ max: 3 }) });
const remedy = tagged(
  'kind',
  object({ kind: oneOf(['none', 'decide']) }),
  object({ kind: oneOf(['fill']), fields: list(key()) }),
  object({ kind: oneOf(['tick']), item: key() }),
  object({ kind: oneOf(['steps']), stage: key() }),
  object({ kind: oneOf(['step']), step: key() }),
  object({ kind: oneOf(['attach']), document: key() }),
  object({ kind: oneOf(['log']), activity: oneOf(ACTIVITY_KINDS) }),
  object({ kind: oneOf(['set_rate']), rates: list(currencyPair) }),
);
const itemVerdict = named(
  'ItemVerdict',
  object({
    id: text(),
    kind: requirementKind,
    stage: nullable(stageId()),
    at: oneOf(ASKED_AT),
    level,
    binds: oneOf(BINDINGS),
    passedOver: yesNo(),
    state: oneOf(ITEM_STATES),
    says: pieces,
    message: nullable(text({ min: 0 })),
    actual: nullable(text({ min: 0, max: 20_000 })),
    remedy,
    mayApply: list(key()),
    mayApplyRates: list(currencyPair),
  }),
);
const target = tagged(
  'to',
  object({ to: oneOf(['stage']), stage: stageId() }),
  object({ to: oneOf(['outcome']), outcome: key() }),
);
const verdict = named(
  'Verdict',
  object({
    target,
    kind: oneOf(MOVE_KINDS),
    over: list(stageId()),
    answer: oneOf(GATE_ANSWERS),
    items: list(itemVerdict),
  }),
);
const currencyCode = text({ min: 3, max: 3, pattern: /^[A-Z]{3}$/ });
const party = object({ id: id(), name: text() });
const values = map(facts.value) as unknown as Known<Values>;
const standing = oneOf(STANDINGS);

const change = object({ field: key(), saw: facts.value as Known<FactValue>, value: facts.value as Known<FactValue> });

const card = named(
  'DealCard',
  object({
    id: dealId(),
    name: text(),
    customer: nullable(text()),
    stage: stageId(),
    owner: nullable(text()),
    team: nullable(text()),
    value: nullable(facts.money),
    age: integer(0),
    moveOnDay: nullable(day()),
    closeDate: nullable(text()),
    pastTarget: yesNo(),
    standing,
    findings: integer(0),
    /** Findings about what it owes for stages that it entered, left or skipped. */
    owed: integer(0),
    missing: integer(0),
    /** The step at hand, owed ones first. */
    step: nullable(object({ name: text(), dueDay: nullable(day()), daysLate: integer(0) })),
    /** As of this revision; a move made from the card goes with it. */
    revision: integer(1),
    status: oneOf(DEAL_STATUSES),
  }),
);
const finding = named(
  'Finding',
  object({
    key: text(),
    kind: oneOf(FINDING_KINDS),
    level,
    origin: oneOf(FINDING_ORIGINS),
    requirement: nullable(text()),
    askedBy: nullable(key()),
    since: instant(),
    sinceDays: integer(0),
    says: pieces,
    actual: nullable(text({ min: 0, max: 20_000 })),
  }),
);
const visit = object({
  seq: integer(1),
  stage: stageId(),
  enteredDay: day(),
  leftDay: nullable(day()),
  days: integer(0),
  moveOnDay: nullable(day()),
});
const pathStep = object({
  seq: integer(1),
  kind: oneOf(MOVE_KINDS),
  from: nullable(stageId()),
  to: nullable(stageId()),
  over: list(stageId()),
  forced: yesNo(),
  at: instant(),
  by: nullable(text()),
});
const status = tagged(
  'state',
  object({ state: oneOf(['open']) }),
  object({
    state: oneOf(OUTCOME_COUNTS),
    outcome: key(),
    day: day(),
    reason: nullable(text()),
    followUp: nullable(day()),
    estimate: nullable(
      described(
        object({ value: nullable(facts.money), day: nullable(day()) }),
        'What had been expected of a deal that was won; its value and close date say what came of it.',
      ),
    ),
  }),
  object({ state: oneOf(['voided']) }),
);

/** The version that a deal follows and what the organisation set beside it: the same for most deals, so told once. */
const setting = named(
  'DealSetting',
  object({
    document: processes.document,
    calendar: object({ workingWeekdays: list(integer(1, 7)), holidays: list(day()) }),
    fields: list(facts.field),
    reasons: list(object({ id: key(), outcome: key(), name: text(), followUp: oneOf(['asked', 'not_asked']) })),
    taskFates: processes.taskFates,
    waiverRights: waivers.rights,
    nextActionRule: described(oneOf(['off', ...LEVELS]), 'The house rule that a deal has a next action.'),
  }),
);
const detail = named(
  'Deal',
  object({
    id: dealId(),
    name: text(),
    externalId: nullable(text()),
    process: object({ id: processId(), name: text() }),
    version: processes.versionName,
    customer: nullable(party),
    contact: nullable(party),
    status,
    stage: stageId(),
    revision: integer(1),
    standing,
    values,
    partyValues: values,
    currency: text({ max: 3 }),
    age: integer(0),
    createdAt: instant(),
    visits: list(visit),
    path: list(pathStep),
    ticked: list(object({ item: key(), at: instant(), by: nullable(text()) })),
    stepsAtHand: list(stepAtHand),
    stepsDone: list(stepDone),
    documents: list(documentOfDeal),
    tasks: described(list(tasks.task), 'Those that are open by their due days, then those that ended last.'),
    waivers: described(
      list(waivers.waiver),
      'Those to be decided, those in force, then what came of the others, the last first.',
    ),
    gate: nullable(verdict),
    owed: list(itemVerdict),
    findings: list(finding),
    attempt: nullable(object({ target: text(), at: instant(), by: nullable(text()) })),
    takeBack: nullable(object({ seq: integer(1), kind: oneOf(MOVE_KINDS), until: nullable(instant()) })),
    setting: described(
      object({ id: text({ max: 40 }), told: nullable(setting) }),
      'The id says what is in it; told where a deal is read by who does not know it.',
    ),
    names: map(text()),
    may: object({ change: yesNo(), force: yesNo(), void: yesNo(), reopen: yesNo() }),
  }),
);

const journalEntry = named(
  'JournalEntry',
  object({
    of: described(
      oneOf(['deal', 'process']),
      'Whose journal it stands in; what happened to the process while the deal followed it is told in its place.',
    ),
    seq: integer(1),
    kind: oneOf(JOURNAL_KINDS),
    stage: stageId(),
    happenedAt: instant(),
    recordedAt: instant(),
    by: nullable(text()),
    body: journalBody,
    text: nullable(text({ min: 0, max: 20_000 })),
    says: pieces,
  }),
);

const tasksGoOn = described(
  oneOf(['keep', 'cancel']),
  'What becomes of the open tasks, where the process asks whoever moves the deal.',
);

/** What open work does as a deal changes its owner. */
const along = oneOf(['go', 'stay']);

const final = described(
  object({ value: nullable(facts.money), day: day() }),
  'How a deal that is won ends: its value, and the day on which it was agreed. Its value as it is and today where it is left out.',
);

export const deal = {
  pieces,
  standing,
  itemVerdict,
  verdict,
  card,
  finding,
  detail,
  setting,
  target,
  cardsPage: page(card),
  newDeal: object({
    process: processId(),
    name: text({ max: 200 }),
    stage: optional(stageId()),
    externalId: optional(text({ max: 200 })),
    currency: optional(
      described(currencyCode, 'The currency of the deal, ISO 4217; the process’s where it is left out.'),
    ),
    from: optional(described(dealId(), 'A closed deal that this one goes on from: each journal names the other.')),
    values,
  }),
  edit: object({
    name: optional(text({ max: 200 })),
    changes: list(change, 200),
  }),
  askWaiver: object({ target, items: list(text({ max: 80 }), 100), why: text(), until: day() }),
  tick: object({ item: key(), state: oneOf(['ticked', 'unticked']) }),
  move: object({
    target,
    revision: integer(1),
    mode: optional(oneOf(['ask', 'force'])),
    text: optional(text()),
    reason: optional(key()),
    followUp: optional(day()),
    tasks: optional(tasksGoOn),
    final: optional(final),
    changes: optional(
      described(list(change, 20), 'Fields that are set with the move, such as the next action; also where it is held.'),
    ),
  }),
  moved: object({ deal: detail, verdict }),
  /** A reason in a person's own words, where nothing else is asked. */
  why: object({ text: text() }),
  voiding: object({ text: text(), duplicateOf: optional(dealId()) }),
  takeBack: object({ revision: integer(1), text: optional(text()) }),
  result: object({
    result: key(),
    version: described(versionId(), 'The version in which the caller saw where the result leads.'),
    captures: list(change, 200),
    text: optional(text()),
    reason: optional(key()),
    followUp: optional(day()),
    tasks: optional(tasksGoOn),
    final: optional(final),
  }),
  resultTaken: object({
    deal: detail,
    move: nullable(object({ result: oneOf(['moved', 'held']), verdict })),
  }),
  resultTakenBack: object({ text: optional(text()) }),
  puttingOff: object({ day: day(), text: text() }),
  passing: object({ person: id() }),
  followUp: object({ day: nullable(day()), text: optional(described(text(), 'Why, for the journal.')) }),
  reassign: object({
    deals: list(dealId(), 100),
    owner: id(),
    team: described(oneOf(['keep', 'owners']), 'Deals keep their team, or go to the first of the new owner’s.'),
    tasks: described(along, 'Open tasks of the owner before.'),
    steps: described(along, 'Steps at hand that fall to the owner before.'),
    watchers: described(oneOf(['keep', 'drop']), 'Whether those who watch the deals watch them still.'),
    waivers: described(
      along,
      'Requests of the owner before that are to be decided; those that stay behind are withdrawn.',
    ),
  }),
  reassigned: object({ deals: integer(0), owner: text() }),
  onDay: object({ day: day() }),
  activity: object({ kind: oneOf(ACTIVITY_KINDS), text: text({ max: 20_000 }), happenedAt: optional(instant()) }),
  journalPage: page(journalEntry),
  journalEntry,
};
