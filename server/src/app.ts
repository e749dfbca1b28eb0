import { constants } from 'node:zlib';
import compression from 'compression';
import express, { type Express, Router } from 'express';
import expressStaticGzip from 'express-static-gzip';
import helmet from 'helmet';
import { pinoHttp } from 'pino-http';
import { bellRoutes } from './bell/routes.ts';
import { calendarRoutes } from './calendars/routes.ts';
import { complianceRoutes } from './compliance/routes.ts';
import type { Config } from './config.ts';
import type { Context } from './context.ts';
import { importRoutes } from './data/routes.ts';
import { dealRoutes } from './deals/routes.ts';
import { designCheckRoutes } from './designCheck/routes.ts';
import { documentRoutes } from './documents/routes.ts';
import { factRoutes } from './facts/routes.ts';
import { fieldRoutes } from './fields/routes.ts';
import type { Closing } from './http/closing.ts';
import { handleErrors } from './http/handleErrors.ts';
import { systemRoutes } from './http/systemRoutes.ts';
import { leavingRoutes } from './leaving/routes.ts';
import { REQUEST_LOG } from './log.ts';
import { workRoutes } from './longWork/routes.ts';
import { messageRoutes } from './messages/routes.ts';
import { rateRoutes } from './money/routes.ts';
import { movementRoutes } from './movement/routes.ts';
import { partyRoutes } from './parties/routes.ts';
import { peopleRoutes } from './people/routes.ts';
import { Problem } from './problems/problem.ts';
import { processRoutes } from './processes/routes.ts';
import { settingsLogRoutes } from './settingsLog/routes.ts';
import { stepReportRoutes } from './stepReports/routes.ts';
import { todayRoutes } from './today/routes.ts';

const JSON_LIMIT = '2mb';
/**
 * A command's answer, some 15 kB, costs a sixth more where it is compressed, and is sent as it is; larger ones are compressed
 * quickly, not well.
 */
const COMPRESSION = { threshold: '32kb', level: 1, brotli: { params: { [constants.BROTLI_PARAM_QUALITY]: 1 } } };

/** The whole server, wired: the API under /api/v1, and the web application beside it. */
export function createApp(context: Context, { webRoot, trustedProxies }: Config, closing: Closing): Express {
  const app = express();
  app.set('query parser', 'simple').set('etag', false).disable('x-powered-by');
  app.set('trust proxy', trustedProxies.length > 0 ? [...trustedProxies] : false);
  app.use(
    pinoHttp({ ...REQUEST_LOG, logger: context.log, autoLogging: { ignore: ({ url }) => url === '/api/v1/health' } }),
  );
  app.use(closing.refuse);
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          'img-src': ["'self'", 'data:'],
          'style-src': ["'self'", "'unsafe-inline'"],
          'upgrade-insecure-requests': null,
        },
      },
      strictTransportSecurity: false,
    }),
  );
  app.use('/api/v1', compression(COMPRESSION), express.json({ limit: JSON_LIMIT }), apiRouter(context));
  if (webRoot) serveWeb(app, webRoot);
  app.use(handleErrors(context));
  return app;
}

function apiRouter(context: Context): Router {
  const router = Router();
  router.use((_request, response, next) => {
    response.set('Cache-Control', 'no-store');
    next();
  });
  // They are looked through in this order, so what is asked for most comes first.
  for (const routes of [
    dealRoutes,
    todayRoutes,
    systemRoutes,
    peopleRoutes,
    factRoutes,
    fieldRoutes,
    calendarRoutes,
    documentRoutes,
    stepReportRoutes,
    partyRoutes,
    rateRoutes,
    messageRoutes,
    leavingRoutes,
    bellRoutes,
    settingsLogRoutes,
    processRoutes,
    designCheckRoutes,
    complianceRoutes,
    movementRoutes,
    importRoutes,
    workRoutes,
  ])
    routes(router, context);
  router.use(() => {
    throw new Problem(404, 'There is nothing at this address.');
  });
  return router;
}

/** Files whose names carry a hash never change; every other address is a page of the application. */
function serveWeb(app: Express, webRoot: string): void {
  app.use(
    '/assets',
    expressStaticGzip(`${webRoot}/assets`, {
      enableBrotli: true,
      orderPreference: ['br', 'gz'],
      index: false,
      serveStatic: { immutable: true, maxAge: '1y' },
    }),
  );
  app.use(express.static(webRoot, { index: false }));
  app.get('/{*page}', (_request, response) => {
    response.set('Cache-Control', 'no-cache').sendFile('index.html', { root: webRoot });
  });
}
