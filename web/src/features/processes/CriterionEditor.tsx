import 'react-querybuilder/dist/query-builder.css';
import type { Catalogue, ConditionKind, Criterion, NameOf, Operand, ProcessDocument } from '@ladder/core';
import { ACTIVITY_KINDS, ACTIVITY_SPANS, JOURNEY_FACTS, operandField, STEP_FACTS } from '@ladder/core';
import { QueryBuilderBootstrap } from '@react-querybuilder/bootstrap';
import { useState } from 'react';
import { QueryBuilder, type Field as QueryField, type RuleGroupType, type ValueEditorProps } from 'react-querybuilder';
import { useGetDocumentKindsQuery } from '../documents/documentsApi.ts';
import { CriterionValue } from './CriterionValue.tsx';
import { conditionsOf, fromQuery, operandFromKey, operandKey, startingValue, toQuery } from './criterionQuery.ts';
import { useDesign } from './designContext.ts';
import { useDesignNames } from './useDesignNames.ts';

interface CriterionEditorProps {
  readonly label: string;
  readonly criterion: Criterion;
  readonly onChange: (criterion: Criterion) => void;
}

const WORDS: Readonly<Record<ConditionKind, string>> = {
  set: 'is filled',
  unset: 'is empty',
  equals: 'is',
  differs: 'is not',
  more: 'is more than',
  at_least: 'is at least',
  less: 'is less than',
  at_most: 'is at most',
  between: 'is between',
  one_of: 'is one of',
  none_of: 'is none of',
  includes_any: 'includes any of',
  includes_all: 'includes all of',
  includes_none: 'includes none of',
  contains: 'contains',
  starts_with: 'starts with',
};
const DATE_WORDS: Partial<Record<ConditionKind, string>> = {
  more: 'is after',
  at_least: 'is on or after',
  less: 'is before',
  at_most: 'is on or before',
};

/** What a condition may be about: the catalogue's fields, and what is known of the deal's journey. */
function operandsOffered(
  catalogue: Catalogue,
  document: ProcessDocument,
  kinds: readonly { id: string }[],
  nameOf: NameOf,
) {
  const steps = document.stages.flatMap((stage) => stage.steps);
  const operands: readonly Operand[] = [
    ...[...catalogue.keys()].map((field): Operand => ({ of: 'field', field })),
    ...JOURNEY_FACTS.map((fact): Operand => ({ of: 'journey', fact })),
    ...steps.flatMap(({ id }) => STEP_FACTS.map((what): Operand => ({ of: 'step', step: id, what }))),
    ...ACTIVITY_KINDS.flatMap((activity) =>
      ACTIVITY_SPANS.map((within): Operand => ({ of: 'activities', activity, within })),
    ),
    ...kinds.map(({ id }): Operand => ({ of: 'documents', document: id })),
  ];
  return operands.flatMap((operand): QueryField[] => {
    const field = operandField(operand, catalogue, nameOf);
    const key = operandKey(operand);
    const holder = !field || field.holder === 'deal' ? '' : ` (${field.holder})`;
    return field ? [{ name: key, value: key, label: `${field.name}${holder}` }] : [];
  });
}

function conditionsOffered(name: string, catalogue: Catalogue) {
  const operand = operandFromKey(name);
  const isDate = operandField(operand, catalogue, () => undefined)?.type === 'date';
  return conditionsOf(operand, catalogue).map((kind) => ({
    name: kind,
    value: kind,
    label: (isDate && DATE_WORDS[kind]) || WORDS[kind],
  }));
}

/** Edits a criterion as nested conditions; what it means is shown as a sentence beside it. */
export function CriterionEditor({ label, criterion, onChange }: CriterionEditorProps) {
  const { catalogue, document } = useDesign();
  const nameOf = useDesignNames();
  const { data: kinds } = useGetDocumentKindsQuery();
  const [query, setQuery] = useState<RuleGroupType>(() => toQuery(criterion));
  const fields = operandsOffered(catalogue, document, kinds?.items ?? [], nameOf);
  const operators = (name: string) => conditionsOffered(name, catalogue);
  const change = (next: RuleGroupType) => {
    setQuery(next);
    onChange(fromQuery(next));
  };
  return (
    <div className="criterion-editor" role="group" aria-label={label}>
      <span className="form-label">{label}</span>
      <QueryBuilderBootstrap>
        <QueryBuilder
          fields={fields}
          query={query}
          onQueryChange={change}
          getOperators={operators}
          getDefaultValue={(rule) =>
            startingValue(operandFromKey(rule.field), rule.operator as ConditionKind, catalogue)
          }
          resetOnFieldChange
          resetOnOperatorChange
          showNotToggle
          addRuleToNewGroups
          combinators={[
            { name: 'and', value: 'and', label: 'all of these' },
            { name: 'or', value: 'or', label: 'any of these' },
          ]}
          translations={{
            addRule: { label: 'Add condition', title: 'Add condition' },
            addGroup: { label: 'Add group', title: 'Add group' },
            notToggle: { label: 'not', title: 'Turn the group round' },
            removeRule: { label: '✕', title: 'Remove condition' },
            removeGroup: { label: '✕', title: 'Remove group' },
          }}
          controlElements={{ valueEditor: ValueEditor }}
          accessibleDescriptionGenerator={() => label}
        />
      </QueryBuilderBootstrap>
    </div>
  );
}

function ValueEditor({ field, operator, value, handleOnChange }: ValueEditorProps) {
  return (
    <CriterionValue
      operand={operandFromKey(field)}
      kind={operator as ConditionKind}
      value={value}
      onChange={handleOnChange}
    />
  );
}
