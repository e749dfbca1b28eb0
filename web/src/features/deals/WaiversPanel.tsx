import './waivers.css';
import { useState } from 'react';
import { Button, Modal } from 'react-bootstrap';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { DecideWaiver } from './DecideWaiver.tsx';
import type { DealDetail } from './dealsApi.ts';
import { ReasonDialog } from './ReasonDialog.tsx';
import { WaiverWords } from './WaiverWords.tsx';
import { useRevokeWaiverMutation, useWithdrawWaiverMutation, type Waiver } from './waiversApi.ts';

const OVER_SHOWN = 2;

/** What was asked to be passed on a deal, and what became of it. */
export function WaiversPanel({ deal }: { deal: DealDetail }) {
  const [isAllShown, setAllShown] = useState(false);
  const current = deal.waivers.filter(({ state }) => state === 'asked' || state === 'in_force');
  const over = deal.waivers.filter(({ state }) => state !== 'asked' && state !== 'in_force');
  if (deal.waivers.length === 0) return null;
  return (
    <section className="waivers" aria-labelledby="waivers-title">
      <h3 id="waivers-title">Waivers</h3>
      <ul>
        {[...current, ...(isAllShown ? over : over.slice(0, OVER_SHOWN))].map((waiver) => (
          <WaiverRow key={waiver.request} deal={deal} waiver={waiver} />
        ))}
      </ul>
      {over.length > OVER_SHOWN && (
        <Button variant="link" size="sm" aria-expanded={isAllShown} onClick={() => setAllShown(!isAllShown)}>
          {isAllShown ? 'Fold the earlier ones' : `${over.length - OVER_SHOWN} earlier`}
        </Button>
      )}
    </section>
  );
}

function WaiverRow({ deal, waiver }: { deal: DealDetail; waiver: Waiver }) {
  const [asking, setAsking] = useState<'decide' | 'revoke' | null>(null);
  const [withdraw, withdrawing] = useWithdrawWaiverMutation();
  const [revoke] = useRevokeWaiverMutation();
  const of = { deal: deal.id, request: waiver.request };
  const close = () => setAsking(null);
  const { may } = waiver;
  return (
    <li className={waiver.state}>
      <WaiverWords waiver={waiver} />
      <div className="waiver-acts">
        {may.decide && (
          <Button size="sm" variant="outline-primary" onClick={() => setAsking('decide')}>
            Decide…
          </Button>
        )}
        {may.withdraw && (
          <Button size="sm" variant="link" disabled={withdrawing.isLoading} onClick={() => withdraw(of)}>
            Take it back
          </Button>
        )}
        {may.revoke && (
          <Button size="sm" variant="link" onClick={() => setAsking('revoke')}>
            Revoke…
          </Button>
        )}
      </div>
      <ErrorNotice error={withdrawing.error} />
      {asking === 'decide' && (
        <Modal show onHide={close} centered aria-labelledby="decide-title">
          <Modal.Header closeButton>
            <h2 id="decide-title">Decide on a waiver</h2>
          </Modal.Header>
          <Modal.Body>
            <DecideWaiver deal={deal.id} request={waiver.request} onDone={close} />
          </Modal.Body>
        </Modal>
      )}
      {asking === 'revoke' && (
        <ReasonDialog
          title="Revoke the waiver"
          label="Why? What it covered is asked again from now on."
          confirm="Revoke it"
          onConfirm={(word) => revoke({ ...of, body: { word } })}
          onClose={close}
        />
      )}
    </li>
  );
}
