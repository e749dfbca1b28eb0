import type { Choice, Field } from '@ladder/core';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { problemOf } from '../../client/api.ts';
import { useUnsaved } from '../../parts/AsksBeforeLeaving.tsx';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { AddLine } from '../../parts/form/AddLine.tsx';
import { MoveButtons } from '../../parts/MoveButtons.tsx';
import { newKey } from '../../parts/newKey.ts';
import { useFollowed } from '../../parts/useFollowed.ts';
import { WorkUnderWay } from '../work/WorkProgress.tsx';
import { type FieldUses, useChangeFieldMutation } from './fieldsApi.ts';
import { MapChoiceDialog } from './MapChoiceDialog.tsx';

interface ChoicesEditorProps {
  readonly field: Field;
  readonly uses: FieldUses['uses'];
}

const NO_CHOICES: readonly Choice[] = [];

/** The choices of a field: put in order, renamed, withdrawn, added; one put in place of another. */
export function ChoicesEditor({ field, uses }: ChoicesEditorProps) {
  const present = field.choices ?? NO_CHOICES;
  const [known, setKnown] = useState(present);
  const [choices, setChoices] = useState(known);
  const [mapped, setMapped] = useState<Choice | null>(null);
  const [change, { error, isLoading, reset }] = useChangeFieldMutation();
  const isChanged = JSON.stringify(choices) !== JSON.stringify(known);
  useUnsaved(isChanged);
  const takeOver = (next: readonly Choice[]) => {
    setKnown(next);
    setChoices(next);
  };
  useFollowed(present, isChanged, takeOver);
  const put = (next: readonly Choice[]) => {
    reset();
    setChoices(next);
  };
  const set = (id: string, part: Partial<Choice>) =>
    put(choices.map((choice) => (choice.id === id ? { ...choice, ...part } : choice)));
  const move = (place: number, to: number) => {
    const next = choices.filter((_, at) => at !== place);
    put([...next.slice(0, to), ...choices.slice(place, place + 1), ...next.slice(to)]);
  };
  const save = async () => {
    const body = { choices: choices.map(trimmed), saw: { choices: known } };
    const { data } = await change({ id: field.id, body });
    if (data?.choices) takeOver(data.choices);
  };
  const isNameless = choices.some(({ name }) => name.trim() === '');
  return (
    <section>
      <header>
        <h3>
          Choices <small>{choices.filter(({ withdrawn }) => !withdrawn).length} offered</small>
        </h3>
      </header>
      <WorkUnderWay subject={field.id} />
      <ul className="choice-list">
        {choices.map((choice, place) => (
          <li key={choice.id} className={choice.withdrawn ? 'withdrawn' : ''}>
            <MoveButtons name={choice.name} place={place} count={choices.length} onMove={(to) => move(place, to)} />
            <Form.Control
              size="sm"
              aria-label={`Choice ${place + 1}`}
              maxLength={200}
              value={choice.name}
              isInvalid={choice.name.trim() === ''}
              onChange={(event) => set(choice.id, { name: event.target.value })}
            />
            <Button
              variant="link"
              size="sm"
              aria-label={`${choice.withdrawn ? 'Offer' : 'Withdraw'} ${choice.name}`}
              onClick={() => set(choice.id, { withdrawn: !choice.withdrawn })}
            >
              {choice.withdrawn ? 'Offer again' : 'Withdraw'}
            </Button>
            {known.some(({ id }) => id === choice.id) ? (
              <Button
                variant="link"
                size="sm"
                disabled={isChanged}
                aria-label={`Put another in place of ${choice.name}`}
                onClick={() => setMapped(choice)}
              >
                Map
              </Button>
            ) : (
              <Button
                variant="link"
                size="sm"
                aria-label={`Leave out ${choice.name}`}
                onClick={() => put(choices.filter(({ id }) => id !== choice.id))}
              >
                ✕
              </Button>
            )}
          </li>
        ))}
      </ul>
      <AddLine
        label="New choice"
        placeholder="New choice"
        confirm="Add"
        max={200}
        lines="each"
        onAdd={(name) => {
          reset();
          setChoices((all) => [...all, { id: newKey(), name }]);
        }}
      />
      <ErrorNotice error={error} />
      {problemOf(error)
        ?.errors?.filter(({ pointer }) => pointer.startsWith('/choices'))
        .map(({ pointer, detail }) => (
          <div key={pointer} className="text-held small">
            {detail}
          </div>
        ))}
      {isChanged && (
        <div className="panel-foot mt-2">
          <Button size="sm" disabled={isLoading || isNameless} onClick={save}>
            Save the choices
          </Button>
          <Button
            size="sm"
            variant="outline-secondary"
            onClick={() => {
              reset();
              takeOver(present);
            }}
          >
            Discard
          </Button>
        </div>
      )}
      <p className="muted small mt-1">
        A withdrawn choice stays where it was chosen.
        {field.holder === 'deal' ? ' Processes offer the choices so from their next publish.' : ''}
      </p>
      {mapped && <MapChoiceDialog field={field} from={mapped} uses={uses} onClose={() => setMapped(null)} />}
    </section>
  );
}

const trimmed = ({ name, withdrawn, ...choice }: Choice): Choice => ({
  ...choice,
  name: name.trim(),
  ...(withdrawn ? { withdrawn } : {}),
});
