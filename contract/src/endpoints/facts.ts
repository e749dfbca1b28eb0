import { endpoint } from '../endpoint.ts';
import { facts } from '../facts.ts';
import { id, key, map, nullable, object, optional, page, text } from '../schema.ts';
import { ADMINISTRATOR, WORKING } from './callers.ts';
import { found, paging } from './queries.ts';

const customer = object({ id: id(), name: text({ max: 300 }), values: map(facts.value) });
const newCustomer = object({ name: text({ max: 300 }), values: map(facts.value) });
const changedCustomer = object({ name: optional(text({ max: 300 })), values: optional(map(facts.value)) });
const contact = object({ id: id(), customer: nullable(id()), name: text({ max: 300 }), values: map(facts.value) });
const newContact = object({ customer: nullable(id()), name: text({ max: 300 }), values: map(facts.value) });
const changedContact = object({
  customer: optional(nullable(id())),
  name: optional(text({ max: 300 })),
  values: optional(map(facts.value)),
});

/** The field catalogue, customers and contacts. */
export const factsEndpoints = {
  listFields: endpoint({
    id: 'listFields',
    method: 'get',
    path: '/fields',
    summary: 'The field catalogue',
    callers: 'signed_in',
    query: object(paging),
    status: 200,
    answer: facts.fieldsPage,
  }),
  addField: endpoint({
    id: 'addField',
    headers: ['Idempotency-Key'],
    method: 'post',
    path: '/fields',
    summary: 'Add a field',
    callers: ADMINISTRATOR,
    body: facts.newField,
    status: 201,
    answer: facts.field,
    problems: [409],
  }),
  changeField: endpoint({
    id: 'changeField',
    method: 'patch',
    path: '/fields/{field}',
    summary: 'Change a field; its type and unit stay',
    callers: ADMINISTRATOR,
    params: object({ field: key() }),
    body: facts.fieldChange,
    status: 200,
    answer: facts.field,
    problems: [404, 409],
  }),
  listCustomers: endpoint({
    id: 'listCustomers',
    method: 'get',
    path: '/customers',
    summary: 'Customers, by name',
    callers: 'signed_in',
    query: found,
    status: 200,
    answer: page(customer),
  }),
  addCustomer: endpoint({
    id: 'addCustomer',
    headers: ['Idempotency-Key'],
    method: 'post',
    path: '/customers',
    summary: 'Add a customer',
    callers: WORKING,
    body: newCustomer,
    status: 201,
    answer: customer,
  }),
  changeCustomer: endpoint({
    id: 'changeCustomer',
    method: 'patch',
    path: '/customers/{customer}',
    summary: 'Change what is given of a customer; its open deals are judged again',
    callers: WORKING,
    params: object({ customer: id() }),
    body: changedCustomer,
    status: 200,
    answer: customer,
    problems: [404],
  }),
  listContacts: endpoint({
    id: 'listContacts',
    method: 'get',
    path: '/contacts',
    summary: 'Contacts, by name',
    callers: 'signed_in',
    query: object({ ...paging, find: optional(text({ min: 0, max: 200 })), customer: optional(id()) }),
    status: 200,
    answer: page(contact),
  }),
  changeContact: endpoint({
    id: 'changeContact',
    method: 'patch',
    path: '/contacts/{contact}',
    summary: 'Change what is given of a contact; its open deals are judged again',
    callers: WORKING,
    params: object({ contact: id() }),
    body: changedContact,
    status: 200,
    answer: contact,
    problems: [404],
  }),
  addContact: endpoint({
    id: 'addContact',
    headers: ['Idempotency-Key'],
    method: 'post',
    path: '/contacts',
    summary: 'Add a contact',
    callers: WORKING,
    body: newContact,
    status: 201,
    answer: contact,
    problems: [404],
  }),
};
