import './settings.css';
import { useSession } from '../../client/session.ts';
import { FormDialog } from '../../parts/form/FormDialog.tsx';
import { TextField } from '../../parts/form/TextField.tsx';
import { useBodyForm } from '../../parts/form/useBodyForm.ts';
import { useLongCommand } from '../work/useLongCommand.ts';
import { WorkProgress } from '../work/WorkProgress.tsx';
import { useSetRateMutation } from './settingsApi.ts';

interface RateDialogProps {
  /** The currencies, where it is known which are meant. */
  readonly from?: string;
  readonly to?: string;
  readonly onClose: () => void;
}

interface Written {
  readonly from: string;
  readonly to: string;
  readonly day: string;
  readonly rate: string;
}

const CURRENCY_WORDS = 'Three letters, such as EUR.';

/** What is no number goes as none, and is told so. */
const toRate = ({ from, to, day, rate }: Written) => ({
  from: from.trim().toUpperCase(),
  to: to.trim().toUpperCase(),
  day,
  rate: rate.trim() === '' ? Number.NaN : Number(rate.trim()),
});

/** Sets what one currency is worth in another on a day. */
export function RateDialog({ from = '', to, onClose }: RateDialogProps) {
  const { organisation } = useSession();
  const [setRate] = useSetRateMutation();
  const { send, work, isBusy } = useLongCommand('rates', setRate, onClose);
  const rate = useBodyForm({
    begin: { from, to: to ?? organisation.currency, day: organisation.today, rate: '' },
    schema: ({ rates }) => rates.rate,
    toBody: toRate,
    send,
    words: { from: CURRENCY_WORDS, to: CURRENCY_WORDS, rate: 'A number, such as 0.85.' },
  });
  const { form } = rate;
  return (
    <FormDialog title="Set a rate" confirm="Set the rate" of={rate} isBusy={isBusy} onClose={onClose}>
      <p className="muted small">A rate that the day already has is replaced.</p>
      <div className="rate-boxes">
        <TextField form={form} name="from" id="rate-from" label="One of" autoFocus={from === ''} max={3} />
        <TextField form={form} name="rate" id="rate-rate" label="is worth" autoFocus={from !== ''} max={20} />
        <TextField form={form} name="to" id="rate-to" label="of" max={3} />
      </div>
      <TextField form={form} name="day" id="rate-day" label="On the day" type="date" max={10} />
      <WorkProgress work={work} />
    </FormDialog>
  );
}
