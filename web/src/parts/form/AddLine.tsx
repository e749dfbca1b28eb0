import type { ClipboardEvent } from 'react';
import { Button, Form } from 'react-bootstrap';
import { useForm } from 'react-hook-form';

/** With what a line of a list begins. */
const BULLET = /^\s*(?:[-*•‣☐]|\d+[.)])\s+/;

interface AddLineProps {
  readonly label: string;
  readonly placeholder: string;
  readonly confirm: string;
  readonly max: number;
  readonly onAdd: (text: string) => void;
  /** Whether several lines that are pasted are added one by one. */
  readonly lines?: 'each' | 'together';
}

/** One box that adds what is written in it to a list. */
export function AddLine({ label, placeholder, confirm, max, onAdd, lines = 'together' }: AddLineProps) {
  const { register, handleSubmit, reset, watch } = useForm({ defaultValues: { text: '' } });
  const isEmpty = watch('text').trim() === '';
  const add = handleSubmit(({ text }) => {
    if (isEmpty) return;
    onAdd(text.trim());
    reset();
  });
  const paste = (event: ClipboardEvent) => {
    const pasted = event.clipboardData.getData('text').split(/\r?\n/);
    const texts = pasted.map((line) => line.replace(BULLET, '').trim().slice(0, max)).filter((line) => line !== '');
    if (lines === 'together' || texts.length < 2) return;
    event.preventDefault();
    for (const text of texts) onAdd(text);
  };
  return (
    <Form onSubmit={add} className="panel-add">
      <Form.Control
        size="sm"
        aria-label={label}
        placeholder={placeholder}
        maxLength={max}
        autoComplete="off"
        onPaste={paste}
        {...register('text')}
      />
      <Button type="submit" size="sm" variant="outline-secondary" disabled={isEmpty}>
        {confirm}
      </Button>
    </Form>
  );
}
