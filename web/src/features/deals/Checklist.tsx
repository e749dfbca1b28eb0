import { type ChecklistItem, stageOf, TICKER_WORDS } from '@ladder/core';
import { Form } from 'react-bootstrap';
import { useSession } from '../../client/session.ts';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { dayOf, shortDay } from '../../parts/format.ts';
import { type DealDetail, useTickItemMutation } from './dealsApi.ts';

/** The present stage's checklist. */
export function Checklist({ deal }: { deal: DealDetail }) {
  const stage = stageOf(deal.document, deal.stage);
  if (!stage || stage.checklist.length === 0) return null;
  const must = stage.checklist.filter(({ need }) => need === 'must');
  const done = must.filter(({ id }) => deal.ticked.some(({ item }) => item === id));
  return (
    <section className="checklist" aria-labelledby="checklist-title">
      <h3 id="checklist-title">
        Checklist{' '}
        <small>{must.length > 0 ? `${done.length} of ${must.length} must items` : 'nothing that must be done'}</small>
      </h3>
      {stage.checklist.map((item) => (
        <Item key={item.id} item={item} deal={deal} />
      ))}
    </section>
  );
}

function Item({ item, deal }: { item: ChecklistItem; deal: DealDetail }) {
  const { organisation } = useSession();
  const [tickItem, { error, isLoading }] = useTickItemMutation();
  const tick = deal.ticked.find((candidate) => candidate.item === item.id);
  const note = [item.need, tick?.by?.split(' ')[0], tick && shortDay(dayOf(tick.at, organisation), organisation.today)]
    .filter((part) => part)
    .join(' · ');
  const hasEvidence = deal.documents.some(({ kind }) => kind.id === item.document);
  return (
    <div className="tick">
      <Form.Check
        id={`tick-${item.id}`}
        label={item.text}
        checked={tick !== undefined}
        disabled={isLoading || !deal.may.change || deal.status.state !== 'open'}
        onChange={(event) =>
          tickItem({ deal: deal.id, body: { item: item.id, state: event.target.checked ? 'ticked' : 'unticked' } })
        }
      />
      <span className="small muted">{note}</span>
      {(item.message || item.who || (item.document && !hasEvidence)) && (
        <span className="small muted tick-help">
          {item.message} {item.who && `Ticked by ${TICKER_WORDS[item.who]}.`}{' '}
          {item.document && !hasEvidence && `Attach ${deal.names[item.document] ?? 'its document'} first.`}
        </span>
      )}
      <ErrorNotice error={error} />
    </div>
  );
}
