import type { Requirement } from '@ladder/core';
import { Form } from 'react-bootstrap';
import { Options } from '../../../parts/Options.tsx';
import { useGetDocumentKindsQuery } from '../../documents/documentsApi.ts';
import type { EditorProps, RequirementEditor } from './editor.ts';

type Asked = Extract<Requirement, { kind: 'document' }>;

function Editor({ requirement, onChange }: EditorProps<Asked>) {
  const { data: kinds } = useGetDocumentKindsQuery();
  const offered = kinds?.items.filter(({ id, withdrawn }) => !withdrawn || id === requirement.document) ?? [];
  return (
    <Form.Group controlId="requirement-document">
      <Form.Label>Kind of document</Form.Label>
      <Form.Select
        value={requirement.document}
        onChange={(event) => onChange({ ...requirement, document: event.target.value })}
      >
        <option value="">{kinds && offered.length === 0 ? 'Kinds are set up under Settings' : 'Choose…'}</option>
        <Options of={offered} />
      </Form.Select>
    </Form.Group>
  );
}

export const documentEditor: RequirementEditor<Asked> = {
  kind: 'document',
  label: 'A document is attached',
  binds: 'must_stay',
  start: () => ({ kind: 'document', document: '' }),
  Editor,
};
