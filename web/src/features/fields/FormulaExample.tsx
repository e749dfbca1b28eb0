import {
  type Catalogue,
  calculate,
  type FactValue,
  type Field,
  type FieldHolder,
  type Formula,
  formulaFields,
  isEmpty,
  isMoney,
} from '@ladder/core';
import { useState } from 'react';
import { Form } from 'react-bootstrap';
import { plainAmount } from '../../parts/format.ts';
import { type Example, useListExamplesQuery } from './fieldsApi.ts';

interface FormulaExampleProps {
  readonly formula: Formula;
  readonly holder: FieldHolder;
  readonly catalogue: Catalogue;
}

/** What the formula comes to on one record, which may be looked for. */
export function FormulaExample({ formula, holder, catalogue }: FormulaExampleProps) {
  const [find, setFind] = useState('');
  const [chosen, setChosen] = useState<string | null>(null);
  const filled = [...new Set(formulaFields(formula))].join(',');
  const { data } = useListExamplesQuery({ holder, find: find.trim(), filled });
  const examples = data?.items ?? [];
  const example = examples.find(({ id }) => id === chosen) ?? examples[0];
  return (
    <fieldset className="formula-example">
      <legend>On an example</legend>
      <div className="formula-choice">
        <Form.Control
          size="sm"
          type="search"
          aria-label={`Find a ${holder}`}
          placeholder={`Find a ${holder}`}
          value={find}
          onChange={(event) => setFind(event.target.value)}
        />
        <Form.Select
          size="sm"
          aria-label="Example"
          value={example?.id ?? ''}
          onChange={(event) => setChosen(event.target.value)}
        >
          {!example && <option value="">{find ? `No ${holder} is called so` : `There is no ${holder} yet`}</option>}
          {examples.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </Form.Select>
      </div>
      {example && <Worked formula={formula} example={example} catalogue={catalogue} />}
    </fieldset>
  );
}

function Worked({ formula, example, catalogue }: { formula: Formula; example: Example; catalogue: Catalogue }) {
  const { currency, values, rates } = example;
  const rateOf = (from: string) => rates.find((rate) => rate.from === from);
  const result = calculate(formula, values, { currency, rateOf });
  const fields = [...new Set(formulaFields(formula))].flatMap((id) => catalogue.get(id) ?? []);
  return (
    <div className="formula-worked small">
      {fields.map((field) => (
        <span key={field.id}>
          {field.name} <b>{valueWords(values[field.id], field)}</b>
        </span>
      ))}
      <output>
        {result === null ? (
          <span className="text-flagged">{whyEmpty(fields, example)}</span>
        ) : (
          <>
            = <b>{result.toLocaleString('en-GB', { maximumFractionDigits: 6 })}</b>
          </>
        )}
      </output>
    </div>
  );
}

function valueWords(value: FactValue | undefined, { unit }: Field): string {
  if (isMoney(value)) return `${Number(plainAmount(value)).toLocaleString('en-GB')} ${value.currency}`;
  return typeof value === 'number' ? `${value.toLocaleString('en-GB')}${unit ? ` ${unit}` : ''}` : 'empty';
}

function whyEmpty(fields: readonly Field[], { values, currency, rates }: Example): string {
  const empty = fields.filter(({ id }) => isEmpty(values[id])).map(({ name }) => name);
  if (empty.length > 0) return `is empty here: ${empty.join(' and ')} ${empty.length > 1 ? 'are' : 'is'} not filled`;
  const strange = fields
    .map(({ id }) => values[id])
    .find(
      (value) => isMoney(value) && value.currency !== currency && !rates.some(({ from }) => from === value.currency),
    );
  if (isMoney(strange)) return `is empty here: no rate is set from ${strange.currency} to ${currency}`;
  return 'is empty here: it would divide by 0, or be too large';
}
