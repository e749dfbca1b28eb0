import { endpoints } from '@ladder/contract';
import type { Router } from 'express';
import type { Context } from '../context.ts';
import { command } from '../http/command.ts';
import { register } from '../http/register.ts';
import { reply } from '../http/reply.ts';
import { addContact, addCustomer, changeContact, changeCustomer, listContacts, listCustomers } from './parties.ts';

export function partyRoutes(router: Router, context: Context): void {
  register(router, context, endpoints.listCustomers, async ({ query, person }) =>
    reply(await listCustomers(context, person, query)),
  );
  register(router, context, endpoints.addCustomer, (input) =>
    command(context, input, async (tx) => reply(await addCustomer(context, tx, input.body))),
  );
  register(router, context, endpoints.changeCustomer, async ({ params, body, person }) =>
    reply(await changeCustomer(context, person, params.customer, body)),
  );
  register(router, context, endpoints.listContacts, async ({ query, person }) =>
    reply(await listContacts(context, person, query)),
  );
  register(router, context, endpoints.changeContact, async ({ params, body, person }) =>
    reply(await changeContact(context, person, params.contact, body)),
  );
  register(router, context, endpoints.addContact, (input) =>
    command(context, input, async (tx) => reply(await addContact(context, tx, input.person, input.body))),
  );
}
