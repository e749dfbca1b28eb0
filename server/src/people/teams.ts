import { foldText } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { type Context, inCommand } from '../context.ts';
import { TeamEntity } from '../db/entities/team.ts';
import { DEFAULT_LIMIT, type ListQuery, readCursor, toPage } from '../http/pages.ts';
import { newId } from '../ids.ts';
import { notFound } from '../problems/problem.ts';
import { logSetting, type Setter } from '../settingsLog/settingsLog.ts';
import { findTeams } from './repository.ts';

export async function listTeams(context: Context, query: ListQuery): Promise<unknown> {
  const [limit, cursor] = [query.limit ?? DEFAULT_LIMIT, readCursor(query.after, ['text'])];
  const rows = await findTeams(context.dataSource, foldText(query.find ?? ''), limit + 1, cursor?.[0]);
  return toPage(
    rows,
    limit,
    (row) => [row.name_fold],
    ({ id, name }) => ({ id, name }),
  );
}

export async function addTeam(tx: EntityManager, name: string, setter: Setter): Promise<unknown> {
  const id = newId(setter.now);
  await tx.getRepository(TeamEntity).insert({ id, name, nameFold: foldText(name) });
  await logSetting(tx, { what: 'team', subject: name, before: null, after: { name } }, setter);
  return { id, name };
}

export const renameTeam = (context: Context, id: string, name: string, setter: Setter): Promise<unknown> =>
  inCommand(context, async (tx) => {
    const teams = tx.getRepository(TeamEntity);
    const team = await teams.findOne({ where: { id }, lock: { mode: 'pessimistic_write' } });
    if (!team) throw notFound('team');
    await teams.update({ id }, { name, nameFold: foldText(name) });
    await logSetting(tx, { what: 'team', subject: name, before: { name: team.name }, after: { name } }, setter);
    return { id, name };
  });
