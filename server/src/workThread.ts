import type { DataSource } from 'typeorm';
import { createDataSource } from './db/dataSource.ts';
import { isConnectionLost } from './db/failures.ts';
import { createLog } from './log.ts';
import { runWork, type WorkPlace } from './longWork/runWork.ts';
import type { ThreadTask } from './longWork/workThreads.ts';
import { type PreviewEffect, previewEffect } from './processes/previewEffect.ts';
import type { PreviewTask } from './threads.ts';
import { workKinds } from './workKinds.ts';

/* A thread that does long work and looks ahead at what would come of a publish, with connections of its own. */

type Told = Pick<ThreadTask, 'databaseUrl' | 'logLevel'>;

let present: { readonly url: string; readonly place: Promise<WorkPlace> } | null = null;

/** Connected once for all works of a database, and anew where that failed. */
async function placeOf(told: Told): Promise<WorkPlace> {
  if (present?.url !== told.databaseUrl) {
    await leave();
    present = { url: told.databaseUrl, place: connectAll(told) };
    present.place.catch(() => {
      present = null;
    });
  }
  return present.place;
}

async function connectAll({ databaseUrl, logLevel }: Told): Promise<WorkPlace> {
  const connect = (connections = 1): Promise<DataSource> => createDataSource(databaseUrl, connections).initialize();
  return {
    work: await connect(),
    telling: await connect(),
    apart: await connect(2),
    kinds: workKinds,
    log: createLog(logLevel),
  };
}

async function leave(): Promise<void> {
  const place = await present?.place;
  for (const source of place ? [place.work, place.telling, place.apart] : []) await source.destroy();
}

export default async ({ id, now, ...told }: ThreadTask): Promise<void> => runWork(await placeOf(told), id, now);

/** Nothing where the database went away. */
export async function preview({ previewed, ...told }: PreviewTask): Promise<PreviewEffect | undefined> {
  try {
    return await previewEffect((await placeOf(told)).work, previewed);
  } catch (error) {
    if (isConnectionLost(error)) return undefined;
    throw error;
  }
}
