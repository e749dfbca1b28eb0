import type { EntityManager } from 'typeorm';
import type { Context } from '../context.ts';
import type { Person } from '../session/person.ts';
import { type DealDetail, presentDeal } from './present.ts';
import type { Done } from './runCommand.ts';

/** The deal as it stands after a command, made from what was just written. */
export const presentChange = (
  context: Context,
  tx: EntityManager,
  person: Person,
  { change, setting }: Done,
): Promise<DealDetail> => presentDeal(context, tx, person, change.deal, setting);
