import { type Connection, sql } from '../db/sql.ts';

export interface KindRow {
  readonly id: string;
  readonly name: string;
  readonly name_fold: string;
  readonly withdrawn: boolean;
}

export const findKinds = (
  connection: Connection,
  find: string,
  limit: number,
  after: string | undefined,
): Promise<KindRow[]> =>
  sql<KindRow>(
    connection,
    `select id, name, name_fold, withdrawn_at is not null as withdrawn from document_kinds
     where (:after::text is null or name_fold > :after) and strpos(name_fold, :find) > 0 order by name_fold limit :limit`,
    { after, find, limit },
  );

/** Names of the kinds that are still offered, by id. */
export async function offeredKinds(connection: Connection): Promise<ReadonlyMap<string, string>> {
  const rows = await sql<{ id: string; name: string }>(
    connection,
    'select id, name from document_kinds where withdrawn_at is null',
  );
  return new Map(rows.map(({ id, name }) => [id, name]));
}

export const insertChunk = (
  connection: Connection,
  document: string,
  place: number,
  content: Buffer,
): Promise<unknown> =>
  sql(connection, 'insert into document_chunks values (:document, :place, :content)', { document, place, content });

/** The pieces of a document, one at a time, so that it is never held whole. */
export async function* readChunks(connection: Connection, document: string): AsyncGenerator<Buffer> {
  for (let place = 0; ; place++) {
    const [row] = await sql<{ content: Buffer }>(
      connection,
      'select content from document_chunks where document_id = :document and place = :place',
      { document, place },
    );
    if (!row) return;
    yield row.content;
  }
}
