import { DataSource, type EntityManager } from 'typeorm';

/** Anything a statement can be sent through. */
export type Connection = EntityManager | DataSource;

/** The manager of a connection, for repositories. */
export const manager = (connection: Connection): EntityManager =>
  connection instanceof DataSource ? connection.manager : connection;

/** A list that goes to PostgreSQL as an array, where others go as JSON. */
class ArrayParameter {
  constructor(readonly items: readonly string[]) {}
}

/** For `= any(:ids::uuid[])`: PostgreSQL plans an array by its length, where it would guess at rows unpacked from JSON. */
export const asArray = (items: readonly string[]): ArrayParameter => new ArrayParameter(items);

/**
 * Runs a statement whose parameters are named (`:process`), and gives its rows. Objects and arrays go as JSON. No parameter
 * is called as a type that the statement casts to: `::text` would be read as it.
 */
export async function sql<Row>(
  connection: Connection,
  statement: string,
  parameters: Readonly<Record<string, unknown>> = {},
): Promise<Row[]> {
  const given = Object.fromEntries(Object.entries(parameters).map(([name, value]) => [name, toParameter(value)]));
  const { driver } = manager(connection).dataSource;
  const [text, values] = driver.escapeQueryWithParameters(statement, given);
  const result: unknown = await connection.query(text, values);
  return (isChangeResult(result) ? result[0] : result) as Row[];
}

/** For UPDATE and DELETE the driver gives the returned rows with their number beside them. */
const isChangeResult = (result: unknown): result is [unknown[], number] =>
  Array.isArray(result) && result.length === 2 && Array.isArray(result[0]) && typeof result[1] === 'number';

function toParameter(value: unknown): unknown {
  if (value === undefined) return null;
  if (value instanceof ArrayParameter) return value.items;
  return typeof value === 'object' && value !== null && !(value instanceof Date) && !Buffer.isBuffer(value)
    ? JSON.stringify(value)
    : value;
}

/** An instant as PostgreSQL takes it: milliseconds to a date. */
export const at = (ms: number): Date => new Date(ms);
