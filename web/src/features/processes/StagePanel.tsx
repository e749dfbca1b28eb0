import { type DayCount, type ProcessEdit, type Stage, type Target, wilson } from '@ladder/core';
import { Button, Form } from 'react-bootstrap';
import { useParams } from 'react-router';
import { useSession } from '../../client/session.ts';
import { countOf } from '../../parts/format.ts';
import { ChecklistEditor } from './ChecklistEditor.tsx';
import { useGetEvidenceQuery } from './check/checkApi.ts';
import { useDesign } from './designContext.ts';
import { NumberBox } from './NumberBox.tsx';
import { RequirementSection } from './RequirementSection.tsx';
import { StepsSection } from './steps/StepsSection.tsx';
import { TextBox } from './TextBox.tsx';
import { ArrivalSection } from './tasks/ArrivalSection.tsx';
import type { Selection } from './useSelection.ts';

interface StagePanelProps {
  readonly stage: Stage;
  readonly onSelect: (selection: Selection) => void;
}

/** One stage: what it is called and means, its numbers, what it asks, and its place on the ladder. */
export function StagePanel({ stage, onSelect }: StagePanelProps) {
  const { document, edit } = useDesign();
  return (
    <>
      <h2>
        {stage.name}{' '}
        <small>
          stage {document.stages.indexOf(stage) + 1} of {document.stages.length}
        </small>
      </h2>
      <fieldset disabled={!edit}>
        <StageFacts stage={stage} />
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
      <StepsSection stage={stage} />
      <ArrivalSection stage={stage} />
      {edit && <StageOrder stage={stage} onSelect={onSelect} edit={edit} />}
    </>
  );
}

type StageChange = Extract<ProcessEdit, { kind: 'change_stage' }>['change'];

function StageFacts({ stage }: { stage: Stage }) {
  const { edit } = useDesign();
  const change = (values: StageChange) => edit?.({ kind: 'change_stage', stage: stage.id, change: values });
  return (
    <>
      <TextBox id="stage-name" label="Name" value={stage.name} max={120} onSave={(name) => change({ name })} />
      <TextBox
        id="stage-purpose"
        label="What is true of the buyer here"
        value={stage.purpose}
        max={2000}
        onSave={(purpose) => change({ purpose })}
      />
      <StageNumbers stage={stage} change={change} />
    </>
  );
}

function StageNumbers({ stage, change }: { stage: Stage; change: (values: StageChange) => void }) {
  const { target } = stage;
  const setTarget = (days: number | null) =>
    change({ target: days === null ? null : { days, counting: target?.counting ?? 'calendar' } });
  return (
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
      <DaysBox id="stage-target" label="Move on within" value={target?.days ?? null} onSave={setTarget} />
      <DaysBox id="stage-idle" label="Idle after" value={stage.idleDays} onSave={(idleDays) => change({ idleDays })} />
      {target && (
        <CountingChoice target={target} onChoose={(counting) => change({ target: { days: target.days, counting } })} />
      )}
      <Observed stage={stage} onChance={(chance) => change({ chance })} />
    </div>
  );
}

/** What came of deals of the past year that were in the stage, with which its chance can be corrected. */
function Observed({ stage, onChance }: { stage: Stage; onChance: (chance: number) => void }) {
  const { edit } = useDesign();
  const { process = '' } = useParams();
  const { person } = useSession();
  const { currentData } = useGetEvidenceQuery(process, { skip: person.role !== 'administrator' });
  const seen = currentData?.stages.find((one) => one.stage === stage.id);
  if (!seen || seen.closed === 0) return null;
  const { closed, won, medianDays } = seen;
  const interval = wilson(won, closed);
  const share = Math.round((won / closed) * 100);
  return (
    <p className="small muted panel-observed">
      Of {countOf(closed, 'deal')} that were here and closed in the last year {won.toLocaleString('en-GB')} were won (
      {share}%{interval && `, 95% interval ${Math.round(interval.low * 100)} to ${Math.round(interval.high * 100)}%`}).
      {medianDays !== null && ` Half of the stays took ${countOf(Math.round(medianDays), 'day')} or more.`}{' '}
      {edit && share !== stage.chance && closed >= ENOUGH && (
        <Button variant="link" size="sm" className="p-0" onClick={() => onChance(share)}>
          Set the chance to {share}%
        </Button>
      )}
    </p>
  );
}

/** Fewer tell nothing. */
const ENOUGH = 5;

interface DaysBoxProps {
  readonly id: string;
  readonly label: string;
  readonly value: number | null;
  readonly onSave: (days: number | null) => void;
}

const DaysBox = (props: DaysBoxProps) => <NumberBox {...props} unit="days" min={1} max={3650} />;

function CountingChoice({ target, onChoose }: { target: Target; onChoose: (counting: DayCount) => void }) {
  return (
    <Form.Group controlId="stage-counting">
      <Form.Label>Counted in</Form.Label>
      <Form.Select
        value={target.counting}
        onChange={(event) => onChoose(event.target.value === 'working' ? 'working' : 'calendar')}
      >
        <option value="calendar">all days</option>
        <option value="working">working days</option>
      </Form.Select>
    </Form.Group>
  );
}

interface StageOrderProps extends StagePanelProps {
  readonly edit: (edit: ProcessEdit) => void;
}

function StageOrder({ stage, onSelect, edit }: StageOrderProps) {
  const { stages } = useDesign().document;
  const place = stages.indexOf(stage);
  const moveTo = (there: number) => edit({ kind: 'move_stage', stage: stage.id, place: there });
  const remove = () => {
    edit({ kind: 'remove_stage', stage: stage.id });
    onSelect({ kind: 'stage', stage: (stages[place === 0 ? 1 : place - 1] ?? stage).id });
  };
  const buttons = [
    { name: 'Move up', isOff: place === 0, press: () => moveTo(place - 1) },
    { name: 'Move down', isOff: place === stages.length - 1, press: () => moveTo(place + 1) },
    { name: 'Remove stage', isOff: stages.length === 1, press: remove },
  ];
  return (
    <section className="panel-foot">
      {buttons.map(({ name, isOff, press }) => (
        <Button key={name} variant="outline-secondary" size="sm" disabled={isOff} onClick={press}>
          {name}
        </Button>
      ))}
    </section>
  );
}
