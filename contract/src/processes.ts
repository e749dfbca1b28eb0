import {
  type Assignment,
  DOCUMENT_FORMAT,
  HOUSE_RULES,
  LEVELS,
  MOST_ARRIVALS,
  MOST_STEPS,
  MOST_TASK_SETS,
  OUTCOME_COUNTS,
  PROCESS_FILE_FORMAT,
  PROCESS_KINDS,
  type ProcessChange,
  type ProcessDocument,
  type ProcessFile,
  RULES,
  STANDINGS,
  STARTING_POINTS,
  TASK_FATES,
} from '@ladder/core';
import { criterion } from './criteria.ts';
import { facts } from './facts.ts';
import { checklistItem, requirement } from './requirements.ts';
import {
  anyDay,
  day,
  dealId,
  described,
  formatNumber,
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
import { settingChanges } from './settingsLog.ts';
import { messageAction, step } from './steps.ts';
import { taskSet } from './tasks.ts';
import { waivers } from './waivers.ts';

const requirements = list(requirement, 200);
const stage = object({
  id: stageId(),
  name: text({ min: 0, max: 120 }),
  purpose: text({ min: 0 }),
  chance: integer(0, 100),
  target: nullable(object({ days: integer(1, 3650), counting: oneOf(['calendar', 'working']) })),
  idleDays: nullable(integer(1, 3650)),
  enter: requirements,
  leave: requirements,
  checklist: list(checklistItem, 200),
  steps: list(step, MOST_STEPS),
  arrival: list(tagged('do', object({ do: oneOf(['add_tasks']), set: key() }), messageAction), MOST_ARRIVALS),
});
const document = named(
  'ProcessDocument',
  object({
    format: formatNumber(DOCUMENT_FORMAT),
    name: text({ max: 200 }),
    purpose: text({ min: 0 }),
    kind: oneOf(PROCESS_KINDS),
    currency: text({ min: 3, max: 3 }),
    sections: list(object({ id: key(), name: text({ max: 200 }), fields: list(key(), 500) }), 50),
    skips: oneOf(RULES),
    returns: oneOf(RULES),
    stages: list(stage, 60),
    outcomes: list(
      object({ id: key(), name: text({ min: 0, max: 120 }), counts: oneOf(OUTCOME_COUNTS), requirements }),
      20,
    ),
    taskSets: list(taskSet, MOST_TASK_SETS),
  }),
) as Known<ProcessDocument>;

export const VERSION_STATES = ['draft', 'live', 'in_use', 'past'] as const;

const versionParts = {
  id: versionId(),
  number: integer(1),
  state: oneOf(VERSION_STATES),
  publishedAt: nullable(instant()),
  publishedBy: nullable(text()),
};
/** A version as a deal or a measure names it. */
const versionName = named('VersionName', object(versionParts));
/** A version with how many open deals, of those that the person may see, follow it. */
const version = named(
  'Version',
  object({ ...versionParts, openDeals: integer(0), note: nullable(text({ max: 2_000 })) }),
);
const draft = named(
  'Draft',
  object({
    version: versionId(),
    number: integer(1),
    revision: integer(1),
    savedAt: instant(),
    document,
    fields: list(facts.field),
  }),
);
const houseRules = object(
  Object.fromEntries(HOUSE_RULES.map((rule) => [rule, oneOf(['off', ...LEVELS] as const)])) as Record<
    (typeof HOUSE_RULES)[number],
    ReturnType<typeof houseRuleLevel>
  >,
);
function houseRuleLevel() {
  return oneOf(['off', ...LEVELS] as const);
}
const reason = object({
  id: key(),
  outcome: key(),
  name: text({ max: 200 }),
  followUp: oneOf(['asked', 'not_asked']),
  withdrawn: oneOf(['no', 'yes']),
});

const fate = () => oneOf(TASK_FATES);
/** What becomes of a deal's open tasks on these moves. */
const taskFates = object({ forward: fate(), return: fate(), closing: fate() });

/** Whose sellers and managers see it; everyone's where no teams are named. */
const access = object({ teams: optional(list(id(), 200)) });
const assignment = tagged(
  'by',
  object({ by: oneOf(['hand']) }),
  object({ by: oneOf(['turn']), team: id() }),
) as Known<Assignment>;

const logEntry = named(
  'ProcessLogEntry',
  object({
    id: text(),
    at: instant(),
    by: text(),
    what: oneOf(['settings', 'dismissal']),
    changes: settingChanges,
  }),
);

const summary = named(
  'ProcessSummary',
  object({
    id: processId(),
    name: text(),
    purpose: text({ min: 0 }),
    kind: oneOf(PROCESS_KINDS),
    openDeals: integer(0),
    stages: integer(0),
    live: nullable(version),
    draft: nullable(object({ number: integer(1), savedAt: instant() })),
    closedToNew: yesNo(),
  }),
);

const ofStage = { stage: stageId(), name: text() };
const change = tagged(
  'kind',
  object({ kind: oneOf(['stage_added', 'stage_removed', 'steps_changed', 'arrival_changed']), ...ofStage }),
  object({ kind: oneOf(['stage_renamed']), ...ofStage, before: text() }),
  object({ kind: oneOf(['stages_reordered', 'rules_changed', 'wording_changed', 'task_sets_changed']) }),
  object({ kind: oneOf(['chance_changed']), ...ofStage, before: integer(0, 100), after: integer(0, 100) }),
  object({ kind: oneOf(['target_changed']), ...ofStage, before: nullable(integer(1)), after: nullable(integer(1)) }),
  object({
    kind: oneOf(['requirement_added', 'requirement_removed', 'requirement_changed', 'requirement_reworded']),
    requirement: key(),
    stage: nullable(stageId()),
    name: text(),
  }),
) as Known<ProcessChange>;

const ownField = object({ ...facts.ownField });
/** A process as a file: its document, and what it needs of what all processes share. */
const file = named(
  'ProcessFile',
  object({
    format: formatNumber(PROCESS_FILE_FORMAT),
    process: document,
    fields: list(ownField, 500),
    documentKinds: list(object({ id: id(), name: text({ max: 200 }) }), 200),
    reasons: list(reason, 200),
    calendar: object({
      name: text({ max: 200 }),
      workingWeekdays: list(integer(1, 7), 7),
      holidays: list(anyDay(), 2_000),
    }),
  }),
) as Known<ProcessFile>;
const matching = () => oneOf(['matched', 'made']);

/** How many of the deals that a publish turns are named, of each kind. */
export const MOST_TURNED = 100;
function standings() {
  return object({ open: integer(0), held: integer(0), flagged: integer(0) });
}

export const processes = {
  taskFates,
  criterion,
  document,
  version,
  versionName,
  draft,
  summary,
  processesPage: page(summary),
  detail: named(
    'Process',
    object({
      id: processId(),
      name: text(),
      kind: oneOf(PROCESS_KINDS),
      closedToNew: yesNo(),
      calendar: described(object({ id: id(), name: text() }), 'By which its working days are counted.'),
      access,
      assignment,
      houseRules,
      reasons: list(reason),
      taskFates,
      waiverRights: waivers.rights,
      versions: list(version),
      live: nullable(object({ version, document, fields: list(facts.field) })),
      hasDraft: yesNo(),
    }),
  ),
  log: page(logEntry),
  versionDetail: object({ version, document, fields: list(facts.field) }),
  newProcess: object({
    name: text({ max: 200 }),
    kind: oneOf(PROCESS_KINDS),
    currency: text({ min: 3, max: 3 }),
    firstStage: optional(described(text({ max: 120 }), 'Of a process that begins with one bare stage.')),
    from: optional(
      tagged(
        'as',
        object({ as: oneOf(['start']), start: oneOf(STARTING_POINTS) }),
        described(
          object({ as: oneOf(['copy']), process: processId() }),
          'A copy of a process as it is live, with its reasons and what else is set beside its versions.',
        ),
        described(
          object({ as: oneOf(['file']), file }),
          'A process of a file (`GET /processes/{process}/versions/{number}/file`); what it needs is matched or made.',
        ),
      ),
    ),
  }),
  settings: object({
    houseRules: optional(houseRules),
    reasons: optional(list(reason, 200)),
    taskFates: optional(taskFates),
    waiverRights: optional(waivers.rights),
    closedToNew: optional(yesNo()),
    access: optional(access),
    assignment: optional(assignment),
  }),
  beginDraft: object({
    from: optional(described(integer(1, 2 ** 31 - 1), 'An earlier version; the live one where none is named.')),
  }),
  saveDraft: object({ document }),
  presence: object({ others: list(object({ id: id(), name: text() })), revision: integer(1) }),
  file,
  fileToPlan: object({ file }),
  filePlan: named(
    'ProcessFilePlan',
    object({
      name: text(),
      stages: list(text({ min: 0 })),
      fields: list(object({ name: text(), how: matching(), as: text(), added: list(text()) })),
      documentKinds: list(object({ name: text(), how: matching() })),
      calendar: object({ name: text(), how: matching() }),
      left: list(text()),
    }),
  ),
  preview: named(
    'PublishPreview',
    object({
      number: integer(1),
      changes: list(change),
      touchesGates: yesNo(),
      problems: list(object({ pointer: text({ min: 0 }), detail: text() })),
      openDeals: integer(0),
      newlyHeld: integer(0),
      newlyFlagged: integer(0),
      newlyClear: integer(0),
      stages: described(
        list(object({ stage: stageId(), name: text(), before: standings(), after: standings() })),
        'Open deals by stage, as they stand and as they would after the days of grace.',
      ),
      turned: described(
        list(
          object({ deal: dealId(), name: text(), stage: stageId(), before: oneOf(STANDINGS), after: oneOf(STANDINGS) }),
          3 * MOST_TURNED,
        ),
        `Deals behind the numbers of those newly held, flagged and clear, at most ${MOST_TURNED} of each.`,
      ),
      removedStages: list(object({ id: stageId(), name: text(), openDeals: integer(0) })),
    }),
  ),
  publish: object({
    deals: oneOf(['move_over', 'stay']),
    graceDays: integer(0, 365),
    note: optional(described(text({ max: 2_000 }), 'What changes, for all who have deals of the process.')),
    waive: optional(
      described(
        object({ until: day(), why: text({ max: 2_000 }) }),
        'Grants each deal that fails only what changed a waiver of that, until a day.',
      ),
    ),
    transfers: described(
      map(stageId(), key()),
      'By the id of each removed stage that open deals are in (`removedStages` of the preview), the id of the stage they go to.',
    ),
  }),
  published: object({ version, movedDeals: integer(0) }),
};
