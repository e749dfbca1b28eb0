import type { InputProblem } from '@ladder/contract';
import {
  type ColumnTarget,
  DEAL_COLUMNS,
  foldText,
  type ImportTerms,
  type Lookup,
  localDay,
  placeOf,
  type Setting,
} from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { sql } from '../db/sql.ts';
import { invalid, Problem } from '../http/problem.ts';
import { loadSetting } from '../processes/settings.ts';
import type { ImportSettings } from './repository.ts';

/** The live version's surroundings that an import goes by. */
export async function importSetting(tx: EntityManager, process: string): Promise<Setting> {
  const [live] = await sql<{ id: string }>(
    tx,
    `select id from process_versions where process_id = :process and state = 'live'`,
    { process },
  );
  if (!live)
    throw new Problem(422, 'This process has no live version yet.', {
      errors: [{ pointer: '/process', detail: 'Publish the process first.' }],
    });
  return loadSetting(tx, live.id);
}

/** The contract's flat columns as core has them; throws with the pointer of one that makes no sense. */
export function toColumns(settings: ImportSettings, setting: Setting): readonly ColumnTarget[] {
  const problems: InputProblem[] = [];
  if (placeOf(setting.document, settings.stage) < 0)
    problems.push({ pointer: '/stage', detail: 'The process has no such stage.' });
  const seen = new Set<string>();
  const columns = settings.columns.map(({ to, column, field }, place): ColumnTarget => {
    const key = `${to} ${column ?? field ?? ''}`;
    if (to !== 'nothing' && seen.has(key))
      problems.push({ pointer: `/columns/${place}`, detail: 'Two columns are matched to the same thing.' });
    seen.add(key);
    const known = DEAL_COLUMNS.find((candidate) => candidate === column);
    const target = setting.catalogue.get(field ?? '');
    if (to === 'deal' && known) return { to, column: known };
    if (to === 'field' && target?.holder === 'deal' && target.type !== 'calculated') return { to, field: target.id };
    if (to !== 'nothing')
      problems.push({ pointer: `/columns/${place}`, detail: 'There is nothing like this to import into.' });
    return { to: 'nothing' };
  });
  if (
    !columns.some((target) => target.to === 'deal' && target.column === 'name') &&
    !columns.some((target) => target.to === 'field' && target.field === 'customer')
  ) {
    problems.push({ pointer: '/columns', detail: 'Match a column to the deal’s name or to its customer.' });
  }
  if (problems.length > 0) throw invalid(problems, 422);
  return columns;
}

/** Columns as the contract has them. */
export const fromColumns = (columns: readonly ColumnTarget[]): ImportSettings['columns'] =>
  columns.map((target) => ({
    to: target.to,
    column: target.to === 'deal' ? target.column : null,
    field: target.to === 'field' ? target.field : null,
  }));

/** How rows are read: people by name or e-mail, teams by name; customers and contacts are made where they are new, so any text will do. */
export async function importTerms(
  tx: EntityManager,
  columns: readonly ColumnTarget[],
  setting: Setting,
  now: number,
): Promise<ImportTerms> {
  const people = await sql<{ id: string; name: string; email: string }>(
    tx,
    `select id, name, email_fold as email from people where active`,
  );
  const teams = await sql<{ id: string; name: string }>(tx, `select id, name_fold as name from teams`);
  const byName = new Map(
    people.flatMap(
      ({ id, name, email }) =>
        [
          [foldText(name), id],
          [email, id],
        ] as [string, string][],
    ),
  );
  const teamByName = new Map(teams.map(({ id, name }) => [name, id]));
  const lookup: Lookup = (type, text) => {
    if (type === 'person') return byName.get(foldText(text)) ?? null;
    return type === 'team' ? (teamByName.get(foldText(text)) ?? null) : text;
  };
  return {
    columns,
    catalogue: setting.catalogue,
    stages: setting.document.stages,
    currency: setting.document.currency,
    today: localDay(now, setting.zone),
    lookup,
  };
}
