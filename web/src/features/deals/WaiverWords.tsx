import { useSession } from '../../client/session.ts';
import { shortDay } from '../../parts/format.ts';
import { Pieces } from '../../parts/Pieces.tsx';
import type { Waiver } from './waiversApi.ts';

const STATES: Readonly<Record<Waiver['state'], string>> = {
  asked: 'Asked for',
  in_force: 'In force',
  refused: 'Refused',
  withdrawn: 'Taken back',
  lapsed: 'Overtaken before it was decided',
  ended: 'Over',
};

const ENDS: Readonly<Record<NonNullable<Waiver['end']>['how'], string>> = {
  revoked: 'revoked',
  changed: 'its requirement changed',
  returned: 'the deal went back',
  closed: 'the deal closed',
};

/** A request in words: what, why, by whom, and what became of it. */
export function WaiverWords({ waiver }: { waiver: Waiver }) {
  const { organisation } = useSession();
  const on = (day: string): string => shortDay(day, organisation.today);
  const { state, decision, end, askedBy, askedDay, until, why, items } = waiver;
  return (
    <div>
      <b className={state === 'asked' ? 'text-flagged' : ''}>{STATES[state]}</b>
      {state === 'asked' && `, until ${on(until)}`}
      {state === 'in_force' && decision?.until && ` until ${on(decision.until)}`}
      {end && `: ${ENDS[end.how]} on ${on(end.day)}${end.word ? `, “${end.word}”` : ''}`}
      <ul className="waived-items">
        {items.map((item) => (
          <li key={item.id}>
            <Pieces says={item.says} />
          </li>
        ))}
      </ul>
      <small className="muted">
        <q>{why}</q> {askedBy?.name ?? 'Someone'}, {on(askedDay)}
        {decision && (
          <>
            {' '}
            · {decision.word && <q>{decision.word}</q>} {decision.by}, {on(decision.day)}
          </>
        )}
      </small>
    </div>
  );
}
