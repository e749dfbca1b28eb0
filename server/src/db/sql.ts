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
  const { text, names } = numbered(statement);
  const values = names.map((name) => {
    if (!(name in parameters)) throw new Error(`Nothing is given for :${name}`);
    return toParameter(parameters[name]);
  });
  const result: unknown = await connection.query(text, values);
  return (isChangeResult(result) ? result[0] : result) as Row[];
}

interface Numbered {
  readonly text: string;
  /** What is given for $1, $2 and so on. */
  readonly names: readonly string[];
}

const MOST_NUMBERED = 5_000;
const known = new Map<string, Numbered>();

/** The statement with its parameters by number, as PostgreSQL takes them; each is taken apart once. */
function numbered(statement: string): Numbered {
  const before = known.get(statement);
  if (before) return before;
  const names: string[] = [];
  const text = statement.replace(/(?<![:\w]):(?=[A-Za-z_])(\w+)/g, (_named, name: string) => {
    if (!names.includes(name)) names.push(name);
    return `$${names.indexOf(name) + 1}`;
  });
  if (known.size >= MOST_NUMBERED) known.clear();
  known.set(statement, { text, names });
  return { text, names };
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
