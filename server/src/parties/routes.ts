import { endpoints } from '@ladder/contract';
import type { Router } from 'express';
import type { Context } from '../context.ts';
import { register } from '../http/register.ts';
import { reply } from '../http/reply.ts';
import { addContact, addCustomer, changeContact, changeCustomer, listContacts, listCustomers } from './parties.ts';

export function partyRoutes(router: Router, context: Context): void {
  register(router, context, endpoints.listCustomers, async ({ query, person }) =>
    reply(await listCustomers(context, person, query)),
  );
  register(router, context, endpoints.addCustomer, async ({ body }) => reply(await addCustomer(context, body)));
  register(router, context, endpoints.changeCustomer, async ({ params, body, person }) =>
    reply(await changeCustomer(context, person, params.customer, body)),
  );
  register(router, context, endpoints.listContacts, async ({ query, person }) =>
    reply(await listContacts(context, person, query)),
  );
  register(router, context, endpoints.changeContact, async ({ params, body, person }) =>
    reply(await changeContact(context, person, params.contact, body)),
  );
  register(router, context, endpoints.addContact, async ({ body, person }) =>
    reply(await addContact(context, person, body)),
  );
}
