import type { FormEvent } from 'react';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { useSession } from '../../client/session.ts';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { boxProblem } from '../../parts/form/boxProblem.ts';
import { TextField } from '../../parts/form/TextField.tsx';
import { useBodyForm } from '../../parts/form/useBodyForm.ts';
import { useEditDealMutation } from '../deals/dealsApi.ts';
import { DayDialog } from './DayDialog.tsx';
import { whyOf } from './dayWords.ts';
import type { WorkProps } from './MainWork.tsx';
import type { DayItem } from './todayApi.ts';

type NextAction = Extract<DayItem, { kind: 'next_action' }>;

/** What somebody said that they would do: done, with what comes after it in the same gesture; or on another day. */
export function NextActionWork({ deal, item, undo, onDone }: WorkProps & { readonly item: NextAction }) {
  const { organisation } = useSession();
  const [editDeal, { isLoading }] = useEditDealMutation();
  const [isLater, setLater] = useState(false);
  const { next_action: text = null, next_action_day: day = null } = deal.values;
  const isNeeded = deal.nextActionRule !== 'off';
  const form = useBodyForm({
    begin: { text: '', day: '' },
    schema: (contract) => contract.deal.edit,
    toBody: (written) => ({
      changes: [
        { field: 'next_action', saw: text, value: written.text.trim() || null },
        { field: 'next_action_day', saw: day, value: written.day || null },
      ],
    }),
    send: (body) => editDeal({ deal: deal.id, body }),
    onDone: ({ values }) => {
      const back = [
        { field: 'next_action', saw: values.next_action ?? null, value: text },
        { field: 'next_action_day', saw: values.next_action_day ?? null, value: day },
      ];
      undo.offer(`${item.text}: done`, () => editDeal({ deal: deal.id, body: { changes: back } }));
      onDone();
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (isNeeded && form.form.getValues('text').trim() === '')
      form.form.setError('text', { message: 'This process asks what comes next.' });
    else form.submit();
  };
  const why = whyOf(item, organisation.today);
  return (
    <div className="day-main">
      <header>
        <h3>{item.text}</h3>
        <span className={`day-due ${why.tone === 'bad' ? 'text-held fw-semibold' : ''}`}>{why.says}</span>
      </header>
      {deal.may.change && (
        <Form onSubmit={submit} noValidate>
          <div className="next-action">
            <TextField form={form.form} name="text" id="day-next" label="What comes after it?" max={2000} />
            <TextField form={form.form} name="day" id="day-next-day" label="By" type="date" max={10} />
          </div>
          {boxProblem(form.form, 'text') === undefined && <ErrorNotice error={form.error} />}
          <div className="day-acts">
            <Button type="submit" data-act="done" disabled={isLoading}>
              Done and next <kbd aria-hidden>D</kbd>
            </Button>
            <Button data-act="later" variant="outline-secondary" onClick={() => setLater(true)}>
              Later… <kbd aria-hidden>L</kbd>
            </Button>
          </div>
        </Form>
      )}
      {isLater && (
        <DayDialog
          title={`${item.text}: another day`}
          label="Due on"
          day={item.dueDay}
          onDay={(chosen) =>
            editDeal({
              deal: deal.id,
              body: { changes: [{ field: 'next_action_day', saw: day, value: chosen }] },
            })
          }
          onDone={onDone}
          onClose={() => setLater(false)}
        />
      )}
    </div>
  );
}
