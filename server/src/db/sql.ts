import type { DataSource, EntityManager } from 'typeorm';

/** Anything a statement can be sent through. */
export type Connection = Pick<EntityManager, 'query'> | Pick<DataSource, 'query'>;

/** A list that goes to PostgreSQL as an array, where others go as JSON. */
class ArrayParameter {
  constructor(readonly items: readonly string[]) {}
}

/** For `= any(:ids::uuid[])`: PostgreSQL plans an array by its length, where it would guess at rows unpacked from JSON. */
export const asArray = (items: readonly string[]): ArrayParameter => new ArrayParameter(items);

/** Runs a statement whose parameters are named (`:process`), and gives its rows. Objects and arrays go as JSON. */
export async function sql<Row>(
  connection: Connection,
  statement: string,
  parameters: Readonly<Record<string, unknown>> = {},
): Promise<Row[]> {
  const values: unknown[] = [];
  const places = new Map<string, number>();
  const text = statement.replace(/(?<!:):([a-zA-Z]\w*)/g, (_match, name: string) => {
    if (!(name in parameters)) throw new Error(`The statement names :${name}, which was not given`);
    if (!places.has(name)) places.set(name, values.push(toParameter(parameters[name])));
    return `$${places.get(name)}`;
  });
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
