import { localDay, nextInTurn, type ProcessId } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import type { Context } from '../context.ts';
import { ProcessEntity } from '../db/entities/process.ts';
import { organisation } from '../session/repository.ts';
import { lockTurn, noteTurn, teamInTurn } from './repository.ts';

/** Whose a new deal is that nobody was named for. */
export interface Assigned {
  /** Null where nobody of the team is here. */
  readonly owner: string | null;
  readonly team: string;
}

/** To whom a process hands a new deal out; null where it is whoever's begins it. The turn is noted in the same transaction. */
export async function assignedInTurn(
  { clock }: Context,
  tx: EntityManager,
  process: ProcessId,
): Promise<Assigned | null> {
  const { assignment } = await tx.getRepository(ProcessEntity).findOneByOrFail({ id: process });
  if (assignment.by === 'hand') return null;
  const { team } = assignment;
  const last = await lockTurn(tx, process);
  const today = localDay(clock.now(), (await organisation(tx)).timeZone);
  const owner = nextInTurn(await teamInTurn(tx, team, today), last);
  if (owner !== null) await noteTurn(tx, process, owner);
  return { owner, team };
}
