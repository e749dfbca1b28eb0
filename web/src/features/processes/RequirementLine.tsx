import { describeItem, type Requirement } from '@ladder/core';
import { Pieces } from '../../parts/Pieces.tsx';
import { RemarkMark } from './check/RemarkMark.tsx';
import { useDesign } from './designContext.ts';
import { useDesignNames } from './useDesignNames.ts';

/** A requirement in one line: what it asks, for whom, and by its edge whether it holds or flags. */
export function RequirementLine({ requirement }: { requirement: Requirement }) {
  const { catalogue } = useDesign();
  const nameOf = useDesignNames();
  return (
    <div className={`req ${requirement.level === 'hold' ? 'edge-hold' : 'edge-flag'}`}>
      <span>
        <RemarkMark part={requirement.id} /> <Pieces says={describeItem(requirement, catalogue, nameOf)} />
        {requirement.appliesWhen && <span className="muted"> · for some</span>}
      </span>
      <em
        className={`bind ${requirement.binds}`}
        title={requirement.binds === 'at_move' ? 'judged at the move' : 'must stay so'}
      />
    </div>
  );
}
