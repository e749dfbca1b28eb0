import type { deal as contract, TypeOf } from '@ladder/contract';
import { daysOfStay, isPastTarget } from '@ladder/core';
import type { Connection } from '../db/sql.ts';
import { type Ahead, NOTHING_AHEAD, readAhead } from './ahead.ts';
import { daysLate } from './presentSteps.ts';
import type { CardRow } from './repository/cards.ts';

export type DealCard = TypeOf<typeof contract.card>;

/** Cards, those of open deals with what lies before them. */
export async function toCards(
  connection: Connection,
  rows: readonly CardRow[],
  today: string,
  now: number,
): Promise<readonly DealCard[]> {
  const open = rows.filter(({ status }) => status === 'open');
  const ahead = await readAhead(connection, open, now);
  return rows.map((row) => toCard(row, today, ahead.get(row.id) ?? NOTHING_AHEAD));
}

function toCard(row: CardRow, today: string, { missing, step }: Ahead): DealCard {
  const { id, name, customer, stage, owner, team, status } = row;
  return {
    id,
    name,
    customer,
    stage,
    owner,
    team,
    status,
    value: row.minor === null || row.currency === null ? null : { minor: row.minor, currency: row.currency },
    age: daysOfStay(row.entered, row.left, today),
    moveOnDay: row.move_on,
    closeDate: row.close_date,
    pastTarget: status === 'open' && isPastTarget(row.move_on, today),
    standing: row.standing,
    findings: row.findings,
    owed: row.owed,
    revision: row.revision,
    missing,
    step: step && { daysLate: daysLate(step.dueDay, today), ...step },
  };
}
