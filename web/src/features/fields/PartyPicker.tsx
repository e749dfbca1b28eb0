import { Button, Form, InputGroup } from 'react-bootstrap';
import { problemOf } from '../../client/api.ts';
import { useWritten } from '../../parts/form/useWritten.ts';
import type { FieldInputProps } from './FieldInput.tsx';
import { useAddPartyMutation, useFindPartiesQuery } from './partiesApi.ts';

/** Finds a customer or contact by name, or adds the one that was written. */
export function PartyPicker({ id, field, value, names, problem, disabled = false, onSave }: FieldInputProps) {
  const kind = field.type === 'customer' ? 'customers' : 'contacts';
  const current = typeof value === 'string' ? value : null;
  const saved = current ? (names[current] ?? '') : '';
  const [text, setText] = useWritten(saved);
  const { data } = useFindPartiesQuery({ kind, find: text }, { skip: text.trim().length < 2 });
  const [addParty, { isLoading, error }] = useAddPartyMutation();
  const found = data?.items.find(({ name }) => name.toLowerCase() === text.trim().toLowerCase());
  const isNew = text.trim() !== '' && data !== undefined && !found && saved !== text;
  const shown = problem ?? problemOf(error)?.detail;
  const choose = () => {
    if (text.trim() === '' && current) onSave(null);
    if (found && found.id !== current) onSave(found.id);
  };
  const add = async () => {
    const { data: added } = await addParty({ kind, name: text.trim(), customer: null });
    if (added) onSave(added.id);
  };
  return (
    <>
      <InputGroup hasValidation>
        <Form.Control
          id={id}
          aria-label={field.name}
          list={`${id}-found`}
          value={text}
          placeholder="not filled"
          disabled={disabled}
          isInvalid={Boolean(shown)}
          autoComplete="off"
          onChange={(event) => setText(event.target.value)}
          onBlur={choose}
        />
        {isNew && (
          <Button
            variant="outline-secondary"
            disabled={isLoading}
            onMouseDown={(event) => event.preventDefault()}
            onClick={add}
          >
            Add
          </Button>
        )}
        <Form.Control.Feedback type="invalid">{shown}</Form.Control.Feedback>
      </InputGroup>
      <datalist id={`${id}-found`}>
        {data?.items.map((party) => (
          <option key={party.id} value={party.name} />
        ))}
      </datalist>
    </>
  );
}
