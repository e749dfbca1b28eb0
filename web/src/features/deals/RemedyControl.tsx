import { ACTIVITY_WORDS, type ActivityKind, type DealId } from '@ladder/core';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { Link, useLocation } from 'react-router';
import { useSession } from '../../client/session.ts';
import { AttachRemedy } from '../documents/AttachRemedy.tsx';
import { RateDialog } from '../settings/RateDialog.tsx';
import { COMPOSE_ID, composeKindId } from './composeIds.ts';
import { DealField } from './DealField.tsx';
import { type DealDetail, type StepAtHand, useTickItemMutation, type VerdictItem } from './dealsApi.ts';
import { stepCardId } from './stepCardId.ts';

/** Puts an item right where it stands: the fields to fill, the box to tick. */
export function RemedyControl({ item, deal }: { item: Pick<VerdictItem, 'id' | 'remedy' | 'says'>; deal: DealDetail }) {
  const [tick, { isLoading }] = useTickItemMutation();
  switch (item.remedy.kind) {
    case 'none':
      return null;
    case 'decide':
      return <span className="small muted">Needs a decision</span>;
    case 'tick': {
      const ticked = item.remedy.item;
      return (
        <Form.Check
          id={`remedy-${item.id}`}
          className="remedy-tick"
          label="Done"
          aria-label={`${item.says[0]?.text ?? ''} done`}
          checked={false}
          disabled={isLoading}
          onChange={() => tick({ deal: deal.id, body: { item: ticked, state: 'ticked' } })}
        />
      );
    }
    case 'steps': {
      const { stage } = item.remedy;
      return <DoStep deal={deal.id} atHand={deal.stepsAtHand.find((run) => run.stage === stage)} />;
    }
    case 'step': {
      const { step } = item.remedy;
      return <DoStep deal={deal.id} atHand={deal.stepsAtHand.find((run) => run.step === step)} />;
    }
    case 'attach':
      return <AttachRemedy deal={deal.id} kind={item.remedy.document} name={item.says[0]?.text ?? ''} />;
    case 'log':
      return <LogRemedy activity={item.remedy.activity} />;
    case 'set_rate':
      return <RateRemedy rates={item.remedy.rates} />;
    case 'fill':
      return (
        <>
          {item.remedy.fields.map((id) => {
            const field = deal.fields.find((candidate) => candidate.id === id);
            if (!field) return null;
            const isLone = item.remedy.kind === 'fill' && item.remedy.fields.length === 1 && field.holder === 'deal';
            return (
              <DealField
                key={id}
                id={`remedy-${item.id}-${id}`}
                field={field}
                deal={deal}
                label={isLone ? 'hidden' : 'shown'}
              />
            );
          })}
        </>
      );
  }
}

/** Leads to where it is written down, its kind chosen already. */
function LogRemedy({ activity }: { activity: ActivityKind }) {
  const write = () => {
    document.getElementById(composeKindId(activity))?.click();
    document.getElementById(COMPOSE_ID)?.focus();
  };
  return (
    <Button size="sm" variant="outline-primary" onClick={write}>
      Write the {ACTIVITY_WORDS[activity].one} down
    </Button>
  );
}

/** Leads to the step, where it is at hand. */
function DoStep({ deal, atHand }: { deal: DealId; atHand: StepAtHand | undefined }) {
  const { pathname } = useLocation();
  if (!atHand) return <span className="small muted">Not at hand now</span>;
  if (pathname !== `/deals/${deal}`)
    return (
      <Link className="do-step" to={`/deals/${deal}`}>
        Do {atHand.name} on its page
      </Link>
    );
  return (
    <a className="do-step" href={`#${stepCardId(atHand)}`}>
      Do {atHand.name} ↓
    </a>
  );
}

type Pair = { readonly from: string; readonly to: string };

/** The exchange rates that are not set: whoever may sets them here, others are told who does. */
function RateRemedy({ rates }: { rates: readonly Pair[] }) {
  const { person } = useSession();
  const [setting, setSetting] = useState<Pair | null>(null);
  if (person.role !== 'administrator')
    return <span className="small muted">An administrator sets the rate {rates.map(pairText).join(', ')}</span>;
  return (
    <>
      {rates.map((pair) => (
        <Button key={pairText(pair)} size="sm" variant="outline-primary" onClick={() => setSetting(pair)}>
          Set the rate {pairText(pair)}…
        </Button>
      ))}
      {setting && <RateDialog {...setting} onClose={() => setSetting(null)} />}
    </>
  );
}

const pairText = ({ from, to }: Pair): string => `from ${from} to ${to}`;
