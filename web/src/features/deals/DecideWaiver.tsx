import './waivers.css';
import { type DealId, isOpen } from '@ladder/core';
import { Button, Form } from 'react-bootstrap';
import { useSession } from '../../client/session.ts';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { TextField } from '../../parts/form/TextField.tsx';
import { useBodyForm } from '../../parts/form/useBodyForm.ts';
import { countOf, shortDay } from '../../parts/format.ts';
import { Loading } from '../../parts/Loading.tsx';
import { Pieces } from '../../parts/Pieces.tsx';
import { WaiverWords } from './WaiverWords.tsx';
import { type Deciding, useDecideWaiverMutation, useGetWaiverQuery } from './waiversApi.ts';

interface DecideWaiverProps {
  readonly deal: DealId;
  readonly request: number;
  readonly onDone: () => void;
}

/** What somebody asks to be passed: why, how the gate stood, what was asked before, how often such things are waived; and the decision. */
export function DecideWaiver(props: DecideWaiverProps) {
  const { currentData: asked, error } = useGetWaiverQuery(props);
  if (!asked) return error ? <ErrorNotice error={error} /> : <Loading />;
  return (
    <>
      <Request asked={asked} />
      {asked.waiver.may.decide && <Decision {...props} asked={asked} />}
    </>
  );
}

function Request({ asked: { waiver, verdict, before, often } }: { readonly asked: Deciding }) {
  const { organisation } = useSession();
  const named = new Set(waiver.items.map(({ id }) => id));
  const others = verdict.filter(({ id, state }) => !named.has(id) && isOpen(state));
  return (
    <div className="waiver-request">
      <p className="mb-1">
        <b>{waiver.askedBy?.name ?? 'Someone'}</b> asks to pass, on the way to {waiver.target}, until{' '}
        {shortDay(waiver.until, organisation.today)}:
      </p>
      <ul className="waived-items">
        {waiver.items.map((item) => (
          <li key={item.id} className="edge-hold">
            <Pieces says={item.says} />
            <small className="muted d-block">{oftenWords(often.find(({ id }) => id === item.id))}</small>
          </li>
        ))}
      </ul>
      <p className="mb-1">
        <q>{waiver.why}</q>
      </p>
      <p className="small muted mb-2">
        As it was asked {verdict.filter(({ state }) => state === 'met').length} of {verdict.length} were met
        {others.length > 0 && `, and ${countOf(others.length, 'other thing')} were not`}.
        {before.length === 0 && ' Nothing of this was asked of the deal before.'}
      </p>
      {before.length > 0 && (
        <details>
          <summary>Asked before: {before.length}</summary>
          {before.map((one) => (
            <WaiverWords key={one.request} waiver={one} />
          ))}
        </details>
      )}
    </div>
  );
}

function oftenWords(often: Deciding['often'][number] | undefined): string {
  if (!often || often.granted + often.refused === 0) return 'Not waived in this process in the last 12 months.';
  return `In the last 12 months granted ${often.granted} times, of ${countOf(often.deals, 'deal')}, and refused ${often.refused} times.`;
}

function Decision({ deal, request, asked, onDone }: DecideWaiverProps & { readonly asked: Deciding }) {
  const [decide, { isLoading }] = useDecideWaiverMutation();
  const form = useBodyForm({
    begin: { how: 'granted' as 'granted' | 'refused', until: asked.waiver.until, word: '' },
    schema: (contract) => contract.waivers.decision,
    toBody: ({ how, until, word }) => {
      const said = word.trim();
      return how === 'refused' ? { how, word: said } : { how, until, ...(said ? { word: said } : {}) };
    },
    send: (body) => decide({ deal, request, body }),
    onDone,
    words: { word: 'Say why not.', until: 'Choose a day no later than was asked for.' },
  });
  const press = (how: 'granted' | 'refused') => () => {
    form.form.setValue('how', how);
    form.submit();
  };
  return (
    <Form onSubmit={(event) => event.preventDefault()} noValidate>
      <TextField
        form={form.form}
        name="until"
        id={`decide-until-${request}`}
        label="Granted until the end of, or shorter"
        type="date"
        max={10}
      />
      <TextField
        form={form.form}
        name="word"
        id={`decide-word-${request}`}
        label="A word; needed to refuse"
        rows={2}
        max={2000}
      />
      <ErrorNotice error={form.error} />
      <div className="day-acts">
        <Button data-key="1" disabled={isLoading} onClick={press('granted')}>
          Grant
        </Button>
        <Button data-key="2" variant="outline-secondary" disabled={isLoading} onClick={press('refused')}>
          Refuse
        </Button>
      </div>
    </Form>
  );
}
