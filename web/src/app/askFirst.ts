import { store } from '../client/store.ts';
import { dealsApi, filtersOf } from '../features/deals/dealsApi.ts';
import { lastProcess } from '../features/deals/lastProcess.ts';
import { processesApi } from '../features/processes/processesApi.ts';
import { sessionApi } from '../features/session/sessionApi.ts';

/**
 * Asks for what the first page shows while its code is still on its way, all in one round: pages take what was asked for
 * here. Which lanes are shown is known where the address names the process, or this browser has shown one before.
 */
export function askFirst({ pathname, search }: Pick<Location, 'pathname' | 'search'>): void {
  const { dispatch } = store;
  dispatch(sessionApi.util.prefetch('getSession', undefined, {}));
  if (pathname !== '/' && pathname !== '/deals') return;
  dispatch(processesApi.util.prefetch('listProcesses', undefined, {}));
  dispatch(sessionApi.util.prefetch('getPeople', undefined, {}));
  dispatch(sessionApi.util.prefetch('getTeams', undefined, {}));
  const chosen = new URLSearchParams(search);
  const process = chosen.get('process') ?? lastProcess();
  if (process) dispatch(dealsApi.util.prefetch('getLanes', { process, filters: filtersOf(chosen) }, {}));
}
