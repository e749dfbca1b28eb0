import type { InputProblem } from '@ladder/contract';
import type { ProcessId } from '@ladder/core';
import {
  type ColumnTarget,
  type DateOrder,
  type DateReading,
  type DealColumn,
  failed,
  foldText,
  type ImportTerms,
  type Lookup,
  localDay,
  ok,
  orderOf,
  placeOf,
  type Setting,
} from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { PersonEntity } from '../db/entities/person.ts';
import { TeamEntity } from '../db/entities/team.ts';
import { invalid, Problem } from '../problems/problem.ts';
import { loadSetting } from '../setting/repository/settings.ts';
import { liveVersion } from '../setting/repository/versions.ts';
import type { ImportSettings } from './repository/imports.ts';

/** The live version's surroundings that an import goes by. */
export async function importSetting(tx: EntityManager, process: ProcessId): Promise<Setting> {
  const live = await liveVersion(tx, process);
  if (!live)
    throw new Problem(422, 'This process has no live version yet.', {
      errors: [{ pointer: '/process', detail: 'Publish the process first.' }],
    });
  return loadSetting(tx, live.id);
}

/** What is wrong with the settings themselves, each at its pointer; empty where an import may go by them. */
export function settingsProblems(
  settings: ImportSettings,
  setting: Setting,
  orders: readonly DateReading[],
): readonly InputProblem[] {
  const problems: InputProblem[] = [];
  if (placeOf(setting.document, settings.stage) < 0)
    problems.push({ pointer: '/stage', detail: 'The process has no such stage.' });
  const seen = new Set<string>();
  settings.columns.forEach((column, place) => {
    const key = `${column.to} ${column.column ?? column.field ?? ''}`;
    const pointer = `/columns/${place}`;
    if (column.to === 'nothing') return;
    if (seen.has(key)) problems.push({ pointer, detail: 'Two columns are matched to the same thing.' });
    seen.add(key);
    const target = toTarget(column, setting);
    if (target.to === 'nothing') problems.push({ pointer, detail: 'There is nothing like this to import into.' });
    else if (holdsDates(target, setting))
      problems.push(...orderProblems(orders[place] ?? 'none', column.order, pointer));
  });
  const isNamed = settings.columns.some(({ to, column, field }) =>
    to === 'deal' ? column === 'name' : to === 'field' && field === 'customer',
  );
  if (!isNamed) problems.push({ pointer: '/columns', detail: 'Match a column to the deal’s name or to its customer.' });
  return problems;
}

/** A column of dates is read in one order: its own, or the one that was said where its cells fit both. */
function orderProblems(reading: DateReading, chosen: DateOrder | undefined, pointer: string): readonly InputProblem[] {
  if (reading === 'mixed')
    return [
      {
        pointer,
        detail:
          'This column has dates written day first and dates written month first. Write them alike, then upload it again.',
      },
    ];
  if (reading !== 'either' || chosen) return [];
  return [
    {
      pointer: `${pointer}/order`,
      detail: 'The dates of this column can be read day first or month first. Say which.',
    },
  ];
}

const holdsDates = (target: ColumnTarget, setting: Setting): boolean =>
  target.to === 'deal'
    ? DATE_COLUMNS.includes(target.column)
    : target.to === 'field' && setting.catalogue.get(target.field)?.type === 'date';

const DATE_COLUMNS: readonly DealColumn[] = ['created', 'entered_stage', 'last_activity'];

type ContractColumn = ImportSettings['columns'][number];

/** A column of the contract as core has it; nothing where it makes no sense. */
function toTarget({ to, column, field }: ContractColumn, setting: Setting): ColumnTarget {
  const target = setting.catalogue.get(field ?? '');
  if (to === 'deal' && column) return { to, column };
  if (to === 'field' && target?.holder === 'deal' && target.type !== 'calculated') return { to, field: target.id };
  return { to: 'nothing' };
}

/** Columns as the contract has them. */
export const fromColumns = (columns: readonly ColumnTarget[]): ImportSettings['columns'] =>
  columns.map((target) => ({
    to: target.to,
    column: target.to === 'deal' ? target.column : null,
    field: target.to === 'field' ? target.field : null,
  }));

/** Throws where an import cannot go by the settings. */
export function requireGoodSettings(settings: ImportSettings, setting: Setting, orders: readonly DateReading[]): void {
  const problems = settingsProblems(settings, setting, orders);
  if (problems.length > 0) throw invalid(problems, 422);
}

/** How rows are read: people by name or e-mail, teams by name; customers and contacts are made where they are new, so any text will do. */
export async function importTerms(
  tx: EntityManager,
  settings: ImportSettings,
  setting: Setting,
  orders: readonly DateReading[],
  now: number,
): Promise<ImportTerms> {
  const people = await tx
    .getRepository(PersonEntity)
    .find({ where: { active: true }, select: { id: true, name: true, emailFold: true } });
  const teams = await tx.getRepository(TeamEntity).find();
  const named = {
    person: idsByName(
      people.flatMap(({ id, name, emailFold }) => [[foldText(name), id] as const, [emailFold, id] as const]),
    ),
    team: idsByName(teams.map(({ id, nameFold }) => [nameFold, id] as const)),
  };
  const lookup: Lookup = (type, text) => {
    if (type !== 'person' && type !== 'team') return ok(text);
    const [only, ...others] = named[type].get(foldText(text)) ?? [];
    if (only === undefined) return failed('none');
    return others.length > 0 ? failed('several') : ok(only);
  };
  return {
    columns: settings.columns.map((column) => toTarget(column, setting)),
    orders: settings.columns.map(({ order }, place) => orderOf(orders[place] ?? 'none', order)),
    catalogue: setting.catalogue,
    stages: setting.document.stages,
    currency: setting.document.currency,
    today: localDay(now, setting.zone),
    lookup,
  };
}

function idsByName(pairs: readonly (readonly [string, string])[]): ReadonlyMap<string, readonly string[]> {
  const ids = new Map<string, string[]>();
  for (const [name, id] of pairs) ids.set(name, [...new Set([...(ids.get(name) ?? []), id])]);
  return ids;
}
