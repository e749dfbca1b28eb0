import { useSession } from '../../client/session.ts';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { dayOf, shortDay } from '../../parts/format.ts';
import { Loading } from '../../parts/Loading.tsx';
import { PlainTable } from '../../parts/PlainTable.tsx';
import { SettingChanges } from '../../parts/SettingChanges.tsx';
import { ShowMore } from '../../parts/ShowMore.tsx';
import { useListSettingsLogInfiniteQuery } from './settingsApi.ts';

const WHAT = {
  account: 'Account',
  team: 'Team',
  rate: 'Exchange rate',
  document_kind: 'Kind of documents',
  template: 'Template of messages',
  field: 'Field',
  calendar: 'Calendar',
} as const;

/** What was set for the whole organisation, by whom, as it was before and after. */
export function SettingsChanges() {
  const { organisation } = useSession();
  const list = useListSettingsLogInfiniteQuery(undefined, { refetchOnMountOrArgChange: true });
  const entries = list.data?.pages.flatMap(({ items }) => items);
  if (!entries) return list.error ? <ErrorNotice error={list.error} /> : <Loading />;
  if (entries.length === 0)
    return (
      <div className="empty">
        <h2>Nothing was changed yet</h2>
        <p>
          Accounts, teams, fields, calendars, exchange rates and kinds of documents are told here as they change, before
          and after.
        </p>
      </div>
    );
  return (
    <>
      <PlainTable heads={['Day', 'What', 'Before and after', 'By']}>
        {entries.map(({ id, at, by, what, subject, changes }) => (
          <tr key={id}>
            <td>{shortDay(dayOf(at, organisation), organisation.today)}</td>
            <td>
              {subject}
              <div className="small muted">{WHAT[what]}</div>
            </td>
            <td>
              <SettingChanges changes={changes} />
            </td>
            <td>{by}</td>
          </tr>
        ))}
      </PlainTable>
      <ShowMore list={list} />
    </>
  );
}
