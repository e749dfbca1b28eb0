import type { InputProblem } from '@ladder/contract';
import {
  checkValue,
  describeValueProblem,
  type FactValue,
  type FieldHolder,
  foldText,
  normaliseValue,
  personActor,
  type Values,
} from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { requireOwnParty } from '../access/partyAccess.ts';
import type { PartyTable } from '../access/repository.ts';
import { type Context, inCommand } from '../context.ts';
import { ContactEntity } from '../db/entities/contact.ts';
import { CustomerEntity } from '../db/entities/customer.ts';
import { partyExchange, recalculatedParty } from '../facts/calculatedParties.ts';
import { fieldsOf } from '../facts/catalogue.ts';
import { DEFAULT_LIMIT, readCursor, toPage } from '../http/pages.ts';
import { newId } from '../ids.ts';
import { invalid, notFound } from '../problems/problem.ts';
import { rejudgeDeals } from '../processes/rejudgeProcess.ts';
import type { Person } from '../session/person.ts';
import { findParties, isOffered, openDealsOf, type PartyRow } from './repository.ts';

interface PartyQuery {
  readonly after?: string;
  readonly limit?: number;
  readonly find?: string;
  readonly customer?: string;
}

interface PartyInput {
  readonly name: string;
  readonly values: Values;
}

async function listParties(
  context: Context,
  person: Person,
  table: PartyTable,
  query: PartyQuery,
): Promise<{ items: PartyRow[]; next: string | null }> {
  const [limit, cursor] = [query.limit ?? DEFAULT_LIMIT, readCursor(query.after, ['text', 'id'])];
  const rows = await findParties(context.dataSource, person, table, { ...query, limit: limit + 1, cursor });
  return toPage(
    rows,
    limit,
    (row) => [row.name_fold, row.id],
    (row) => row,
  );
}

export async function listCustomers(context: Context, person: Person, query: PartyQuery): Promise<unknown> {
  const { items, next } = await listParties(context, person, 'customers', query);
  return { items: items.map(({ id, name, values }) => ({ id, name, values })), next };
}

export async function listContacts(context: Context, person: Person, query: PartyQuery): Promise<unknown> {
  const { items, next } = await listParties(context, person, 'contacts', query);
  return { items: items.map(({ id, name, values, customer }) => ({ id, customer, name, values })), next };
}

async function checkedValues(
  tx: EntityManager,
  holder: Exclude<FieldHolder, 'deal'>,
  values: Values,
  before: Values = {},
): Promise<Values> {
  const catalogue = await fieldsOf(tx, holder);
  const problems = Object.entries(values).flatMap(([id, value]): InputProblem[] => {
    const field = catalogue.get(id);
    if (!field) return [{ pointer: `/values/${id}`, detail: `There is no such field on a ${holder}.` }];
    const problem = checkValue(field, value, before[id]);
    return problem ? [{ pointer: `/values/${id}`, detail: describeValueProblem(problem) }] : [];
  });
  if (problems.length > 0) throw invalid(problems);
  const written = Object.entries(values).map(([id, value]): [string, FactValue] => [id, normaliseValue(value)]);
  return recalculatedParty({ ...before, ...Object.fromEntries(written) }, holder, await partyExchange(tx, catalogue));
}

export async function addCustomer(
  { clock }: Context,
  tx: EntityManager,
  { name, values: given }: PartyInput,
): Promise<unknown> {
  const values = await checkedValues(tx, 'customer', given);
  const id = newId(clock.now());
  await tx.getRepository(CustomerEntity).insert({ id, name, nameFold: foldText(name), values });
  return { id, name, values };
}

/** Changes what is given of a customer, and judges its open deals again: criteria may read what changed (S29). */
export async function changeCustomer(
  context: Context,
  person: Person,
  id: string,
  { name: newName, values: given = {} }: Partial<PartyInput>,
): Promise<unknown> {
  return inCommand(context, async (tx) => {
    const customers = tx.getRepository(CustomerEntity);
    const row = await customers.findOne({ where: { id }, lock: { mode: 'for_no_key_update' } });
    if (!row) throw notFound('customer');
    await requireOwnParty(tx, person, 'customers', id);
    const name = newName ?? row.name;
    const values = await checkedValues(tx, 'customer', given, row.values);
    await customers.update({ id }, { name, nameFold: foldText(name), values });
    await rejudgeDealsOf(context, tx, person, 'customers', id);
    return { id, name, values };
  });
}

async function rejudgeDealsOf(
  context: Context,
  tx: EntityManager,
  person: Person,
  table: PartyTable,
  id: string,
): Promise<void> {
  const now = context.clock.now();
  await rejudgeDeals(tx, await openDealsOf(tx, table, id), {
    by: personActor(person.id),
    happenedAt: now,
    recordedAt: now,
  });
}

type ContactInput = PartyInput & { readonly customer: string | null };

/** Changes what is given of a contact, and judges its open deals again, as with a customer. */
export async function changeContact(
  context: Context,
  person: Person,
  id: string,
  { values: given = {}, ...change }: Partial<ContactInput>,
): Promise<unknown> {
  return inCommand(context, async (tx) => {
    const contacts = tx.getRepository(ContactEntity);
    const row = await contacts.findOne({ where: { id }, lock: { mode: 'for_no_key_update' } });
    if (!row) throw notFound('contact');
    await requireOwnParty(tx, person, 'contacts', id);
    const { name, customer } = { name: row.name, customer: row.customerId, ...change };
    await requireCustomer(tx, person, customer);
    const values = await checkedValues(tx, 'contact', given, row.values);
    await contacts.update({ id }, { customerId: customer, name, nameFold: foldText(name), values });
    await rejudgeDealsOf(context, tx, person, 'contacts', id);
    return { id, customer, name, values };
  });
}

async function requireCustomer(tx: EntityManager, person: Person, customer: string | null): Promise<void> {
  if (customer === null) return;
  if (!(await isOffered(tx, person, customer))) throw notFound('customer');
}

export async function addContact(
  { clock }: Context,
  tx: EntityManager,
  person: Person,
  { name, values: given, customer }: ContactInput,
): Promise<unknown> {
  const values = await checkedValues(tx, 'contact', given);
  await requireCustomer(tx, person, customer);
  const id = newId(clock.now());
  await tx.getRepository(ContactEntity).insert({ id, customerId: customer, name, nameFold: foldText(name), values });
  return { id, customer, name, values };
}
