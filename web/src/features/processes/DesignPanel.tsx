import { stageOf } from '@ladder/core';
import { useDesign } from './designContext.ts';
import { ProcessPanel } from './ProcessPanel.tsx';
import type { ProcessDetail } from './processesApi.ts';
import { RequirementSection } from './RequirementSection.tsx';
import { StagePanel } from './StagePanel.tsx';
import type { Selection } from './useSelection.ts';

interface PanelProps {
  readonly process: ProcessDetail;
  readonly selection: Selection;
  readonly onSelect: (selection: Selection) => void;
}

/** What is chosen on the sheet, to be read or edited. */
export function DesignPanel({ process, selection, onSelect }: PanelProps) {
  const { document } = useDesign();
  const stage = selection.kind === 'stage' ? (stageOf(document, selection.stage) ?? document.stages[0]) : undefined;
  return (
    <aside className="design-panel">
      {selection.kind === 'process' && <ProcessPanel process={process} />}
      {selection.kind === 'outcome' && <OutcomePanel outcome={selection.outcome} />}
      {stage && <StagePanel key={stage.id} stage={stage} onSelect={onSelect} />}
    </aside>
  );
}

function OutcomePanel({ outcome }: { outcome: 'won' | 'lost' }) {
  const { document } = useDesign();
  return (
    <>
      <h2>
        {outcome === 'won' ? 'Won' : 'Lost'} <small>how it ends</small>
      </h2>
      <p className="muted small">
        {outcome === 'won'
          ? 'Asked when a deal is closed as won, beside what the stage it is in asks before leaving.'
          : 'Asked when a deal is closed as lost; closing as lost passes over no stage.'}
      </p>
      <RequirementSection
        title={`To close as ${outcome}`}
        place={{ at: outcome }}
        requirements={document[outcome].requirements}
      />
    </>
  );
}
