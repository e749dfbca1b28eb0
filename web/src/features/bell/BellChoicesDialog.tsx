import { NOTICE_KINDS, type NoticeKind } from '@ladder/core';
import { Form } from 'react-bootstrap';
import { FormDialog } from '../../parts/form/FormDialog.tsx';
import { useBodyForm } from '../../parts/form/useBodyForm.ts';
import { useGetBellChoicesQuery, useSetBellChoicesMutation } from './bellApi.ts';
import { NOTICE_NAMES } from './noticeWords.ts';

/** What of the bell is sent as a message too: all that is unread in one, once a day at most. */
export function BellChoicesDialog({ onClose }: { readonly onClose: () => void }) {
  const { data } = useGetBellChoicesQuery(undefined, { refetchOnMountOrArgChange: true });
  return data ? <ChoicesForm digest={data.digest} onClose={onClose} /> : null;
}

interface ChoicesFormProps {
  readonly digest: readonly NoticeKind[];
  readonly onClose: () => void;
}

function ChoicesForm({ digest, onClose }: ChoicesFormProps) {
  const [setChoices] = useSetBellChoicesMutation();
  const form = useBodyForm({
    begin: { digest },
    schema: (contract) => contract.bell.choices,
    toBody: (written) => written,
    send: setChoices,
    onDone: onClose,
  });
  const chosen = form.form.watch('digest');
  const toggle = (kind: NoticeKind) =>
    form.form.setValue('digest', chosen.includes(kind) ? chosen.filter((one) => one !== kind) : [...chosen, kind]);
  return (
    <FormDialog title="Sent as a message" confirm="Save" of={form} onClose={onClose}>
      <p>What you have not read by the next morning comes in one message, once a day at most.</p>
      {NOTICE_KINDS.map((kind) => (
        <Form.Check
          key={kind}
          id={`digest-${kind}`}
          label={NOTICE_NAMES[kind]}
          checked={chosen.includes(kind)}
          onChange={() => toggle(kind)}
        />
      ))}
    </FormDialog>
  );
}
