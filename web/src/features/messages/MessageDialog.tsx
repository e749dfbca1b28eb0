import type { messages, TypeOf } from '@ladder/contract';
import type { DealId, ProcessId } from '@ladder/core';
import { useState } from 'react';
import { Form } from 'react-bootstrap';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { FormDialog } from '../../parts/form/FormDialog.tsx';
import { TextField } from '../../parts/form/TextField.tsx';
import { useBodyForm } from '../../parts/form/useBodyForm.ts';
import { Options } from '../../parts/Options.tsx';
import {
  type Message,
  useAddMessageMutation,
  useConfirmMessageMutation,
  useLazyDraftMessageQuery,
  useListTemplatesQuery,
} from './messagesApi.ts';

type Written = TypeOf<typeof messages.written>;

interface MessageDialogProps {
  readonly deal: { readonly id: DealId; readonly process: { readonly id: ProcessId } };
  /** One that waits to be confirmed; null writes a new one. */
  readonly message: Message | null;
  readonly onClose: () => void;
}

/** A message about a deal, written or gone over: it is sent as it stands here. */
export function MessageDialog({ deal, message, onClose }: MessageDialogProps) {
  const [add] = useAddMessageMutation();
  const [confirm] = useConfirmMessageMutation();
  const form = useBodyForm({
    begin: {
      name: message?.to.name ?? '',
      address: message?.to.address ?? '',
      subject: message?.subject ?? '',
      body: message?.body ?? '',
    } as Written,
    schema: (contract) => contract.messages.written,
    toBody: (written) => written,
    send: (body) => (message ? confirm({ deal: deal.id, message: message.id, body }) : add({ deal: deal.id, body })),
    onDone: onClose,
  });
  const fill = ({ name, address, subject, body }: Written) => form.form.reset({ name, address, subject, body });
  return (
    <FormDialog
      title={message ? 'Go over the message' : 'Write a message'}
      confirm="Send it"
      of={form}
      onClose={onClose}
    >
      {message?.problem && <p className="text-flagged">{message.problem} Fill it in before it is sent.</p>}
      {!message && <FromTemplate deal={deal} onDraft={fill} />}
      <div className="message-to">
        <TextField form={form.form} name="name" id="message-name" label="To" max={200} />
        <TextField form={form.form} name="address" id="message-address" label="Mail address" max={320} />
      </div>
      <TextField form={form.form} name="subject" id="message-subject" label="Subject" max={300} />
      <TextField form={form.form} name="body" id="message-body" label="Message" rows={9} max={100_000} />
    </FormDialog>
  );
}

interface FromTemplateProps extends Pick<MessageDialogProps, 'deal'> {
  readonly onDraft: (draft: Written) => void;
}

/** Fills the message from a template, and tells what the deal does not say. */
function FromTemplate({ deal, onDraft }: FromTemplateProps) {
  const { data } = useListTemplatesQuery();
  const [getDraft, { error }] = useLazyDraftMessageQuery();
  const [missing, setMissing] = useState<readonly string[]>([]);
  const offered = data?.items.filter(({ process }) => process === null || process.id === deal.process.id) ?? [];
  const [chosen, setChosen] = useState('');
  const choose = async (template: string) => {
    setChosen(template);
    if (template === '') return;
    const draft = await getDraft({ deal: deal.id, template })
      .unwrap()
      .catch(() => null);
    if (!draft) return;
    setMissing(draft.missing);
    onDraft(draft);
  };
  if (offered.length === 0) return null;
  return (
    <Form.Group controlId="message-template" className="mb-2">
      <Form.Label>From a template</Form.Label>
      <Form.Select value={chosen} onChange={({ target }) => void choose(target.value)}>
        <option value="">None</option>
        <Options of={offered} />
      </Form.Select>
      {missing.length > 0 && (
        <p className="text-flagged small mb-0 mt-1">The deal does not tell: {missing.join(', ')}.</p>
      )}
      <ErrorNotice error={error} />
    </Form.Group>
  );
}
