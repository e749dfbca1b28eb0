import { open } from 'node:fs/promises';
import { fileTypeFromFile } from 'file-type';
import { lookup } from 'mime-types';

const UNKNOWN = 'application/octet-stream';
const HEAD_BYTES = 4_096;

/** What a file is by its bytes, whatever it is called: text that cannot be told further is plain text, so that nothing in it runs. */
export async function mediaTypeOf(path: string): Promise<string> {
  const found = await fileTypeFromFile(path);
  if (found) return found.mime;
  return (await looksLikeText(path)) ? 'text/plain' : UNKNOWN;
}

async function looksLikeText(path: string): Promise<boolean> {
  const file = await open(path);
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(HEAD_BYTES), 0, HEAD_BYTES, 0);
    return bytesRead > 0 && !buffer.subarray(0, bytesRead).includes(0);
  } finally {
    await file.close();
  }
}

/** What a name says the file is, where that is something else than was found; null where they agree or the name says nothing. */
export function namedAs(name: string, mediaType: string): string | null {
  const said = lookup(name) || null;
  if (said === null || said === mediaType) return null;
  // What is told by its bytes as text or an archive alone may be any of the formats that are made of those.
  const isMadeOf =
    (mediaType === 'text/plain' &&
      (said.startsWith('text/') || /\b(json|csv|markdown)\b/.test(said)) &&
      said !== 'text/html') ||
    (mediaType === 'application/zip' && /zip|officedocument|opendocument|epub/.test(said)) ||
    mediaType === 'application/x-cfb';
  return isMadeOf ? null : said;
}
