import './settings.css';
import { useState } from 'react';
import { problemAt, problemOf } from '../../client/api.ts';
import { useSession } from '../../client/session.ts';
import { FormDialog } from '../../parts/FormDialog.tsx';
import { TextField } from '../../parts/TextField.tsx';
import { useSetRateMutation } from './settingsApi.ts';

interface RateDialogProps {
  /** The currencies, where it is known which are meant. */
  readonly from?: string;
  readonly to?: string;
  readonly onClose: () => void;
}

/** Sets what one currency is worth in another on a day. */
export function RateDialog({ from: known = '', to: into, onClose }: RateDialogProps) {
  const { organisation } = useSession();
  const [setRate, { error, isLoading }] = useSetRateMutation();
  const [from, setFrom] = useState(known);
  const [to, setTo] = useState(into ?? organisation.currency);
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
          autoFocus={known === ''}
          max={3}
          value={from}
          problem={problemAt(problem, '/from')}
          onChange={setFrom}
        />
        <TextField
          id="rate-rate"
          label="is worth"
          autoFocus={known !== ''}
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
