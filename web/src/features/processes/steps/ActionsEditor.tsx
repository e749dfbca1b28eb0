import { type Field, MOST_ACTIONS, type ResultAction, SETTABLE_TYPES, type SetTo, type StepResult } from '@ladder/core';
import { Button, Form } from 'react-bootstrap';
import { Options } from '../../../parts/Options.tsx';
import { FieldInput } from '../../fields/FieldInput.tsx';
import { useDesign } from '../designContext.ts';
import { MessageAction } from './MessageAction.tsx';
import { shifted } from './shifted.ts';

interface ActionsEditorProps {
  readonly result: StepResult;
  readonly name: string;
  readonly onChange: (actions: readonly ResultAction[]) => void;
}

const NEW_ACTIONS: Readonly<Record<ResultAction['do'], { readonly name: string; readonly begin: ResultAction }>> = {
  set_field: { name: 'set a field', begin: { do: 'set_field', field: '', set: { to: 'empty' } } },
  tick: { name: 'tick an item', begin: { do: 'tick', item: '' } },
  note: { name: 'add a note', begin: { do: 'note', text: '' } },
  message: { name: 'prepare a message', begin: { do: 'message', template: '', how: 'to_confirm' } },
  add_tasks: { name: 'add tasks', begin: { do: 'add_tasks', set: '' } },
};

/** What a result does beside leading on, in order. */
export function ActionsEditor({ result, name, onChange }: ActionsEditorProps) {
  const { actions } = result;
  const put = (place: number, action: ResultAction) => onChange(actions.with(place, action));
  return (
    <div className="step-actions">
      {actions.map((action, place) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: actions have no ids, and their boxes keep nothing of their own
        <div key={place} className="step-action">
          <span className="small muted">{place === 0 ? 'and' : 'then'}</span>
          <ActionPart action={action} id={`${result.id}-${place}`} onChange={(changed) => put(place, changed)} />
          <Button
            variant="link"
            size="sm"
            disabled={place === 0}
            aria-label={`Action ${place + 1} of ${name} up`}
            onClick={() => onChange(shifted(actions, place, place - 1))}
          >
            Up
          </Button>
          <Button
            variant="link"
            size="sm"
            aria-label={`Remove action ${place + 1} of ${name}`}
            onClick={() => onChange(actions.toSpliced(place, 1))}
          >
            Remove
          </Button>
        </div>
      ))}
      {actions.length < MOST_ACTIONS && (
        <Form.Select
          size="sm"
          aria-label={`Add an action to ${name}`}
          value=""
          onChange={(event) => onChange([...actions, NEW_ACTIONS[event.target.value as ResultAction['do']].begin])}
        >
          <option value="">Also…</option>
          <Options of={Object.entries(NEW_ACTIONS).map(([id, { name: words }]) => ({ id, name: words }))} />
        </Form.Select>
      )}
    </div>
  );
}

interface PartProps<Action extends ResultAction> {
  readonly action: Action;
  readonly id: string;
  readonly onChange: (action: ResultAction) => void;
}

function ActionPart({ action, id, onChange }: PartProps<ResultAction>) {
  switch (action.do) {
    case 'set_field':
      return <SetField action={action} id={id} onChange={onChange} />;
    case 'tick':
      return <Tick action={action} id={id} onChange={onChange} />;
    case 'message':
      return <MessageAction action={action} onChange={onChange} />;
    case 'add_tasks':
      return <AddTasks action={action} id={id} onChange={onChange} />;
    case 'note':
      return (
        <Form.Control
          size="sm"
          aria-label="Text of the note"
          placeholder="Text of the note"
          maxLength={2_000}
          value={action.text}
          onChange={(event) => onChange({ ...action, text: event.target.value })}
        />
      );
  }
}

function AddTasks({ action, onChange }: PartProps<Extract<ResultAction, { do: 'add_tasks' }>>) {
  const { document } = useDesign();
  return (
    <Form.Select
      size="sm"
      aria-label="Which set of tasks is added"
      value={action.set}
      onChange={(event) => onChange({ ...action, set: event.target.value })}
    >
      <option value="">
        {document.taskSets.length === 0 ? 'No set yet: they are beside the rules and reasons' : 'Add the tasks of…'}
      </option>
      <Options of={document.taskSets} />
    </Form.Select>
  );
}

function Tick({ action, onChange }: PartProps<Extract<ResultAction, { do: 'tick' }>>) {
  const { document } = useDesign();
  return (
    <Form.Select
      size="sm"
      aria-label="Which item is ticked"
      value={action.item}
      onChange={(event) => onChange({ ...action, item: event.target.value })}
    >
      <option value="">Tick…</option>
      {document.stages
        .filter(({ checklist }) => checklist.length > 0)
        .map(({ id, name, checklist }) => (
          <optgroup key={id} label={name}>
            {checklist.map((item) => (
              <option key={item.id} value={item.id}>
                {item.text}
              </option>
            ))}
          </optgroup>
        ))}
    </Form.Select>
  );
}

function SetField({ action, id, onChange }: PartProps<Extract<ResultAction, { do: 'set_field' }>>) {
  const { catalogue, document } = useDesign();
  const { field, set } = action;
  const known = catalogue.get(field);
  const choose = (chosen: string) => onChange({ ...action, field: chosen, set: startingSet(catalogue.get(chosen)) });
  const setTo = (to: string) => onChange({ ...action, set: to === 'value' ? { to, value: null } : ({ to } as SetTo) });
  return (
    <div className="step-set">
      <Form.Select
        size="sm"
        aria-label="Which field is set"
        value={field}
        onChange={(event) => choose(event.target.value)}
      >
        <option value="">Set…</option>
        <Options of={[...catalogue.values()].filter(isSettable)} />
      </Form.Select>
      {known && (
        <Form.Select
          size="sm"
          aria-label={`What ${known.name} is set to`}
          value={set.to}
          onChange={(event) => setTo(event.target.value)}
        >
          <option value="value">to a value</option>
          {known.type === 'date' && <option value="today">to the day</option>}
          <option value="empty">to empty</option>
        </Form.Select>
      )}
      {known && set.to === 'value' && (
        <FieldInput
          id={`set-${id}`}
          field={known}
          value={set.value}
          currency={document.currency}
          names={{}}
          saves="as_written"
          onSave={(value) => onChange({ ...action, set: { to: 'value', value } })}
        />
      )}
    </div>
  );
}

const isSettable = ({ holder, type }: Field): boolean =>
  holder === 'deal' && (SETTABLE_TYPES as readonly string[]).includes(type);

const startingSet = (field: Field | undefined): SetTo =>
  field?.type === 'date' ? { to: 'today' } : { to: 'value', value: null };
