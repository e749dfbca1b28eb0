import type { Choice, Field } from '@ladder/core';
import { FormDialog } from '../../parts/form/FormDialog.tsx';
import { FormSelect } from '../../parts/form/FormSelect.tsx';
import { useBodyForm } from '../../parts/form/useBodyForm.ts';
import { useLongCommand } from '../work/useLongCommand.ts';
import { WorkProgress } from '../work/WorkProgress.tsx';
import { type FieldUses, useMapChoiceMutation } from './fieldsApi.ts';
import { USE_WORDS } from './fieldWords.ts';

interface MapChoiceDialogProps {
  readonly field: Field;
  readonly from: Choice;
  readonly uses: FieldUses['uses'];
  readonly onClose: () => void;
}

/** Puts another choice in place of one, wherever it is chosen. */
export function MapChoiceDialog({ field, from, uses, onClose }: MapChoiceDialogProps) {
  const [mapChoice] = useMapChoiceMutation();
  const { send, work, isBusy } = useLongCommand(field.id, mapChoice, onClose);
  const others = (field.choices ?? []).filter(({ id, withdrawn }) => id !== from.id && !withdrawn);
  const mapping = useBodyForm({
    begin: { from: from.id, to: '' },
    schema: ({ facts }) => facts.choiceMapping,
    toBody: (values) => values,
    send: (body) => send({ id: field.id, body }),
    words: { to: 'Choose what it becomes.' },
  });
  const named = uses.filter(({ choices }) => choices.includes(from.id));
  const also = field.holder === 'deal' ? ', closed ones too,' : '';
  return (
    <FormDialog title={`In place of “${from.name}”`} confirm="Map it" of={mapping} isBusy={isBusy} onClose={onClose}>
      <p className="small">
        All {field.holder}s that have {from.name}
        {also} get the other choice
        {field.holder === 'deal' && ', as an edit in their journals'}. {from.name} is withdrawn.
        {field.holder === 'deal' && ' Versions that are live offer it until their next publish.'}
      </p>
      <FormSelect
        form={mapping.form}
        name="to"
        id="choice-to"
        label="Becomes"
        names={{ '': 'Choose…', ...Object.fromEntries(others.map(({ id, name }) => [id, name])) }}
      />
      {named.length > 0 && (
        <div className="notice">
          <b>{from.name} is named in processes</b>, which this does not change; open deals are judged by what they have
          then.
          <ul className="mb-0">
            {named.map((use) => (
              <li key={`${use.process.id} ${use.way} ${use.place} ${use.what}`}>
                {use.process.name}, {USE_WORDS[use.way]} {use.place}: {use.what}
              </li>
            ))}
          </ul>
        </div>
      )}
      <WorkProgress work={work} />
    </FormDialog>
  );
}
