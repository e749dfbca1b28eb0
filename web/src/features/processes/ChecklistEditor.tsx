import { type ChecklistItem, type ProcessEdit, type Stage, type StageId, TICKER_WORDS } from '@ladder/core';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { AddLine } from '../../parts/form/AddLine.tsx';
import { MoveButtons } from '../../parts/MoveButtons.tsx';
import { newKey } from '../../parts/newKey.ts';
import { CopyTo } from './CopyTo.tsx';
import { useDesign } from './designContext.ts';
import { ItemDialog } from './ItemDialog.tsx';
import { useDesignNames } from './useDesignNames.ts';

/** A stage's checklist: what must be ticked before leaving, what only helps, and which are ticked again after a return. */
export function ChecklistEditor({ stage }: { stage: Stage }) {
  const { edit } = useDesign();
  const add = (text: string) =>
    edit?.({
      kind: 'put_item',
      stage: stage.id,
      item: { id: newKey(), text, need: 'must', level: 'hold', afterReturn: 'keep' },
    });
  return (
    <section>
      <header>
        <h3>Checklist</h3>
      </header>
      {stage.checklist.length === 0 && <p className="muted small">Nothing to tick.</p>}
      {stage.checklist.map((item) => (
        <ItemRow key={item.id} stage={stage} item={item} edit={edit} />
      ))}
      {edit && (
        <>
          <AddLine
            label="New checklist item"
            placeholder="New item"
            confirm="Add item"
            max={500}
            lines="each"
            onAdd={add}
          />
          <p className="small muted">Several lines that are pasted become an item each.</p>
        </>
      )}
    </section>
  );
}

interface ItemRowProps {
  readonly stage: Stage;
  readonly item: ChecklistItem;
  readonly edit: ((edit: ProcessEdit) => void) | null;
}

function ItemRow({ stage, item, edit }: ItemRowProps) {
  const [isEditing, setEditing] = useState(false);
  const put = (changed: ChecklistItem) => edit?.({ kind: 'put_item', stage: stage.id, item: changed });
  const remove = () => edit?.({ kind: 'remove_item', stage: stage.id, item: item.id });
  return (
    <div className="panel-item" data-part={item.id}>
      <span>
        {item.text}
        <ItemNotes item={item} />
      </span>
      <NeedChoice item={item} isFixed={!edit} onChoose={(chosen) => put(withNeed(item, chosen))} />
      {edit && (
        <span className="panel-buttons">
          <MoveButtons
            name={item.text}
            place={stage.checklist.indexOf(item)}
            count={stage.checklist.length}
            onMove={(to) => edit({ kind: 'move_item', stage: stage.id, item: item.id, to })}
          />
          <CopyTo
            name={item.text}
            placesIn={({ stages }) => stages}
            toEdit={(id) => ({ kind: 'put_item', stage: id as StageId, item: { ...item, id: newKey() } })}
          />
          <Button variant="link" size="sm" aria-label={`Edit ${item.text}`} onClick={() => setEditing(true)}>
            Edit
          </Button>
          <Button variant="link" size="sm" aria-label={`Remove ${item.text}`} onClick={remove}>
            Remove
          </Button>
        </span>
      )}
      {isEditing && (
        <ItemDialog
          item={item}
          onSave={(changed) => {
            put(changed);
            setEditing(false);
          }}
          onClose={() => setEditing(false)}
        />
      )}
    </div>
  );
}

/** Who ticks it, with which evidence, and the words to the seller. */
function ItemNotes({ item: { who, document, message, afterReturn } }: { item: ChecklistItem }) {
  const nameOf = useDesignNames();
  const notes = [
    ...(afterReturn === 'again' ? ['again after a return'] : []),
    ...(who ? [`ticked by ${TICKER_WORDS[who]}`] : []),
    ...(document ? [`with ${nameOf(document) ?? 'a kind of document that is gone'} attached`] : []),
    ...(message ? [`“${message}”`] : []),
  ];
  return notes.length > 0 && <span className="small muted d-block">{notes.join(' · ')}</span>;
}

interface NeedChoiceProps {
  readonly item: ChecklistItem;
  readonly isFixed: boolean;
  readonly onChoose: (chosen: string) => void;
}

function NeedChoice({ item, isFixed, onChoose }: NeedChoiceProps) {
  return (
    <Form.Select
      size="sm"
      disabled={isFixed}
      aria-label={`How much ${item.text} matters`}
      value={item.need === 'optional' ? 'optional' : item.level}
      onChange={(event) => onChoose(event.target.value)}
    >
      <option value="hold">must, holds</option>
      <option value="flag">must, flags</option>
      <option value="optional">optional</option>
    </Form.Select>
  );
}

function withNeed(item: ChecklistItem, chosen: string): ChecklistItem {
  if (chosen === 'optional') return { ...item, need: 'optional' };
  return { ...item, need: 'must', level: chosen === 'flag' ? 'flag' : 'hold' };
}
