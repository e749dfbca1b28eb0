import { HOUSE_RULES, type HouseRule, type Outcome, type Rule } from '@ladder/core';
import { Button, Form } from 'react-bootstrap';
import { useSession } from '../../client/session.ts';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { AddLine } from '../../parts/form/AddLine.tsx';
import { newKey } from '../../parts/newKey.ts';
import { SelectField } from '../../parts/SelectField.tsx';
import { useGetTeamsQuery } from '../session/sessionApi.ts';
import { useLongCommand } from '../work/useLongCommand.ts';
import { AccessSection } from './AccessSection.tsx';
import { CalendarSection } from './CalendarSection.tsx';
import { useDesign } from './designContext.ts';
import { FieldsUsed } from './FieldsUsed.tsx';
import { type ProcessDetail, useChangeHouseRulesMutation, useChangeProcessMutation } from './processesApi.ts';
import { TextBox } from './TextBox.tsx';
import { TaskFates } from './tasks/TaskFates.tsx';
import { TaskSetsSection } from './tasks/TaskSetsSection.tsx';
import { WaiverRightsSection } from './WaiverRightsSection.tsx';

const RULE_WORDS: Readonly<Record<Rule, string>> = { allow: 'allow', flag: 'flag', hold: 'hold' };
const HOUSE_RULE_NAMES: Readonly<Record<HouseRule, string>> = {
  past_target: 'Past its target',
  idle: 'Idle longer than the stage allows',
  close_date_past: 'Close date is past',
  no_next_action: 'No next action',
  step_late: 'A guided step is late',
};

/** What belongs to the process as a whole: rules that are part of the version, then what is changed at once. */
export function ProcessPanel({ process }: { process: ProcessDetail }) {
  const { document, edit } = useDesign();
  const { person } = useSession();
  return (
    <>
      <h2>
        {document.name} <small>as a whole</small>
      </h2>
      <fieldset disabled={!edit}>
        <TextBox
          id="process-purpose"
          label="What it is for"
          value={document.purpose}
          max={2000}
          onSave={(purpose) => edit?.({ kind: 'set_purpose', purpose })}
        />
        <div className="panel-duo">
          <SelectField
            id="rule-skips"
            label="Skipping a stage"
            names={RULE_WORDS}
            className=""
            value={document.skips}
            onChange={(skips) => edit?.({ kind: 'set_rules', skips, returns: document.returns })}
          />
          <SelectField
            id="rule-returns"
            label="Going back"
            names={RULE_WORDS}
            className=""
            value={document.returns}
            onChange={(returns) => edit?.({ kind: 'set_rules', skips: document.skips, returns })}
          />
        </div>
      </fieldset>
      <TaskSetsSection />
      <FieldsUsed />
      <CalendarSection process={process} mayChange={person.role === 'administrator'} />
      <HouseRules process={process} mayChange={person.role === 'administrator'} />
      <TaskFates process={process} mayChange={person.role === 'administrator'} />
      <WaiverRightsSection process={process} mayChange={person.role === 'administrator'} />
      <Reasons process={process} mayChange={person.role === 'administrator'} />
      <AccessSection process={process} mayChange={person.role === 'administrator'} />
      {process.live && <NewDeals process={process} mayChange={person.role === 'administrator'} />}
    </>
  );
}

interface AtOnceProps {
  readonly process: ProcessDetail;
  readonly mayChange: boolean;
}

function HouseRules({ process, mayChange }: AtOnceProps) {
  const [change] = useChangeHouseRulesMutation();
  const { send, error, isBusy } = useLongCommand(process.id, change, nothingMore);
  const set = (rule: HouseRule, level: string) =>
    send({ id: process.id, houseRules: { ...process.houseRules, [rule]: level } as ProcessDetail['houseRules'] });
  return (
    <section>
      <header>
        <h3>
          House rules <small>for all versions, at once</small>
        </h3>
      </header>
      {HOUSE_RULES.map((rule) => (
        <div key={rule} className="panel-item">
          <label htmlFor={`house-${rule}`}>{HOUSE_RULE_NAMES[rule]}</label>
          <Form.Select
            id={`house-${rule}`}
            size="sm"
            disabled={!mayChange || isBusy}
            value={process.houseRules[rule]}
            onChange={(event) => set(rule, event.target.value)}
          >
            <option value="off">off</option>
            <option value="flag">flag</option>
            <option value="hold">hold</option>
          </Form.Select>
        </div>
      ))}
      <ErrorNotice error={error} />
    </section>
  );
}

/** The process is fetched again by whoever follows the work. */
const nothingMore = (): void => undefined;

