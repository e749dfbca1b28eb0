import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { useSession } from '../../client/session.ts';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { shortDay } from '../../parts/format.ts';
import { Loading } from '../../parts/Loading.tsx';
import { PlainTable } from '../../parts/PlainTable.tsx';
import { ShowMore } from '../../parts/ShowMore.tsx';
import { WorkUnderWay } from '../work/WorkProgress.tsx';
import { RateDialog } from './RateDialog.tsx';
import { useListRatesInfiniteQuery } from './settingsApi.ts';

/** What currencies are worth in each other, by day. */
export function RateSettings() {
  const { organisation } = useSession();
  const [isAdding, setAdding] = useState(false);
  return (
    <>
      <div className="settings-bar">
        <p className="muted small mb-0">
          Totals are told in {organisation.currency}. An open deal counts at the latest rate, a closed one at that of
          its closing day.
        </p>
        <Button onClick={() => setAdding(true)}>Set a rate</Button>
      </div>
      {!isAdding && <WorkUnderWay subject="rates" />}
      <Rates />
      {isAdding && <RateDialog onClose={() => setAdding(false)} />}
    </>
  );
}

function Rates() {
  const { organisation } = useSession();
  const list = useListRatesInfiniteQuery();
  const rates = list.data?.pages.flatMap(({ items }) => items);
  if (!rates) return list.error ? <ErrorNotice error={list.error} /> : <Loading />;
  if (rates.length === 0)
    return (
      <div className="empty">
        <h2>No rate is set</h2>
        <p>Deals in another currency than {organisation.currency} are left out of totals until there is one.</p>
      </div>
    );
  return (
    <>
      <PlainTable heads={['Day', 'Rate#']}>
        {rates.map(({ from, to, day, rate }) => (
          <tr key={`${from} ${to} ${day}`}>
            <td>{shortDay(day, organisation.today)}</td>
            <td className="num">
              1 {from} = {rate} {to}
            </td>
          </tr>
        ))}
      </PlainTable>
      <ShowMore list={list} />
    </>
  );
}
