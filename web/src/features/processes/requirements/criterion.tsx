import { type Requirement, sentence } from '@ladder/core';
import { CriterionEditor } from '../CriterionEditor.tsx';
import { startingCriterion } from '../criterionQuery.ts';
import { useDesign } from '../designContext.ts';
import { useDesignNames } from '../useDesignNames.ts';
import type { EditorProps, RequirementEditor } from './editor.ts';

type Asked = Extract<Requirement, { kind: 'criterion' }>;

function Editor({ requirement, onChange }: EditorProps<Asked>) {
  const { catalogue } = useDesign();
  const nameOf = useDesignNames();
  return (
    <>
      <CriterionEditor
        label="What must be so"
        criterion={requirement.criterion}
        onChange={(criterion) => onChange({ ...requirement, criterion })}
      />
      <p className="says" role="status">
        {sentence(requirement.criterion, catalogue, nameOf)}.
      </p>
    </>
  );
}

export const criterionEditor: RequirementEditor<Asked> = {
  kind: 'criterion',
  label: 'A criterion is met',
  binds: 'at_move',
  start: (catalogue) => ({ kind: 'criterion', criterion: startingCriterion(catalogue) }),
  Editor,
};