function Reasons({ process, mayChange }: AtOnceProps) {
  const { document } = useDesign();
  const [changeProcess, { error, isLoading }] = useChangeProcessMutation();
  const save = (reasons: ProcessDetail['reasons']) => changeProcess({ id: process.id, body: { reasons } });
  return (
    <section>
      <header>
        <h3>
          Reasons <small>for all versions, at once</small>
        </h3>
      </header>
      {document.outcomes.map((outcome) => (
        <OutcomeReasons
          key={outcome.id}
          outcome={outcome}
          reasons={process.reasons}
          state={mayChange ? (isLoading ? 'saving' : 'ready') : 'fixed'}
          onSave={save}
        />
      ))}
      <ErrorNotice error={error} />
    </section>
  );
}

type Reason = ProcessDetail['reasons'][number];

interface OutcomeReasonsProps {
  readonly outcome: Outcome;
  /** Those of all outcomes: they are saved together. */
  readonly reasons: readonly Reason[];
  readonly state: 'fixed' | 'ready' | 'saving';
  readonly onSave: (reasons: readonly Reason[]) => void;
}

function OutcomeReasons({ outcome, reasons, state, onSave }: OutcomeReasonsProps) {
  const change = (id: string, made: Partial<Reason>) =>
    onSave(reasons.map((one) => (one.id === id ? { ...one, ...made } : one)));
  const add = (name: string) =>
    onSave([...reasons, { id: newKey(), outcome: outcome.id, name, followUp: 'not_asked', withdrawn: 'no' }]);
  const word = outcome.name.toLowerCase();
  return (
    <div className="mb-2">
      <b className="small">Why deals are {word}</b>
      {reasons
        .filter((reason) => reason.outcome === outcome.id && reason.withdrawn === 'no')
        .map((reason) => (
          <ReasonRow
            key={reason.id}
            reason={reason}
            counts={outcome.counts}
            state={state}
            onChange={(made) => change(reason.id, made)}
          />
        ))}
      {state !== 'fixed' && (
        <AddLine label={`New reason for ${word}`} placeholder="New reason" confirm="Add" max={200} onAdd={add} />
      )}
    </div>
  );
}

interface ReasonRowProps extends Pick<OutcomeReasonsProps, 'state'>, Pick<Outcome, 'counts'> {
  readonly reason: Reason;
  readonly onChange: (made: Partial<Reason>) => void;
}

function ReasonRow({ reason, counts, state, onChange }: ReasonRowProps) {
  return (
    <div className="panel-item">
      <span>{reason.name}</span>
      {counts === 'lost' && (
        <Form.Check
          id={`follow-${reason.id}`}
          disabled={state !== 'ready'}
          label="asks a follow-up date"
          checked={reason.followUp === 'asked'}
          onChange={(event) => onChange({ followUp: event.target.checked ? 'asked' : 'not_asked' })}
        />
      )}
      {state !== 'fixed' && (
        <Button
          variant="link"
          size="sm"
          disabled={state === 'saving'}
          aria-label={`Withdraw ${reason.name}`}
          onClick={() => onChange({ withdrawn: 'yes' })}
        >
          Withdraw
        </Button>
      )}
    </div>
  );
}

/** A process that is no longer used is closed to new deals; those it has are finished in it (S26). */
function NewDeals({ process, mayChange }: AtOnceProps) {
  const { data: teams } = useGetTeamsQuery();
  const [changeProcess, { error, isLoading }] = useChangeProcessMutation();
  return (
    <section>
      <header>
        <h3>
          New deals <small>at once</small>
        </h3>
      </header>
      <Form.Check
        type="switch"
        id="takes-new-deals"
        label="This process takes new deals"
        checked={!process.closedToNew}
        disabled={!mayChange || isLoading}
        onChange={(event) => changeProcess({ id: process.id, body: { closedToNew: !event.target.checked } })}
      />
      <Form.Group controlId="new-deals-go" className="mt-2">
        <Form.Label>New deals that name no owner go</Form.Label>
        <Form.Select
          size="sm"
          disabled={!mayChange || isLoading}
          value={process.assignment.by === 'turn' ? process.assignment.team : ''}
          onChange={({ target: { value: team } }) =>
            changeProcess({ id: process.id, body: { assignment: team ? { by: 'turn', team } : { by: 'hand' } } })
          }
        >
          <option value="">to whoever begins them</option>
          {teams?.items.map(({ id, name }) => (
            <option key={id} value={id}>
              in turn over the sellers of {name}
            </option>
          ))}
        </Form.Select>
        {process.assignment.by === 'turn' && <Form.Text>Whoever is marked away is passed over.</Form.Text>}
      </Form.Group>
      <ErrorNotice error={error} />
    </section>
  );
}
