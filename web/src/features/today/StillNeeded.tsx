import { targetFromText } from '@ladder/core';
import { Pieces } from '../../parts/Pieces.tsx';
import { isOpenItem } from '../deals/DropVerdict.tsx';
import { type DealDetail, usePreviewMoveQuery } from '../deals/dealsApi.ts';
import { OpenFindings } from '../deals/OpenFindings.tsx';
import { RemedyControl } from '../deals/RemedyControl.tsx';
import { rungName } from '../deals/rungName.ts';

interface StillNeededProps {
  readonly deal: DealDetail;
  readonly isHeld: boolean;
}

/** What the deal's next gate still asks, each thing with its remedy; of a refused move, what that gate asks. */
export function StillNeeded({ deal, isHeld }: StillNeededProps) {
  const refused = deal.attempt === null ? null : targetFromText(deal.attempt.target);
  const { currentData: other } = usePreviewMoveQuery(
    { deal: deal.id, target: refused ?? { to: 'stage', stage: deal.stage } },
    { skip: refused === null || deal.status.state !== 'open' },
  );
  const verdict = refused === null ? deal.gate : (other ?? null);
  if (deal.status.state !== 'open') return null;
  const open = verdict?.items.filter(isOpenItem) ?? [];
  return (
    <>
      {verdict && open.length > 0 && (
        <section>
          <h3>
            {refused ? 'Refused, needed for' : 'Needed for'} {rungName(deal, verdict.target)}
          </h3>
          <ul className="day-needed">
            {open.map((item) => (
              <li key={item.id} className={item.level === 'hold' ? 'edge-hold' : 'edge-flag'}>
                <Pieces says={item.says} />
                {deal.may.change && <RemedyControl item={item} deal={deal} />}
              </li>
            ))}
          </ul>
        </section>
      )}
      {isHeld && (
        <section>
          <OpenFindings deal={deal} verdict={verdict} />
        </section>
      )}
    </>
  );
}
