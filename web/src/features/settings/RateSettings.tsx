import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { problemAt, problemOf } from '../../app/api.ts';
import { useSession } from '../../app/session.ts';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { FormDialog } from '../../parts/FormDialog.tsx';
import { shortDay } from '../../parts/format.ts';
import { Loading } from '../../parts/Loading.tsx';
import { ShowMore } from '../../parts/ShowMore.tsx';
import { TextField } from '../../parts/TextField.tsx';
import { useListRatesInfiniteQuery, useSetRateMutation } from './settingsApi.ts';

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

function RateDialog({ onClose }: { onClose: () => void }) {
  const { organisation } = useSession();
  const [setRate, { error, isLoading }] = useSetRateMutation();
  const [from, setFrom] = useState('');
  const [to, setTo] = useState(organisation.currency);
  const [day, setDay] = useState(organisation.today);
  const [rate, setRateText] = useState('');
  const [isAsked, setAsked] = useState(false);
  const problem = problemOf(error);
  const value = Number(rate.trim());
  const notANumber = rate.trim() === '' || Number.isNaN(value) ? 'A number, such as 0.85.' : undefined;
  const submit = async () => {
    setAsked(true);
    if (notANumber) return;
    const answer = await setRate({ from: from.trim().toUpperCase(), to: to.trim().toUpperCase(), day, rate: value });
    if (answer.data) onClose();
  };
  return (
    <FormDialog
      title="Set a rate"
      confirm="Set the rate"
      isBusy={isLoading}
      error={error}
      onSubmit={submit}
      onClose={onClose}
    >
      <p className="muted small">A rate that the day already has is replaced.</p>
      <div className="rate-boxes">
        <TextField
          id="rate-from"
          label="One of"
          autoFocus
          max={3}
          value={from}
          problem={problemAt(problem, '/from')}
          onChange={setFrom}
        />
        <TextField
          id="rate-rate"
          label="is worth"
          max={20}
          value={rate}
          problem={(isAsked && notANumber) || problemAt(problem, '/rate')}
          onChange={setRateText}
        />
        <TextField id="rate-to" label="of" max={3} value={to} problem={problemAt(problem, '/to')} onChange={setTo} />
      </div>
      <TextField
        id="rate-day"
        label="On the day"
        type="date"
        max={10}
        value={day}
        problem={problemAt(problem, '/day')}
        onChange={setDay}
      />
    </FormDialog>
  );
}
