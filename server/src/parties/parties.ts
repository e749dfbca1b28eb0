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
import { requireOwnParty, visibleParties } from '../access/partyAccess.ts';
import { type Context, inCommand } from '../context.ts';
import { CustomerEntity } from '../db/entities/customer.ts';
import { likeText } from '../db/likeText.ts';
import { sql } from '../db/sql.ts';
import { partyExchange, recalculatedParty } from '../facts/calculatedParties.ts';
import { fieldsOf } from '../facts/catalogue.ts';
import { DEFAULT_LIMIT, readCursor, toPage } from '../http/pages.ts';
import { newId } from '../ids.ts';
import { invalid, notFound } from '../problems/problem.ts';
import { rejudgeDeals } from '../processes/rejudgeProcess.ts';
import type { Person } from '../session/person.ts';

interface PartyRow {
  readonly id: string;
  readonly name: string;
  readonly name_fold: string;
  readonly values: Values;
  readonly customer: string | null;
}

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
  table: 'customers' | 'contacts',
  query: PartyQuery,
): Promise<{ items: PartyRow[]; next: string | null }> {
  const [limit, cursor] = [query.limit ?? DEFAULT_LIMIT, readCursor(query.after, ['text', 'id'])];
  const customer = table === 'customers' ? 'null::uuid' : 'customer_id';
  const seen = visibleParties(person, table);
  const rows = await sql<PartyRow>(
    context.dataSource,
    `select id, name, name_fold, values, ${customer} as customer from ${table}
     where withdrawn_at is null and ${seen.condition} and (:name::text is null or (name_fold, id) > (:name::text, :id::uuid)) and (:find::text is null or name_fold like :find::text)
       and (:customer::uuid is null or ${customer} = :customer::uuid) order by name_fold, id limit :limit`,
    {
      ...seen.parameters,
      name: cursor?.[0],
      id: cursor?.[1],
      find: query.find ? likeText(query.find) : null,
      customer: query.customer,
      limit: limit + 1,
    },
  );
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
    await rejudgeDealsOf(context, tx, person, 'customer_id', id);
    return { id, name, values };
  });
}

async function rejudgeDealsOf(
  context: Context,
  tx: EntityManager,
  person: Person,
  column: 'customer_id' | 'contact_id',
  id: string,
): Promise<void> {
  const now = context.clock.now();
  const deals = await sql<{ id: string }>(
    tx,
    `select id from deals where ${column} = :id and status = 'open' order by id`,
    { id },
  );
  const ids = deals.map((deal) => deal.id);
  await rejudgeDeals(tx, ids, { by: personActor(person.id), happenedAt: now, recordedAt: now });
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
    const [row] = await sql<ContactInput>(
      tx,
      `select name, customer_id as customer, values from contacts where id = :id for no key update`,
      { id },
    );
    if (!row) throw notFound('contact');
    await requireOwnParty(tx, person, 'contacts', id);
    const { name, customer } = { ...row, ...change };
    await requireCustomer(tx, person, customer);
    const values = await checkedValues(tx, 'contact', given, row.values);
    await sql(
      tx,
      `update contacts set customer_id = :customer, name = :name, name_fold = :fold, values = :values where id = :id`,
      {
        id,
        customer,
        name,
        fold: foldText(name),
        values,
      },
    );
    await rejudgeDealsOf(context, tx, person, 'contact_id', id);
    return { id, customer, name, values };
  });
}

async function requireCustomer(tx: EntityManager, person: Person, customer: string | null): Promise<void> {
  if (customer === null) return;
  const seen = visibleParties(person, 'customers');
  const known = await sql(
    tx,
    `select id from customers where id = :customer and withdrawn_at is null and ${seen.condition}`,
    { customer, ...seen.parameters },
  );
  if (known.length === 0) throw notFound('customer');
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
  await sql(
    tx,
    `insert into contacts (id, customer_id, name, name_fold, values) values (:id, :customer, :name, :fold, :values)`,
    { id, customer, name, fold: foldText(name), values },
  );
  return { id, customer, name, values };
}
