import type { Endpoint } from '../endpoint.ts';
import { bellEndpoints } from './bell.ts';
import { calendarsEndpoints } from './calendars.ts';
import { dealsEndpoints } from './deals.ts';
import { designCheckEndpoints } from './designCheck.ts';
import { factsEndpoints } from './facts.ts';
import { importsEndpoints } from './imports.ts';
import { measuresEndpoints } from './measures.ts';
import { messagesEndpoints } from './messages.ts';
import { peopleEndpoints } from './people.ts';
import { processesEndpoints } from './processes.ts';
import { ratesEndpoints } from './rates.ts';
import { settingsLogEndpoints } from './settingsLog.ts';
import { systemEndpoints } from './system.ts';
import { tasksEndpoints } from './tasks.ts';
import { todayEndpoints } from './today.ts';
import { waiversEndpoints } from './waivers.ts';
import { workEndpoints } from './work.ts';

/** Every endpoint of the API by its id. */
export const endpoints = {
  ...systemEndpoints,
  ...peopleEndpoints,
  ...factsEndpoints,
  ...ratesEndpoints,
  ...calendarsEndpoints,
  ...settingsLogEndpoints,
  ...processesEndpoints,
  ...designCheckEndpoints,
  ...dealsEndpoints,
  ...tasksEndpoints,
  ...waiversEndpoints,
  ...todayEndpoints,
  ...messagesEndpoints,
  ...bellEndpoints,
  ...measuresEndpoints,
  ...importsEndpoints,
  ...workEndpoints,
} as const;

/** The same as a list. */
export const allEndpoints: readonly Endpoint[] = Object.values(endpoints) as unknown as readonly Endpoint[];
