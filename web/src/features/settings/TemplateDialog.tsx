import type { messages, TypeOf } from '@ladder/contract';
import type { ProcessId } from '@ladder/core';
import { Button, Form } from 'react-bootstrap';
import { boxProblem } from '../../parts/form/boxProblem.ts';
import { FormDialog } from '../../parts/form/FormDialog.tsx';
import { TextField } from '../../parts/form/TextField.tsx';
import { useBodyForm } from '../../parts/form/useBodyForm.ts';
import { Options } from '../../parts/Options.tsx';
import { useGetFieldsQuery } from '../fields/fieldsApi.ts';
import {
  type Template,
  useAddTemplateMutation,
  useChangeTemplateMutation,
  useRemoveTemplateMutation,
} from '../messages/messagesApi.ts';
import { useListProcessesQuery } from '../processes/processesApi.ts';

interface TemplateDialogProps {
  readonly template: Template | null;
  readonly onClose: () => void;
}

interface Written {
  readonly name: string;
  readonly process: string;
  /** The owner, or the contact's field that holds the address. */
  readonly to: { readonly field: string };
  readonly subject: string;
  readonly body: string;
}

const COMMON = ['deal.name', 'deal.value', 'deal.close_date', 'customer.name', 'contact.name', 'owner.name'];

/** A text that is merged with a deal wherever it is used. */
export function TemplateDialog(props: TemplateDialogProps) {
  const { data: fields } = useGetFieldsQuery();
  const { data: processes } = useListProcessesQuery();
  // A choice that is made before its options are there would be lost.
  if (!fields || !processes) return null;
  const addresses = fields.items.filter(({ holder, type }) => holder === 'contact' && type === 'text');
  return <TemplateForm {...props} addresses={addresses} processes={processes.items} />;
}

type Named = { readonly id: string; readonly name: string };

interface TemplateFormProps extends TemplateDialogProps {
  /** Fields of contacts that may hold their mail address. */
  readonly addresses: readonly Named[];
  readonly processes: readonly Named[];
}

function TemplateForm({ template, addresses, processes, onClose }: TemplateFormProps) {
  const [add] = useAddTemplateMutation();
  const [change] = useChangeTemplateMutation();
  const [remove] = useRemoveTemplateMutation();
  const form = useBodyForm({
    begin: {
      name: template?.name ?? '',
      process: template?.process?.id ?? '',
      to: { field: template?.to.field ?? '' },
      subject: template?.subject ?? '',
      body: template?.body ?? '',
    } as Written,
    schema: (contract) => contract.messages.newTemplate,
    toBody: toTemplate,
    send: (body): Promise<{ data?: unknown; error?: unknown }> =>
      template ? change({ id: template.id, body }) : add(body),
    onDone: onClose,
  });
  const takeAway = async () => {
    const answer = template && (await remove(template.id));
    if (answer && !answer.error) onClose();
  };
  const insert = (field: string) => form.form.setValue('body', `${form.form.getValues('body')}{${field}}`);
  return (
    <FormDialog
      title={template ? template.name : 'Add a template'}
      confirm={template ? 'Save' : 'Add the template'}
      of={form}
      onClose={onClose}
    >
      <TextField form={form.form} name="name" id="template-name" label="Name" max={100} />
      <div className="message-to">
        <Form.Group controlId="template-process" className="mb-2">
          <Form.Label>Used by</Form.Label>
          <Form.Select {...form.form.register('process')}>
            <option value="">all processes</option>
            <Options of={processes} />
          </Form.Select>
        </Form.Group>
        <Form.Group controlId="template-to" className="mb-2">
          <Form.Label>Goes to</Form.Label>
          <Form.Select isInvalid={boxProblem(form.form, 'to.field') !== undefined} {...form.form.register('to.field')}>
            <option value="">the deal’s owner</option>
            {addresses.map(({ id, name }) => (
              <option key={id} value={id}>
                the contact, at their {name}
              </option>
            ))}
          </Form.Select>
          <Form.Control.Feedback type="invalid">{boxProblem(form.form, 'to.field')}</Form.Control.Feedback>
        </Form.Group>
      </div>
      <TextField form={form.form} name="subject" id="template-subject" label="Subject" max={300} />
      <TextField form={form.form} name="body" id="template-body" label="Message" rows={8} max={20_000} />
      <div className="merge-fields">
        <span className="small muted">Put in:</span>
        {COMMON.map((field) => (
          <button key={field} type="button" onClick={() => insert(field)}>
            {`{${field}}`}
          </button>
        ))}
      </div>
      {template && (
        <Button variant="link" className="p-0" onClick={() => void takeAway()}>
          Offer it no longer
        </Button>
      )}
    </FormDialog>
  );
}

const toTemplate = ({ name, process, to, subject, body }: Written): TypeOf<typeof messages.newTemplate> => ({
  name: name.trim(),
  process: process === '' ? null : (process as ProcessId),
  to: to.field === '' ? { who: 'owner', field: null } : { who: 'contact', field: to.field },
  subject,
  body,
});
