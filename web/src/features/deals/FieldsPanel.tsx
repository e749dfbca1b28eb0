import { type Field, valueText } from '@ladder/core';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { countOf } from '../../parts/format.ts';
import { DealField } from './DealField.tsx';
import type { DealDetail } from './dealsApi.ts';
import { NEXT_ACTION_FIELDS } from './NextActionPart.tsx';

const SHOWN_FOLDED = 4;

/** The process's fields: a few at a glance, or all of them in their sections to be edited. */
export function FieldsPanel({ deal }: { deal: DealDetail }) {
  const [isOpen, setOpen] = useState(false);
  const byId = new Map(deal.fields.map((field) => [field.id, field]));
  const inSection = (fields: readonly string[]) =>
    fields.filter((id) => !NEXT_ACTION_FIELDS.includes(id)).flatMap((id) => byId.get(id) ?? []);
  const all = deal.document.sections.flatMap(({ fields }) => inSection(fields));
  const own = all.filter(({ builtIn }) => !builtIn);
  return (
    <section className="fields" aria-label="Fields">
      {!isOpen && (
        <div className="fields-folded">
          {(own.length > 0 ? own : all).slice(0, SHOWN_FOLDED).map((field) => (
            <Glance key={field.id} field={field} deal={deal} />
          ))}
        </div>
      )}
      {isOpen &&
        deal.document.sections.map((section) => (
          <fieldset key={section.id}>
            <legend>{section.name}</legend>
            <div className="fields-grid">
              {inSection(section.fields).map((field) => (
                <DealField key={field.id} id={`field-${field.id}`} field={field} deal={deal} label="shown" />
              ))}
            </div>
          </fieldset>
        ))}
      {isOpen && (
        <>
          <PartyFields legend="The customer" holder="customer" deal={deal} />
          <PartyFields legend="The contact" holder="contact" deal={deal} />
          <fieldset>
            <legend>Who works it</legend>
            <div className="fields-grid">
              {['owner', 'team', 'own_chance']
                .flatMap((id) => byId.get(id) ?? [])
                .map((field) => (
                  <DealField key={field.id} id={`field-${field.id}`} field={field} deal={deal} label="shown" />
                ))}
            </div>
          </fieldset>
        </>
      )}
      <Button variant="link" aria-expanded={isOpen} onClick={() => setOpen(!isOpen)}>
        {isOpen ? 'Fold the fields' : `All ${countOf(all.length + 3, 'field')}`}
      </Button>
    </section>
  );
}

/** What the process reads of the customer or contact that the deal names. */
function PartyFields({ legend, holder, deal }: { legend: string; holder: 'customer' | 'contact'; deal: DealDetail }) {
  const fields = deal.fields.filter((field) => field.holder === holder);
  if (fields.length === 0 || !deal[holder]) return null;
  return (
    <fieldset>
      <legend>{legend}</legend>
      <div className="fields-grid">
        {fields.map((field) => (
          <DealField key={field.id} id={`field-${field.id}`} field={field} deal={deal} label="shown" />
        ))}
      </div>
    </fieldset>
  );
}

function Glance({ field, deal }: { field: Field; deal: DealDetail }) {
  const value = deal.values[field.id] ?? null;
  return (
    <div>
      <span className="form-label d-block">{field.name}</span>
      <span className={value === null ? 'muted' : 'fw-semibold'}>
        {valueText(value, field, (id) => deal.names[id])}
      </span>
    </div>
  );
}
