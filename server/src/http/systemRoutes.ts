import { endpoints, openApiDocument } from '@ladder/contract';
import type { Router } from 'express';
import type { Context } from '../context.ts';
import { register } from './register.ts';
import { type Reply, reply } from './reply.ts';
import { newestMigration } from './repository.ts';

export function systemRoutes(router: Router, context: Context): void {
  const document = openApiDocument(context.version);
  register(router, context, endpoints.getHealth, () => health(context));
  register(router, context, endpoints.getOpenApi, async () => reply(document));
}

async function health(context: Context): Promise<Reply> {
  const { version } = context;
  try {
    return { body: { version, database: 'up', migration: await newestMigration(context.dataSource) } };
  } catch (error) {
    context.log.error({ err: error }, 'database is down');
    return {
      status: 503,
      body: { type: 'about:blank', title: 'Try again', status: 503, detail: 'The database does not answer.' },
    };
  }
}
