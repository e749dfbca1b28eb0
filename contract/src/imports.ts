import { DATE_ORDERS, DATE_READINGS, DEAL_COLUMNS } from '@ladder/core';
import {
  described,
  id,
  instant,
  integer,
  key,
  list,
  named,
  nullable,
  object,
  oneOf,
  optional,
  page,
  processId,
  stageId,
  text,
} from './schema.ts';

const cell = object({ text: text({ min: 0, max: 20_000 }), problem: nullable(text()) });
const columnTarget = processColumnTarget();
function processColumnTarget() {
  return object({
    to: oneOf(['deal', 'field', 'nothing']),
    column: described(nullable(oneOf(DEAL_COLUMNS)), 'What of the deal itself, where `to` is `deal`.'),
    field: described(nullable(key()), 'The field’s id, where `to` is `field`.'),
    order: optional(
      described(oneOf(DATE_ORDERS), 'In which order the dates of the column are written, where its cells fit both.'),
    ),
  });
}
const importSettings = {
  process: processId(),
  delimiter: oneOf([',', ';', '\t']),
  columns: list(columnTarget, 500),
  known: oneOf(['skip', 'update']),
  stage: stageId(),
};

export const IMPORT_STATES = ['uploaded', 'running', 'done', 'failed', 'taking_back', 'taken_back'] as const;

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
      /** How many of its deals are taken back so far. */
      takenBack: integer(0),
      failure: nullable(text()),
      mayTakeBack: oneOf(['yes', 'no']),
    }),
  ),
  preview: named(
    'ImportPreview',
    object({
      headers: list(text({ min: 0, max: 20_000 })),
      /** What the cells of each column say of the order of their dates, over the whole file. */
      dateOrders: list(oneOf(DATE_READINGS)),
      settings: object(importSettings),
      rows: list(object({ line: integer(1), cells: list(cell), problem: nullable(text()) })),
      problems: list(object({ pointer: text({ min: 0 }), detail: text() })),
    }),
  ),
};

export const importsPage = page(imports.summary);
