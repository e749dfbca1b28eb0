import type { DealId, MoveTarget } from '@ladder/core';
import { Pieces } from '../../parts/Pieces.tsx';
import { usePreviewMoveQuery, type VerdictItem } from './dealsApi.ts';

const SHOWN = 3;

export const isOpenItem = ({ state }: Pick<VerdictItem, 'state'>): boolean => state === 'unmet' || state === 'missing';

/** What the gate would say of a deal that hangs over a rung, before it is let go. */
export function DropVerdict({ deal, target }: { deal: DealId; target: MoveTarget }) {
  const { data: verdict } = usePreviewMoveQuery({ deal, target }, { refetchOnMountOrArgChange: true });
  if (!verdict) return null;
  const open = verdict.items.filter(isOpenItem);
  const holding = open.filter(({ level }) => level === 'hold');
  const state = verdict.answer === 'holds' ? 'held' : verdict.answer === 'flags' ? 'flagged' : 'clear';
  const head =
    verdict.kind === 'return' && open.length === 0
      ? 'Goes back a stage'
      : open.length === 0
        ? 'Gate: all met'
        : `Gate: ${holding.length || open.length} ${holding.length > 0 ? 'missing' : 'flagged'}`;
  const words = { held: 'would be held', flagged: 'passes, flagged', clear: 'passes' }[state];
  return (
    <div className={`drop-verdict ${state}`} role="status">
      <header>
        <b>{head}</b>
        <span className={`state ${state}`}>{words}</span>
      </header>
      {open.slice(0, SHOWN).map((item) => (
        <div key={item.id} className={`req ${item.level === 'hold' ? 'edge-hold' : 'edge-flag'}`}>
          <Pieces says={item.says} />
        </div>
      ))}
      {open.length > SHOWN && <small>and {open.length - SHOWN} more</small>}
      <small>
        {state === 'held' ? 'Drop to fill them in, Esc to put it back' : 'Drop to move, Esc to put it back'}
      </small>
    </div>
  );
}
