import type { FieldSection } from '@ladder/core';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { useDesign } from './designContext.ts';
import { NewFieldDialog } from './NewFieldDialog.tsx';

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
