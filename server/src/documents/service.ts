import { open } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import type { DealId, DocumentProblem } from '@ladder/core';
import { attachDocument, removeDocument } from '@ladder/core';
import type { Request, Response } from 'express';
import type { EntityManager } from 'typeorm';
import { type Context, inLongWork } from '../context.ts';
import { openDeal, runCommand } from '../deals/runCommand.ts';
import { mediaTypeOf } from '../files/mediaType.ts';
import { once } from '../http/idempotency.ts';
import { type ReceivedFile, receiveFile } from '../http/receiveFile.ts';
import { type Reply, reply } from '../http/reply.ts';
import { newId } from '../ids.ts';
import { invalid, notFound, Problem } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import { insertChunk, offeredKinds, readChunks } from './repository.ts';

const CHUNK_BYTES = 256 * 1024;

interface Asked {
  readonly kind: string;
  readonly name: string;
}

/** Receives a document and attaches it to the deal: its pieces and its record in one transaction, or nothing. */
export async function attach(
  context: Context,
  person: Person,
  request: Request,
  deal: DealId,
  { kind, name }: Asked,
): Promise<Reply> {
  requireName(name);
  // Whoever may not change the deal need not send the file first; it is looked at again under the deal's lock.
  await openDeal(context.dataSource, person, deal, []);
  await requireKind(context, kind);
  const most = context.documentMostBytes;
  const tooLarge = () => new Problem(413, `This file is larger than ${most / 1_000_000} MB, the most that is kept.`);
  return receiveFile(request, most, tooLarge, async (file) => {
    if (file.bytes === 0) throw invalid([{ pointer: '/file', detail: 'This file is empty.' }], 422);
    const mediaType = await mediaTypeOf(file.path);
    return inLongWork(context, (tx) =>
      once(tx, { person, request, now: context.clock.now(), content: file.digest }, () =>
        store(context, tx, person, deal, file, { kind, name, mediaType }),
      ),
    );
  });
}

// biome-ignore lint/suspicious/noControlCharactersInRegex: these are what is looked for
const STRANGE = /[/\\\u0000-\u001f\u007f]/;

function requireName(name: string): void {
  if (STRANGE.test(name) || name.trim() === '' || name === '.' || name === '..')
    throw invalid([{ pointer: '/query/name', detail: 'Give the name of the file alone, without a path.' }]);
}

async function requireKind({ dataSource }: Context, kind: string): Promise<void> {
  if (!(await offeredKinds(dataSource)).has(kind))
    throw invalid([{ pointer: '/query/kind', detail: 'This kind of document is not offered. Choose another.' }]);
}

async function store(
  context: Context,
  tx: EntityManager,
  person: Person,
  deal: DealId,
  file: ReceivedFile,
  about: Asked & { readonly mediaType: string },
): Promise<Reply> {
  const id = newId<string>(context.clock.now());
  await storeChunks(tx, id, file.path);
  const detail = await runCommand(context, tx, person, deal, (command) => {
    const { bytes, digest } = file;
    const attached = attachDocument(command.deal, command.setting, { id, bytes, digest, ...about }, command.moment);
    if (!attached.ok) throw documentProblem(attached.error);
    return attached.value;
  });
  return { status: 201, body: detail };
}

async function storeChunks(tx: EntityManager, id: string, path: string): Promise<void> {
  const file = await open(path);
  try {
    let place = 0;
    for await (const chunk of file.createReadStream({ highWaterMark: CHUNK_BYTES, autoClose: false }))
      await insertChunk(tx, id, place++, chunk as Buffer);
  } finally {
    await file.close();
  }
}

function documentProblem(problem: DocumentProblem): Problem {
  switch (problem.code) {
    case 'voided':
      return new Problem(409, 'This deal is voided.');
    case 'no_such_document':
      return notFound('document');
    case 'duplicate':
      return new Problem(409, `The very same file is attached already, as “${problem.document.name}”.`);
  }
}

/** Takes a document off the deal. */
export async function remove(
  context: Context,
  tx: EntityManager,
  person: Person,
  deal: DealId,
  document: string,
): Promise<Reply> {
  const detail = await runCommand(context, tx, person, deal, (command) => {
    const removed = removeDocument(command.deal, command.setting, document, command.moment);
    if (!removed.ok) throw documentProblem(removed.error);
    return removed.value;
  });
  return reply(detail);
}

/** Sends a document's bytes: whatever they are, as an attachment of bytes, under a policy that runs nothing. */
export async function send(
  context: Context,
  person: Person,
  deal: DealId,
  id: string,
  response: Response,
): Promise<void> {
  const { deal: opened } = await openDeal(context.dataSource, person, deal, ['documents']);
  const document = opened.documents.find((one) => one.id === id && one.removed === null);
  if (!document || document.name === '') throw notFound('document');
  response.set({
    'Content-Length': String(document.bytes),
    'Content-Security-Policy': "default-src 'none'; sandbox",
    'X-Content-Type-Options': 'nosniff',
    'Cache-Control': 'private, no-store',
  });
  response.attachment(document.name);
  response.type('application/octet-stream');
  await pipeline(readChunks(context.dataSource, id), response);
}
