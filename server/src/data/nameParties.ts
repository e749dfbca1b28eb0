import { type FactValue, foldText, type Values } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { newId } from '../ids.ts';
import { findByName, insertParties, type NewParty, type Party, TABLES, type Table } from './repository/parties.ts';

/** Values that name a customer and a contact by what they are called, and the customer of the deal they are written to. */
export interface NamingRow {
  readonly values: Values;
  /** Where the row itself names no customer. */
  readonly presentCustomer: string | null;
}

/** The values with ids in place of names, or why one of them cannot be told. */
export type NamedRow = { readonly values: Values } | { readonly problem: string };

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
  const made: NewParty[] = [];
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
  await insertParties(tx, table, made, naming.importId);
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
