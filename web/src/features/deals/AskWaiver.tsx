import { addDays, isOpen } from '@ladder/core';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { useSession } from '../../client/session.ts';
import { boxProblem } from '../../parts/form/boxProblem.ts';
import { FormDialog } from '../../parts/form/FormDialog.tsx';
import { TextField } from '../../parts/form/TextField.tsx';
import { useBodyForm } from '../../parts/form/useBodyForm.ts';
import { Pieces } from '../../parts/Pieces.tsx';
import type { DealDetail, Verdict } from './dealsApi.ts';
import { useAskWaiverMutation } from './waiversApi.ts';

interface AskWaiverProps {
  readonly deal: DealDetail;
  readonly verdict: Verdict;
}

/** Beside a gate that holds: asks someone who may decide to let what holds it be passed. */
export function AskWaiver({ deal, verdict }: AskWaiverProps) {
  const [isAsked, setAsked] = useState(false);
  const asked = new Set(
    deal.waivers.filter(({ state }) => state === 'asked').flatMap(({ items }) => items.map(({ id }) => id)),
  );
  const holding = verdict.items.filter(({ id, level, state }) => level === 'hold' && isOpen(state) && !asked.has(id));
  const isGranted = deal.waiverRights.roles.length > 0;
  if (!deal.may.change || !isGranted || holding.length === 0) return null;
  return (
    <>
      <Button variant="link" size="sm" className="ask-waiver" onClick={() => setAsked(true)}>
        Ask for a waiver…
      </Button>
      {isAsked && <AskDialog deal={deal} verdict={verdict} holding={holding} onClose={() => setAsked(false)} />}
    </>
  );
}

/** What most waivers are asked for. */
const USUAL_DAYS = 14;

interface AskDialogProps extends AskWaiverProps {
  readonly holding: Verdict['items'];
  readonly onClose: () => void;
}

function AskDialog({ deal, verdict, holding, onClose }: AskDialogProps) {
  const { organisation } = useSession();
  const [ask] = useAskWaiverMutation();
  const { mostDays } = deal.waiverRights;
  const last = addDays(organisation.today, mostDays);
  const form = useBodyForm({
    begin: {
      items: holding.map(({ id }) => id),
      why: '',
      until: addDays(organisation.today, Math.min(USUAL_DAYS, mostDays)),
    },
    schema: (contract) => contract.deal.askWaiver,
    toBody: ({ items, why, until }) => ({ target: verdict.target, items, why: why.trim(), until }),
    send: (body) => ask({ deal: deal.id, body }),
    onDone: onClose,
    words: { why: 'Say why.', until: 'Choose a day.' },
  });
  const wrong = boxProblem(form.form, 'items');
  return (
    <FormDialog title="Ask for a waiver" confirm="Ask" of={form} onClose={onClose}>
      <fieldset className="mb-2">
        <legend className="form-label">What is to be passed</legend>
        {holding.map((item) => (
          <Form.Check
            key={item.id}
            id={`waive-${item.id}`}
            value={item.id}
            label={<Pieces says={item.says} />}
            {...form.form.register('items')}
          />
        ))}
        {wrong && <div className="invalid-feedback d-block">{wrong}</div>}
      </fieldset>
      <TextField form={form.form} name="why" id="waiver-why" label="Why?" rows={3} max={2000} autoFocus />
      <TextField
        form={form.form}
        name="until"
        id="waiver-until"
        label={`Until the end of, at most ${mostDays} days from now (${last})`}
        type="date"
        max={10}
      />
    </FormDialog>
  );
}
