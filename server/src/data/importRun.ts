import type { DealId, FactValue, ImportedRow, ImportTerms, Moment, ProcessId, Setting } from '@ladder/core';
import type { CsvRecord } from './csv.ts';
import type { ImportSettings } from './repository/imports.ts';

/** What an import goes by while it runs. */
export interface Run {
  readonly id: string;
  readonly fileName: string;
  readonly settings: ImportSettings;
  readonly setting: Setting;
  readonly terms: ImportTerms;
  readonly moment: Moment;
  /** Each person's first team, which their deals get where the file names none. */
  readonly teams: ReadonlyMap<string, string>;
  /** Line on which each external id of the file was first seen. */
  readonly seen: Map<string, number>;
  readonly counts: { read: number; created: number; updated: number; skipped: number; bad: number };
}

export interface GoodRow {
  readonly record: CsvRecord;
  readonly row: ImportedRow;
  /** What the customer is called, for deals without a name of their own. */
  readonly customerName?: FactValue | undefined;
}

export interface BadRow {
  readonly record: CsvRecord;
  readonly reason: string;
}

export interface KnownDeal {
  readonly id: DealId;
  readonly external: string;
  readonly process: ProcessId;
  readonly customer: string | null;
}
