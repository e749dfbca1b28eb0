import { foldText } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import type { Context } from '../context.ts';
import { TeamEntity } from '../db/entities/team.ts';
import { DEFAULT_LIMIT, type ListQuery, readCursor, toPage } from '../http/pages.ts';
import { newId } from '../ids.ts';
import { notFound } from '../problems/problem.ts';
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

export async function addTeam({ clock }: Context, tx: EntityManager, name: string): Promise<unknown> {
  const id = newId(clock.now());
  await tx.getRepository(TeamEntity).insert({ id, name, nameFold: foldText(name) });
  return { id, name };
}

export async function renameTeam(context: Context, id: string, name: string): Promise<unknown> {
  const { affected } = await context.dataSource
    .getRepository(TeamEntity)
    .update({ id }, { name, nameFold: foldText(name) });
  if (affected === 0) throw notFound('team');
  return { id, name };
}
