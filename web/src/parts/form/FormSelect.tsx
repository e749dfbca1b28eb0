import { type FieldValues, type Path, type UseFormReturn, useController } from 'react-hook-form';
import { SelectField } from '../SelectField.tsx';

interface FormSelectProps<Values extends FieldValues> {
  readonly form: UseFormReturn<Values>;
  readonly name: Path<Values>;
  readonly id: string;
  readonly label: string;
  readonly names: Readonly<Record<string, string>>;
}

/** A labelled choice of one of a closed set, in a form. */
export function FormSelect<Values extends FieldValues>({ form, name, ...shown }: FormSelectProps<Values>) {
  const { field, fieldState } = useController({ control: form.control, name });
  return <SelectField {...shown} value={field.value} problem={fieldState.error?.message} onChange={field.onChange} />;
}
