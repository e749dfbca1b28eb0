import { FINDING_KINDS } from '@ladder/core';
import { deal } from './deals.ts';
import { facts } from './facts.ts';
import { processes } from './processes.ts';
import {
  day,
  id,
  instant,
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

export const compliance = {
  summary: named(
    'ComplianceSummary',
    object({
      process: object({ id: id(), name: text() }),
      version: nullable(processes.version),
      today: day(),
      currency: text({ max: 3 }),
      stages: list(object({ id: key(), name: text(), ...counts })),
      all: object(counts),
      kinds: list(oneOf(FINDING_KINDS)),
      heldMinor: integer(),
      olderVersions: integer(0),
    }),
  ),
  findingsPage: page(
    named(
      'FindingRow',
      object({
        deal: object({
          id: id(),
          name: text(),
          customer: nullable(text()),
          owner: nullable(text()),
          value: nullable(facts.money),
          standing: deal.standing,
        }),
        stage: object({ id: key(), name: text() }),
        finding: deal.finding,
        others: integer(0),
      }),
    ),
  ),
  movement: named(
    'Movement',
    object({
      process: object({ id: id(), name: text() }),
      version: nullable(processes.version),
      from: day(),
      to: day(),
      stages: list(
        object({
          stage: key(),
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

const cell = object({ text: text({ min: 0, max: 20_000 }), problem: nullable(text()) });
const columnTarget = processColumnTarget();
function processColumnTarget() {
  return object({ to: oneOf(['deal', 'field', 'nothing']), column: nullable(text()), field: nullable(key()) });
}
const importSettings = {
  process: id(),
  delimiter: oneOf([',', ';', '\t']),
  columns: list(columnTarget, 500),
  known: oneOf(['skip', 'update']),
  stage: key(),
};

export const IMPORT_STATES = ['uploaded', 'running', 'done', 'failed', 'taken_back'] as const;

export const imports = {
  settings: object(importSettings),
  summary: named(
    'Import',
    object({
      id: id(),
      fileName: text({ max: 300 }),
      state: oneOf(IMPORT_STATES),
      uploadedAt: instant(),
      by: nullable(text()),
      bytes: integer(0),
      rowsRead: integer(0),
      rowsTotal: nullable(integer(0)),
      created: integer(0),
      updated: integer(0),
      skipped: integer(0),
      bad: integer(0),
      failure: nullable(text()),
      mayTakeBack: oneOf(['yes', 'no']),
    }),
  ),
  preview: named(
    'ImportPreview',
    object({
      headers: list(text({ min: 0, max: 20_000 })),
      settings: object(importSettings),
      rows: list(object({ line: integer(1), cells: list(cell), problem: nullable(text()) })),
      problems: list(object({ pointer: text({ min: 0 }), detail: text() })),
    }),
  ),
};

export const importsPage = page(imports.summary);
