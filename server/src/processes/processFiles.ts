import type { processes as contract, TypeOf } from '@ladder/contract';
import {
  catalogueOf,
  checkIds,
  type Field,
  type FilePlan,
  PROCESS_FILE_FORMAT,
  type ProcessFile,
  type ProcessId,
  planFile,
} from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { type Context, inTransaction } from '../context.ts';
import { CalendarEntity } from '../db/entities/calendar.ts';
import { DocumentKindEntity } from '../db/entities/documentKind.ts';
import { MessageTemplateEntity } from '../db/entities/messageTemplate.ts';
import { PersonEntity } from '../db/entities/person.ts';
import { ProcessEntity } from '../db/entities/process.ts';
import { makeKind } from '../documents/kinds.ts';
import { presentCatalogue } from '../facts/catalogue.ts';
import { lockField, makeField, rewriteField } from '../facts/service.ts';
import { newId, newKey } from '../ids.ts';
import { invalid } from '../problems/problem.ts';
import type { Setter } from '../settingsLog/settingsLog.ts';
import { ownFields } from './publishVersions.ts';
import { loadReasons } from './repository/processes.ts';

/* A process to and from a file. */

/** A published version with what it needs of what all processes share. */
export async function fileOf(
  tx: EntityManager,
  process: ProcessId,
  { document, fields }: { readonly document: ProcessFile['process']; readonly fields: readonly Field[] },
): Promise<ProcessFile> {
  const { calendarId } = await tx.getRepository(ProcessEntity).findOneByOrFail({ id: process });
  const calendar = await tx.getRepository(CalendarEntity).findOneByOrFail({ id: calendarId });
  const text = JSON.stringify(document);
  const kinds = await tx.getRepository(DocumentKindEntity).find();
  return {
    format: PROCESS_FILE_FORMAT,
    process: document,
    fields: ownFields(fieldsNamed(document), catalogueOf([...(await presentCatalogue(tx)).values(), ...fields])),
    documentKinds: kinds.filter(({ id }) => text.includes(id)).map(({ id, name }) => ({ id, name })),
    reasons: await loadReasons(tx, process),
    calendar: { name: calendar.name, workingWeekdays: calendar.workingWeekdays, holidays: calendar.holidays },
  };
}

/** Everything that the document names as a field, captured in steps and set by results too. */
const fieldsNamed = (document: ProcessFile['process']): readonly string[] => [
  ...document.sections.flatMap(({ fields }) => fields),
  ...[...JSON.stringify(document).matchAll(/"field":"([^"]+)"/g)].map(([, id]) => id ?? ''),
];

/** `above` is where the file stands in the request. */
async function planOf(tx: EntityManager, file: ProcessFile, above: string, now: number): Promise<FilePlan> {
  // What stands twice under one id cannot be told apart, whatever is made of it.
  const twice = checkIds(file.process);
  if (twice.length > 0)
    throw invalid(twice.map(({ pointer, detail }) => ({ pointer: `${above}/process${pointer}`, detail })));
  const people = await tx.getRepository(PersonEntity).find({ where: { active: true }, select: { id: true } });
  const templates = await tx.getRepository(MessageTemplateEntity).find({ select: { id: true } });
  const kinds = await tx.getRepository(DocumentKindEntity).find();
  return planFile(
    file,
    {
      catalogue: await presentCatalogue(tx),
      documentKinds: kinds.map(({ id, name }) => ({ id, name })),
      calendars: await tx.getRepository(CalendarEntity).find(),
      people: new Set(people.map(({ id }) => id)),
      templates: new Set(templates.map(({ id }) => id)),
    },
    newKey,
    () => newId(now),
  );
}

/** What reading the file in would match and make. */
export const planProcessFile = (context: Context, file: ProcessFile): Promise<TypeOf<typeof contract.filePlan>> =>
  inTransaction(context, async (tx) => {
    const { document, fields, documentKinds, calendar, left } = await planOf(tx, file, '/file', context.clock.now());
    return {
      name: document.name,
      stages: document.stages.map(({ name }) => name),
      fields: fields.map(({ field, how, added }, place) => ({
        name: file.fields[place]?.name ?? field.name,
        how,
        as: field.name,
        added: added.map(({ name }) => name),
      })),
      documentKinds: documentKinds.map(({ name, how }) => ({ name, how })),
      calendar: { how: calendar.how, name: calendar.how === 'matched' ? calendar.name : calendar.calendar.name },
      left: [...left],
    };
  });

/** Makes what the file needs and is not there; gives the document that goes by it, its calendar and its reasons. */
export async function takeInFile(
  tx: EntityManager,
  file: ProcessFile,
  setter: Setter,
): Promise<Pick<FilePlan, 'document'> & Pick<ProcessFile, 'reasons'> & { readonly calendarId: string }> {
  const { document, fields, documentKinds, calendar } = await planOf(tx, file, '/from/file', setter.now);
  for (const { field, how, added } of fields) {
    if (how === 'made') await makeField(tx, field, '/from/file', setter);
    else if (added.length > 0) await rewriteField(tx, (await lockField(tx, field.id)).definition, field, setter);
  }
  for (const { id, name, how } of documentKinds) if (how === 'made') await makeKind(tx, id, name, setter);
  return { document, calendarId: await calendarFor(tx, calendar, setter.now), reasons: file.reasons };
}

async function calendarFor(tx: EntityManager, calendar: FilePlan['calendar'], now: number): Promise<string> {
  if (calendar.how === 'matched') return calendar.id;
  const id = newId(now);
  await tx.getRepository(CalendarEntity).insert({ id, ...calendar.calendar });
  return id;
}
