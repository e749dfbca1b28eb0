import { type FactValue, foldText, type Values } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { asArray, sql } from '../db/sql.ts';
import { newId } from '../ids.ts';

/** Values that name a customer and a contact by what they are called, and the customer of the deal they are written to. */
export interface NamingRow {
  readonly values: Values;
  /** Where the row itself names no customer. */
  readonly presentCustomer: string | null;
}

/** The values with ids in place of names, or why one of them cannot be told. */
export type NamedRow = { readonly values: Values } | { readonly problem: string };

interface Party {
  readonly id: string;
  readonly fold: string;
  readonly customer: string | null;
}

/** Who makes customers and contacts that are new, and when. */
export interface Naming {
  readonly importId: string;
  readonly now: number;
}

/**
 * Turns the names of customers, then of contacts, into ids, making those that are new. A contact is looked for among its
 * customer's own, so two people of one name stay two; where several are meant none is chosen.
 */
export async function nameParties(
  tx: EntityManager,
  naming: Naming,
  rows: readonly NamingRow[],
): Promise<readonly NamedRow[]> {
  const customers = await nameAll(tx, naming, 'customers', rows);
  const contacts = await nameAll(
    tx,
    naming,
    'contacts',
    rows.map((row, place) => ({ ...row, values: valuesOf(customers[place]) ?? {} })),
  );
  return customers.map((named, place) => ('problem' in named ? named : (contacts[place] ?? named)));
}

const valuesOf = (named: NamedRow | undefined): Values | null => (named && 'values' in named ? named.values : null);

const TABLES = {
  customers: { field: 'customer', owner: 'null::uuid' },
  contacts: { field: 'contact', owner: 'customer_id' },
} as const;
type Table = keyof typeof TABLES;

async function nameAll(
  tx: EntityManager,
  naming: Naming,
  table: Table,
  rows: readonly NamingRow[],
): Promise<readonly NamedRow[]> {
  const { field } = TABLES[table];
  const folds = new Set(rows.flatMap(({ values }) => foldOf(values[field]) ?? []));
  if (folds.size === 0) return rows.map(({ values }) => ({ values }));
  const known = await findByName(tx, table, [...folds]);
  const made: (Party & { readonly name: string })[] = [];
  const named = rows.map(({ values, presentCustomer }): NamedRow => {
    const [name, fold] = [values[field], foldOf(values[field])];
    if (fold === null || typeof name !== 'string') return { values };
    const customer = table === 'contacts' ? customerOf(values, presentCustomer) : null;
    const meant = known.filter((party) => party.fold === fold && isMeant(table, party, customer));
    if (meant.length > 1) return { problem: severalText(table, meant.length, name, customer) };
    const party = meant[0] ?? { id: newId(naming.now), fold, customer };
    if (meant.length === 0) {
      known.push(party);
      made.push({ ...party, name });
    }
    return { values: { ...values, [field]: party.id } };
  });
  await insert(tx, table, made, naming.importId);
  return named;
}

const foldOf = (value: FactValue | undefined): string | null => (typeof value === 'string' ? foldText(value) : null);

const customerOf = ({ customer }: Values, present: string | null): string | null =>
  typeof customer === 'string' ? customer : present;

/** Of a contact whose customer is known only that customer's own are meant. */
const isMeant = (table: Table, party: Party, customer: string | null): boolean =>
  table === 'customers' || customer === null || party.customer === customer;

function severalText(table: Table, count: number, name: string, customer: string | null): string {
  if (table === 'customers')
    return `There are ${count} customers called “${name}”. Give them names of their own first.`;
  return customer === null
    ? `There are ${count} contacts called “${name}”. Match a column to the customer, so that it is known which is meant.`
    : `The customer has ${count} contacts called “${name}”. Give them names of their own first.`;
}

const findByName = (tx: EntityManager, table: Table, folds: readonly string[]): Promise<Party[]> =>
  sql<Party>(
    tx,
    `select id, name_fold as fold, ${TABLES[table].owner} as customer from ${table}
     where name_fold = any(:folds::text[]) and withdrawn_at is null order by id`,
    { folds: asArray(folds) },
  );

async function insert(
  tx: EntityManager,
  table: Table,
  parties: readonly (Party & { readonly name: string })[],
  importId: string,
): Promise<void> {
  if (parties.length === 0) return;
  const rows = parties.map(({ id, fold, name, customer }) => ({ id, name, fold, customer }));
  const owner = table === 'contacts' ? { column: ', customer_id', value: ', customer' } : { column: '', value: '' };
  await sql(
    tx,
    `insert into ${table} (id, name, name_fold, import_id${owner.column})
     select id, name, fold, :importId::uuid${owner.value} from jsonb_to_recordset(:rows) as r(id uuid, name text, fold text, customer uuid)`,
    { rows, importId },
  );
}
