import { type Connection, sql } from '../db/sql.ts';

export interface Organisation {
  readonly name: string;
  readonly timeZone: string;
  /** The currency in which totals are told. */
  readonly currency: string;
  readonly demo: boolean;
}

const UNNAMED: Organisation = { name: 'Dusty Ladder', timeZone: 'Europe/London', currency: 'GBP', demo: false };

/** The organisation's settings; before it has any, plain ones. */
export async function organisation(connection: Connection): Promise<Organisation> {
  const [row] = await sql<Organisation>(
    connection,
    `select name, time_zone as "timeZone", currency, demo from organisation`,
  );
  return row ?? UNNAMED;
}
