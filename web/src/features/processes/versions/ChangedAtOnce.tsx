import type { ProcessId } from '@ladder/core';
import { useSession } from '../../../client/session.ts';
import { ErrorNotice } from '../../../parts/ErrorNotice.tsx';
import { dayOf, shortDay } from '../../../parts/format.ts';
import { PlainTable } from '../../../parts/PlainTable.tsx';
import { SettingChanges } from '../../../parts/SettingChanges.tsx';
import { ShowMore } from '../../../parts/ShowMore.tsx';
import { useListProcessLogInfiniteQuery } from '../processesApi.ts';

/** What was changed beside the versions, for all of them at once: by whom, before and after. */
export function ChangedAtOnce({ process }: { process: ProcessId }) {
  const { organisation } = useSession();
  const list = useListProcessLogInfiniteQuery(process, { refetchOnMountOrArgChange: true });
  const entries = list.data?.pages.flatMap(({ items }) => items);
  return (
    <section className="mt-4">
      <h2>Changed at once</h2>
      <p className="muted small">House rules, reasons, access, calendar and what else is not part of a version.</p>
      <ErrorNotice error={list.error} />
      {entries?.length === 0 && <p className="muted">Nothing was changed yet.</p>}
      {entries && entries.length > 0 && (
        <PlainTable heads={['Day', 'Before and after', 'By']}>
          {entries.map(({ id, at, by, what, changes }) => (
            <tr key={id}>
              <td className="text-nowrap">{shortDay(dayOf(at, organisation), organisation.today)}</td>
              <td>
                {what === 'dismissal' && <span className="muted small">A suggestion of the design check</span>}
                <SettingChanges changes={changes} />
              </td>
              <td className="text-nowrap">{by}</td>
            </tr>
          ))}
        </PlainTable>
      )}
      <ShowMore list={list} />
    </section>
  );
}
