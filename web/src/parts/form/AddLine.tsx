import { Button, Form } from 'react-bootstrap';
import { useForm } from 'react-hook-form';

interface AddLineProps {
  readonly label: string;
  readonly placeholder: string;
  readonly confirm: string;
  readonly max: number;
  readonly onAdd: (text: string) => void;
}

/** One box that adds what is written in it to a list. */
export function AddLine({ label, placeholder, confirm, max, onAdd }: AddLineProps) {
  const { register, handleSubmit, reset, watch } = useForm({ defaultValues: { text: '' } });
  const isEmpty = watch('text').trim() === '';
  const add = handleSubmit(({ text }) => {
    if (isEmpty) return;
    onAdd(text.trim());
    reset();
  });
  return (
    <Form onSubmit={add} className="panel-add">
      <Form.Control
        size="sm"
        aria-label={label}
        placeholder={placeholder}
        maxLength={max}
        autoComplete="off"
        {...register('text')}
      />
      <Button type="submit" size="sm" variant="outline-secondary" disabled={isEmpty}>
        {confirm}
      </Button>
    </Form>
  );
}
