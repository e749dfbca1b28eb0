import { createHash, type Hash } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import type { Request } from 'express';
import type { Problem } from '../problems/problem.ts';

/** A file as it was received: on the disk, for as long as it is used. */
export interface ReceivedFile {
  readonly path: string;
  readonly bytes: number;
  /** SHA-256 of its bytes, in hexadecimal. */
  readonly digest: string;
}

/**
 * Reads a request's body onto the disk and gives it to `use`; afterwards it is gone again. However slowly it comes, it holds no
 * connection to the database, and one that is broken off leaves nothing. Throws `tooLarge` past so many bytes.
 */
export async function receiveFile<T>(
  request: Request,
  most: number,
  tooLarge: () => Problem,
  use: (file: ReceivedFile) => Promise<T>,
): Promise<T> {
  if (Number(request.get('Content-Length') ?? 0) > most) throw tooLarge();
  const folder = await mkdtemp(join(tmpdir(), 'ladder-upload-'));
  try {
    const path = join(folder, 'file');
    const digest = createHash('sha256');
    const seen = { bytes: 0 };
    await pipeline(
      request,
      (body: AsyncIterable<Buffer>) => bounded(body, digest, seen, most, tooLarge),
      createWriteStream(path),
    );
    return await use({ path, bytes: seen.bytes, digest: digest.digest('hex') });
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** The body as it comes, up to the size that is read, counted and put into the digest on its way. */
async function* bounded(
  body: AsyncIterable<Buffer>,
  digest: Hash,
  seen: { bytes: number },
  most: number,
  tooLarge: () => Problem,
): AsyncGenerator<Buffer> {
  for await (const part of body) {
    seen.bytes += part.length;
    if (seen.bytes > most) throw tooLarge();
    digest.update(part);
    yield part;
  }
}
