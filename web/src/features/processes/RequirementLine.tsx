import { describeItem, namesWith, type Requirement } from '@ladder/core';
import { Pieces } from '../../parts/Pieces.tsx';
import { useDesign } from './designContext.ts';

/** A requirement in one line: what it asks, for whom, and by its edge whether it holds or flags. */
export function RequirementLine({ requirement }: { requirement: Requirement }) {
  const { document, catalogue } = useDesign();
  return (
    <div className={`req ${requirement.level === 'hold' ? 'edge-hold' : 'edge-flag'}`}>
      <span>
        <Pieces
          says={describeItem(
            requirement,
            catalogue,
            namesWith(document, () => undefined),
          )}
        />
        {requirement.appliesWhen && <span className="muted"> · for some</span>}
      </span>
      <em
        className={`bind ${requirement.binds}`}
        title={requirement.binds === 'at_move' ? 'judged at the move' : 'must stay so'}
      />
    </div>
  );
}
