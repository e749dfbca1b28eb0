import { type Requirement, type RequirementPlace, type Stage, stageOf } from '@ladder/core';
import { useEffect, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { ChecklistEditor } from './ChecklistEditor.tsx';
import { RequirementLine } from './DesignSheet.tsx';
import { useDesign } from './designContext.ts';
import { ProcessPanel } from './ProcessPanel.tsx';
import type { ProcessDetail } from './processesApi.ts';
import { RequirementDialog } from './RequirementDialog.tsx';
import type { Selection } from './useSelection.ts';

interface PanelProps {
  readonly process: ProcessDetail;
  readonly selection: Selection;
  readonly onSelect: (selection: Selection) => void;
}

/** What is chosen on the sheet, to be read or edited. */
export function DesignPanel({ process, selection, onSelect }: PanelProps) {
  const { document } = useDesign();
  if (selection.kind === 'process')
    return (
      <aside className="design-panel">
        <ProcessPanel process={process} />
      </aside>
    );
  if (selection.kind === 'outcome')
    return (
      <aside className="design-panel">
        <OutcomePanel outcome={selection.outcome} />
      </aside>
    );
  const stage = stageOf(document, selection.stage) ?? document.stages[0];
  return (
    <aside className="design-panel">{stage && <StagePanel key={stage.id} stage={stage} onSelect={onSelect} />}</aside>
  );
}

function StagePanel({ stage, onSelect }: { stage: Stage; onSelect: (selection: Selection) => void }) {
  const { document, edit } = useDesign();
  const place = document.stages.indexOf(stage);
  const change = (values: Partial<Pick<Stage, 'name' | 'purpose' | 'chance' | 'target' | 'idleDays'>>) =>
    edit?.({ kind: 'change_stage', stage: stage.id, change: values });
  const remove = () => {
    edit?.({ kind: 'remove_stage', stage: stage.id });
    onSelect({ kind: 'stage', stage: document.stages[place === 0 ? 1 : place - 1]?.id ?? '' });
  };
  return (
    <>
      <h2>
        {stage.name}{' '}
        <small>
          stage {place + 1} of {document.stages.length}
        </small>
      </h2>
      <fieldset disabled={!edit}>
        <TextBox id="stage-name" label="Name" value={stage.name} max={120} onSave={(name) => change({ name })} />
        <TextBox
          id="stage-purpose"
          label="What is true of the buyer here"
          value={stage.purpose}
          max={2000}
          onSave={(purpose) => change({ purpose })}
        />
        <div className="panel-duo">
          <NumberBox
            id="stage-chance"
            label="Chance of winning from here"
            unit="%"
            value={stage.chance}
            min={0}
            max={100}
            onSave={(chance) => change({ chance: chance ?? 0 })}
          />
          <NumberBox
            id="stage-target"
            label="Move on within"
            unit="days"
            value={stage.target?.days ?? null}
            min={1}
            max={3650}
            onSave={(days) =>
              change({ target: days === null ? null : { days, counting: stage.target?.counting ?? 'calendar' } })
            }
          />
          <NumberBox
            id="stage-idle"
            label="Idle after"
            unit="days"
            value={stage.idleDays}
            min={1}
            max={3650}
            onSave={(idleDays) => change({ idleDays })}
          />
          {stage.target && (
            <Form.Group controlId="stage-counting">
              <Form.Label>Counted in</Form.Label>
              <Form.Select
                value={stage.target.counting}
                onChange={(event) =>
                  change({
                    target: stage.target && {
                      days: stage.target.days,
                      counting: event.target.value === 'working' ? 'working' : 'calendar',
                    },
                  })
                }
              >
                <option value="calendar">all days</option>
                <option value="working">working days</option>
              </Form.Select>
            </Form.Group>
          )}
        </div>
      </fieldset>
      <RequirementSection
        title="To enter this stage"
        place={{ at: 'enter', stage: stage.id }}
        requirements={stage.enter}
      />
      <RequirementSection
        title="Before leaving it forward"
        place={{ at: 'leave', stage: stage.id }}
        requirements={stage.leave}
      />
      <ChecklistEditor stage={stage} />
      {edit && (
        <section className="panel-foot">
          <Button
            variant="outline-secondary"
            size="sm"
            disabled={place === 0}
            onClick={() => edit({ kind: 'move_stage', stage: stage.id, place: place - 1 })}
          >
            Move up
          </Button>
          <Button
            variant="outline-secondary"
            size="sm"
            disabled={place === document.stages.length - 1}
            onClick={() => edit({ kind: 'move_stage', stage: stage.id, place: place + 1 })}
          >
            Move down
          </Button>
          <Button variant="outline-secondary" size="sm" disabled={document.stages.length === 1} onClick={remove}>
            Remove stage
          </Button>
        </section>
      )}
    </>
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

function RequirementSection({
  title,
  place,
  requirements,
}: {
  title: string;
  place: RequirementPlace;
  requirements: readonly Requirement[];
}) {
  const { edit } = useDesign();
  const [edited, setEdited] = useState<Requirement | 'new' | null>(null);
  return (
    <section>
      <header>
        <h3>{title}</h3>
        {edit && (
          <Button variant="link" aria-label={`Add requirement: ${title}`} onClick={() => setEdited('new')}>
            Add requirement
          </Button>
        )}
      </header>
      {requirements.length === 0 && <p className="muted small">Nothing is asked.</p>}
      {requirements.map((requirement) => (
        <div key={requirement.id} className="panel-req">
          <RequirementLine requirement={requirement} />
          <span className="small muted">
            {requirement.level === 'hold' ? 'holds' : 'flags'} ·{' '}
            {requirement.binds === 'at_move' ? 'at the move' : 'must stay so'}
          </span>
          {edit && (
            <Button variant="link" size="sm" onClick={() => setEdited(requirement)}>
              Edit
            </Button>
          )}
          {edit && (
            <Button
              variant="link"
              size="sm"
              onClick={() => edit({ kind: 'remove_requirement', place, requirement: requirement.id })}
            >
              Remove
            </Button>
          )}
        </div>
      ))}
      {edited && (
        <RequirementDialog
          requirement={edited === 'new' ? null : edited}
          onSave={(requirement) => {
            edit?.({ kind: 'put_requirement', place, requirement });
            setEdited(null);
          }}
          onClose={() => setEdited(null)}
        />
      )}
    </section>
  );
}

/** A text that is saved when the box is left, so that a name half written is never a name. */
export function TextBox({
  id,
  label,
  value,
  max,
  onSave,
}: {
  id: string;
  label: string;
  value: string;
  max: number;
  onSave: (value: string) => void;
}) {
  const [text, setText] = useState(value);
  useEffect(() => setText(value), [value]);
  const save = () => {
    if (text !== value) onSave(text.trim());
    setText(value);
  };
  return (
    <Form.Group controlId={id} className="mb-2">
      <Form.Label>{label}</Form.Label>
      <Form.Control
        value={text}
        maxLength={max}
        onChange={(event) => setText(event.target.value)}
        onBlur={save}
        onKeyDown={(event) => event.key === 'Enter' && save()}
      />
    </Form.Group>
  );
}

interface NumberBoxProps {
  readonly id: string;
  readonly label: string;
  readonly unit: string;
  readonly value: number | null;
  readonly min: number;
  readonly max: number;
  readonly onSave: (value: number | null) => void;
}

function NumberBox({ id, label, unit, value, min, max, onSave }: NumberBoxProps) {
  const shown = value === null ? '' : String(value);
  const [text, setText] = useState(shown);
  useEffect(() => setText(shown), [shown]);
  const number = text.trim() === '' ? null : Number(text);
  const isBad = number !== null && (!Number.isInteger(number) || number < min || number > max);
  const save = () => {
    if (!isBad && number !== value) onSave(number);
  };
  return (
    <Form.Group controlId={id}>
      <Form.Label>{label}</Form.Label>
      <div className="with-unit">
        <Form.Control
          inputMode="numeric"
          value={text}
          placeholder="none"
          isInvalid={isBad}
          onChange={(event) => setText(event.target.value)}
          onBlur={save}
          onKeyDown={(event) => event.key === 'Enter' && save()}
        />
        <span className="small muted">{unit}</span>
        <Form.Control.Feedback type="invalid">
          A whole number from {min} to {max}.
        </Form.Control.Feedback>
      </div>
    </Form.Group>
  );
}
