import { type Outcome, outcomeOf, stageOf } from '@ladder/core';
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
  const outcome = selection.kind === 'outcome' ? outcomeOf(document, selection.outcome) : undefined;
  return (
    <aside className="design-panel side-panel">
      {selection.kind === 'process' && <ProcessPanel process={process} />}
      {outcome && <OutcomePanel key={outcome.id} outcome={outcome} />}
      {stage && <StagePanel key={stage.id} stage={stage} onSelect={onSelect} />}
    </aside>
  );
}

function OutcomePanel({ outcome }: { outcome: Outcome }) {
  const name = outcome.name.toLowerCase();
  return (
    <>
      <h2>
        {outcome.name} <small>how it ends</small>
      </h2>
      <p className="muted small">
        {outcome.counts === 'won'
          ? `Asked when a deal is closed as ${name}, beside what the stage it is in asks before leaving.`
          : `Asked when a deal is closed as ${name}; closing as ${name} passes over no stage.`}
      </p>
      <RequirementSection
        title={`To close as ${name}`}
        place={{ at: 'outcome', outcome: outcome.id }}
        requirements={outcome.requirements}
      />
    </>
  );
}
