import { store } from '../client/store.ts';
import { bellApi } from '../features/bell/bellApi.ts';
import { dealsApi, filtersOf, lanesAskedFor } from '../features/deals/dealsApi.ts';
import { lastProcess } from '../features/deals/lastProcess.ts';
import { processesApi } from '../features/processes/processesApi.ts';
import { sessionApi } from '../features/session/sessionApi.ts';
import { askedOf, todayApi } from '../features/today/todayApi.ts';
import { lastLanding } from './landing.ts';

/**
 * Asks for what the first page shows while its code is still on its way, all in one round: pages take what was asked for
 * here. Where the address names no page, or no process, it goes by what this browser has shown last.
 */
export function askFirst({ pathname, search }: Pick<Location, 'pathname' | 'search'>): void {
  store.dispatch(sessionApi.util.prefetch('getSession', undefined, {}));
  const page = pathname === '/' ? lastLanding() : pathname;
  if (page === '/today') askForToday(new URLSearchParams(search));
  if (page === '/deals') askForDeals(new URLSearchParams(search));
}

function askForToday(chosen: URLSearchParams): void {
  const { dispatch } = store;
  dispatch(todayApi.endpoints.getToday.initiate(askedOf(chosen), { subscribe: false }));
  dispatch(todayApi.util.prefetch('countLate', undefined, {}));
  dispatch(bellApi.util.prefetch('countUnread', undefined, {}));
}

function askForDeals(chosen: URLSearchParams): void {
  const { dispatch } = store;
  dispatch(processesApi.util.prefetch('listProcesses', undefined, {}));
  const process = chosen.get('process') ?? lastProcess();
  dispatch(
    process
      ? dealsApi.util.prefetch('getLanes', lanesAskedFor(process, chosen), {})
      : dealsApi.util.prefetch('getFirstLanes', filtersOf(chosen), {}),
  );
  dispatch(sessionApi.util.prefetch('getPeople', undefined, {}));
  dispatch(sessionApi.util.prefetch('getTeams', undefined, {}));
  dispatch(bellApi.util.prefetch('countUnread', undefined, {}));
}
