import { foldText } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import type { Context } from '../context.ts';
import { DocumentKindEntity, type DocumentKindRow } from '../db/entities/documentKind.ts';
import { at } from '../db/sql.ts';
import { DEFAULT_LIMIT, readCursor, toPage } from '../http/pages.ts';
import { newId } from '../ids.ts';
import { invalid, notFound } from '../problems/problem.ts';
import { logSetting, type Setter } from '../settingsLog/settingsLog.ts';
import { findKinds } from './repository.ts';

interface ListQuery {
  readonly after?: string;
  readonly limit?: number;
  readonly find?: string;
}

/** Kinds of documents, by name. */
export async function listKinds(context: Context, query: ListQuery): Promise<unknown> {
  const [limit, cursor] = [query.limit ?? DEFAULT_LIMIT, readCursor(query.after, ['text'])];
  const rows = await findKinds(context.dataSource, foldText(query.find ?? ''), limit + 1, cursor?.[0]);
  return toPage(
    rows,
    limit,
    ({ name_fold }) => [name_fold],
    ({ name_fold: _fold, ...kind }) => kind,
  );
}

const toView = ({ id, name, withdrawnAt }: DocumentKindRow) => ({ id, name, withdrawn: withdrawnAt !== null });

export async function addKind(tx: EntityManager, name: string, setter: Setter): Promise<unknown> {
  return makeKind(tx, newId(setter.now), name, setter);
}

/** The same under an id that something names already. */
export async function makeKind(tx: EntityManager, id: string, name: string, setter: Setter): Promise<unknown> {
  const kinds = tx.getRepository(DocumentKindEntity);
  const row = { id, name: name.trim(), nameFold: foldText(name.trim()), withdrawnAt: null };
  if (await kinds.existsBy({ nameFold: row.nameFold })) throw nameTaken(row.name);
  await kinds.insert(row);
  await log(tx, null, row, setter);
  return toView(row);
}

function log(tx: EntityManager, before: DocumentKindRow | null, after: DocumentKindRow, setter: Setter): Promise<void> {
  const told = ({ name, withdrawnAt }: DocumentKindRow) => ({ name, offered: withdrawnAt === null });
  const change = {
    what: 'document_kind',
    subject: after.name,
    before: before && told(before),
    after: told(after),
  } as const;
  return logSetting(tx, change, setter);
}

const nameTaken = (name: string) =>
  invalid([{ pointer: '/name', detail: `There is already a kind of documents called “${name}”.` }], 409);

/** Renames a kind, or offers it no longer; where it is used it stays. */
export async function changeKind(
  tx: EntityManager,
  id: string,
  { name, withdrawn }: { readonly name?: string; readonly withdrawn?: boolean },
  setter: Setter,
): Promise<unknown> {
  const kinds = tx.getRepository(DocumentKindEntity);
  const kind = await kinds.findOneBy({ id });
  if (!kind) throw notFound('kind of documents');
  const named = name === undefined ? kind : { ...kind, name: name.trim(), nameFold: foldText(name.trim()) };
  if (named.nameFold !== kind.nameFold && (await kinds.existsBy({ nameFold: named.nameFold })))
    throw nameTaken(named.name);
  const withdrawnAt =
    withdrawn === undefined ? kind.withdrawnAt : withdrawn ? (kind.withdrawnAt ?? at(setter.now)) : null;
  await kinds.save({ ...named, withdrawnAt });
  await log(tx, kind, { ...named, withdrawnAt }, setter);
  return toView({ ...named, withdrawnAt });
}
