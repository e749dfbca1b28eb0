import { type FieldSection, OWN_FIELD_TYPES } from '@ladder/core';
import { type FormEvent, useState } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import { problemAt, problemOf } from '../../app/api.ts';
import { useAppDispatch } from '../../app/hooks.ts';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { TextField } from '../../parts/TextField.tsx';
import { newKey, useDesign } from './designContext.ts';
import { processesApi, useAddFieldMutation } from './processesApi.ts';

/** Fields the process shows on a deal, in sections; a new field goes into the catalogue all processes share. */
export function FieldsUsed() {
  const { document, catalogue, edit } = useDesign();
  const [isAdding, setAdding] = useState(false);
  const used = new Set(document.sections.flatMap(({ fields }) => fields));
  const unused = [...catalogue.values()].filter(({ id, holder }) => holder === 'deal' && !used.has(id));
  const put = (section: FieldSection, fields: readonly string[]) =>
    edit?.({
      kind: 'set_sections',
      sections: document.sections.map((one) => (one.id === section.id ? { ...one, fields } : one)),
    });
  return (
    <section>
      <header>
        <h3>Fields</h3>
        {edit && (
          <Button variant="link" onClick={() => setAdding(true)}>
            New field
          </Button>
        )}
      </header>
      {document.sections.map((section) => (
        <div key={section.id} className="mb-2">
          <b className="small">{section.name}</b>
          <ul className="field-list">
            {section.fields.map((id) => (
              <li key={id}>
                {catalogue.get(id)?.name ?? 'A field that is gone'}
                {edit && (
                  <Button
                    variant="link"
                    size="sm"
                    aria-label={`Leave out ${catalogue.get(id)?.name ?? id}`}
                    onClick={() =>
                      put(
                        section,
                        section.fields.filter((field) => field !== id),
                      )
                    }
                  >
                    ✕
                  </Button>
                )}
              </li>
            ))}
          </ul>
          {edit && unused.length > 0 && (
            <Form.Select
              size="sm"
              aria-label={`Add a field to ${section.name}`}
              value=""
              onChange={(event) => put(section, [...section.fields, event.target.value])}
            >
              <option value="">Add a field…</option>
              {unused.map(({ id, name }) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
            </Form.Select>
          )}
        </div>
      ))}
      {isAdding && <NewFieldDialog onClose={() => setAdding(false)} />}
    </section>
  );
}

const TYPE_NAMES: Readonly<Record<string, string>> = {
  text: 'Text',
  long_text: 'Long text',
  number: 'Number',
  money: 'Money',
  date: 'Date',
  yes_no: 'Yes or no',
  choice: 'Choice',
  choices: 'Several choices',
  person: 'Person',
  link: 'Link',
};

function NewFieldDialog({ onClose }: { onClose: () => void }) {
  const [addField, { error, isLoading }] = useAddFieldMutation();
  const [name, setName] = useState('');
  const [type, setType] = useState('text');
  const [unit, setUnit] = useState('');
  const [choices, setChoices] = useState('');
  const dispatch = useAppDispatch();
  const problem = problemOf(error);
  const isChoice = type === 'choice' || type === 'choices';
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    const known = OWN_FIELD_TYPES.find((candidate) => candidate === type) ?? 'text';
    const names = choices
      .split('\n')
      .map((line) => line.trim())
      .filter((line) => line !== '');
    const answer = await addField({
      holder: 'deal',
      type: known,
      name: name.trim(),
      ...(unit.trim() && type === 'number' ? { unit: unit.trim() } : {}),
      ...(isChoice ? { choices: names.map((choice) => ({ id: newKey(), name: choice })) } : {}),
    });
    if (!answer.data) return;
    dispatch(processesApi.util.invalidateTags(['Draft']));
    onClose();
  };
  return (
    <Modal show onHide={onClose} centered aria-labelledby="new-field-title">
      <Form onSubmit={submit} noValidate>
        <Modal.Header closeButton>
          <h2 id="new-field-title">New field</h2>
        </Modal.Header>
        <Modal.Body>
          <p className="muted small">All processes can use it. Its type and unit stay for good.</p>
          <TextField
            id="field-name"
            label="Name"
            autoFocus
            max={200}
            value={name}
            problem={problemAt(problem, '/name')}
            onChange={setName}
          />
          <Form.Group controlId="field-type" className="mb-2">
            <Form.Label>Type</Form.Label>
            <Form.Select value={type} onChange={(event) => setType(event.target.value)}>
              {Object.entries(TYPE_NAMES).map(([id, label]) => (
                <option key={id} value={id}>
                  {label}
                </option>
              ))}
            </Form.Select>
          </Form.Group>
          {type === 'number' && (
            <TextField id="field-unit" label="Unit, if any" max={20} value={unit} onChange={setUnit} />
          )}
          {isChoice && (
            <Form.Group controlId="field-choices">
              <Form.Label>Choices, one a line</Form.Label>
              <Form.Control
                as="textarea"
                rows={4}
                value={choices}
                isInvalid={Boolean(problemAt(problem, '/choices'))}
                onChange={(event) => setChoices(event.target.value)}
              />
              <Form.Control.Feedback type="invalid">{problemAt(problem, '/choices')}</Form.Control.Feedback>
            </Form.Group>
          )}
          {problem && !problem.errors && <ErrorNotice error={error} />}
        </Modal.Body>
        <Modal.Footer>
          <Button variant="outline-secondary" onClick={onClose}>
            Cancel
          </Button>
          <Button type="submit" disabled={isLoading}>
            Add the field
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
