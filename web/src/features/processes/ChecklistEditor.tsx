import type { ChecklistItem, Stage } from '@ladder/core';
import { type FormEvent, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { newKey, useDesign } from './designContext.ts';

/** A stage's checklist: what must be ticked before leaving, what only helps, and which are ticked again after a return. */
export function ChecklistEditor({ stage }: { stage: Stage }) {
  const { edit } = useDesign();
  const [text, setText] = useState('');
  const put = (item: ChecklistItem) => edit?.({ kind: 'put_item', stage: stage.id, item });
  const add = (event: FormEvent) => {
    event.preventDefault();
    if (text.trim() === '') return;
    put({ id: newKey(), text: text.trim(), need: 'must', level: 'hold', afterReturn: 'keep' });
    setText('');
  };
  return (
    <section>
      <header>
        <h3>Checklist</h3>
      </header>
      {stage.checklist.length === 0 && <p className="muted small">Nothing to tick.</p>}
      {stage.checklist.map((item) => (
        <div key={item.id} className="panel-item">
          <span>{item.text}</span>
          <Form.Select
            size="sm"
            disabled={!edit}
            aria-label={`How much ${item.text} matters`}
            value={item.need === 'optional' ? 'optional' : item.level}
            onChange={(event) => put(withNeed(item, event.target.value))}
          >
            <option value="hold">must, holds</option>
            <option value="flag">must, flags</option>
            <option value="optional">optional</option>
          </Form.Select>
          <Form.Check
            id={`again-${item.id}`}
            disabled={!edit}
            label="again after a return"
            checked={item.afterReturn === 'again'}
            onChange={(event) => put({ ...item, afterReturn: event.target.checked ? 'again' : 'keep' })}
          />
          {edit && (
            <Button
              variant="link"
              size="sm"
              aria-label={`Remove ${item.text}`}
              onClick={() => edit({ kind: 'remove_item', stage: stage.id, item: item.id })}
            >
              Remove
            </Button>
          )}
        </div>
      ))}
      {edit && (
        <Form onSubmit={add} className="panel-add">
          <Form.Control
            size="sm"
            aria-label="New checklist item"
            placeholder="New item"
            maxLength={500}
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
          <Button type="submit" size="sm" variant="outline-secondary" disabled={text.trim() === ''}>
            Add item
          </Button>
        </Form>
      )}
    </section>
  );
}

function withNeed(item: ChecklistItem, chosen: string): ChecklistItem {
  if (chosen === 'optional') return { ...item, need: 'optional' };
  return { ...item, need: 'must', level: chosen === 'flag' ? 'flag' : 'hold' };
}
