import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { useSession } from '../../client/session.ts';
import { RateDialog } from '../settings/RateDialog.tsx';
import { DealField } from './DealField.tsx';
import { type DealDetail, useTickItemMutation, type VerdictItem } from './dealsApi.ts';

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
