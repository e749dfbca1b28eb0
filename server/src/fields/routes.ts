import { endpoints } from '@ladder/contract';
import type { Router } from 'express';
import type { Context } from '../context.ts';
import { presentCatalogue } from '../facts/catalogue.ts';
import { register } from '../http/register.ts';
import { reply } from '../http/reply.ts';
import { longCommand } from '../longWork/startWork.ts';
import { listExamples, listFieldUses } from './fieldUses.ts';
import { mappingToBegin } from './mapChoice.ts';
import { formulaToSet } from './setFormula.ts';

export function fieldRoutes(router: Router, context: Context): void {
  const present = async (id: string) => (await presentCatalogue(context.dataSource)).get(id);
  register(router, context, endpoints.listFieldUses, async ({ query }) => reply(await listFieldUses(context, query)));
  register(router, context, endpoints.listExamples, async ({ query }) => reply(await listExamples(context, query)));
  register(router, context, endpoints.setFormula, (input) =>
    longCommand(
      context,
      input,
      (tx) => formulaToSet(tx, input.params.field, input.body),
      () => present(input.params.field),
    ),
  );
  register(router, context, endpoints.mapChoice, (input) =>
    longCommand(
      context,
      input,
      (tx) => mappingToBegin(tx, input.params.field, input.body),
      () => present(input.params.field),
    ),
  );
}
