import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { useSession } from '../../client/session.ts';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { shortDay } from '../../parts/format.ts';
import { Loading } from '../../parts/Loading.tsx';
import { ShowMore } from '../../parts/ShowMore.tsx';
import { RateDialog } from './RateDialog.tsx';
import { useListRatesInfiniteQuery } from './settingsApi.ts';

/** What currencies are worth in each other, by day. */
export function RateSettings() {
  const { organisation } = useSession();
  const [isAdding, setAdding] = useState(false);
  const list = useListRatesInfiniteQuery();
  const { data, error } = list;
  const rates = data?.pages.flatMap(({ items }) => items);
  return (
    <>
      <div className="settings-bar">
        <p className="muted small mb-0">
          Totals are told in {organisation.currency}. An open deal counts at the latest rate, a closed one at that of
          its closing day.
        </p>
        <Button onClick={() => setAdding(true)}>Set a rate</Button>
      </div>
      <ErrorNotice error={error} />
      {!rates && !error && <Loading />}
      {rates?.length === 0 && (
        <div className="empty">
          <h2>No rate is set</h2>
          <p>Deals in another currency than {organisation.currency} are left out of totals until there is one.</p>
        </div>
      )}
      {rates && rates.length > 0 && (
        <table className="plain">
          <thead>
            <tr>
              <th>Day</th>
              <th className="num">Rate</th>
            </tr>
          </thead>
          <tbody>
            {rates.map(({ from, to, day, rate }) => (
              <tr key={`${from} ${to} ${day}`}>
                <td>{shortDay(day, organisation.today)}</td>
                <td className="num">
                  1 {from} = {rate} {to}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <ShowMore list={list} />
      {isAdding && <RateDialog onClose={() => setAdding(false)} />}
    </>
  );
}
