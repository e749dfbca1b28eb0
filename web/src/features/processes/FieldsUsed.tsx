import type { FieldSection } from '@ladder/core';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { Options } from '../../parts/Options.tsx';
import { NewFieldDialog } from '../fields/NewFieldDialog.tsx';
import { useDesign } from './designContext.ts';

/** Fields the process shows on a deal, in sections; a new field goes into the catalogue all processes share. */
export function FieldsUsed() {
  const { document, edit } = useDesign();
  const [isAdding, setAdding] = useState(false);
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
        <SectionFields key={section.id} section={section} />
      ))}
      {isAdding && <NewFieldDialog onClose={() => setAdding(false)} />}
    </section>
  );
}

function SectionFields({ section }: { section: FieldSection }) {
  const { document, catalogue, edit } = useDesign();
  const put = (fields: readonly string[]) =>
    edit?.({
      kind: 'set_sections',
      sections: document.sections.map((one) => (one.id === section.id ? { ...one, fields } : one)),
    });
  const leaveOut = (id: string) => put(section.fields.filter((field) => field !== id));
  return (
    <div className="mb-2">
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
                onClick={() => leaveOut(id)}
              >
                ✕
              </Button>
            )}
          </li>
        ))}
      </ul>
      {edit && <AddField section={section} onAdd={(id) => put([...section.fields, id])} />}
    </div>
  );
}

function AddField({ section, onAdd }: { section: FieldSection; onAdd: (id: string) => void }) {
  const { document, catalogue } = useDesign();
  const used = new Set(document.sections.flatMap(({ fields }) => fields));
  const unused = [...catalogue.values()].filter(({ id, holder }) => holder === 'deal' && !used.has(id));
  if (unused.length === 0) return null;
  return (
    <Form.Select
      size="sm"
      aria-label={`Add a field to ${section.name}`}
      value=""
      onChange={(event) => onAdd(event.target.value)}
    >
      <option value="">Add a field…</option>
      <Options of={unused} />
    </Form.Select>
  );
}
