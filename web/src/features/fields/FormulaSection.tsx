import { canonicalText, type Field, type Formula } from '@ladder/core';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { problemOf } from '../../client/api.ts';
import { useUnsaved } from '../../parts/AsksBeforeLeaving.tsx';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { useLongCommand } from '../work/useLongCommand.ts';
import { WorkProgress } from '../work/WorkProgress.tsx';
import { FormulaBox } from './FormulaBox.tsx';
import { useSetFormulaMutation } from './fieldsApi.ts';

/** What a calculated number is worked out as. */
export function FormulaSection({ field }: { field: Field }) {
  const saved = field.formula ?? null;
  const [formula, setFormula] = useState<Formula | null>(saved);
  const [round, setRound] = useState(0);
  const [setOther] = useSetFormulaMutation();
  const { send, work, error, isBusy } = useLongCommand(field.id, setOther, nothingMore);
  const isChanged = canonicalText(formula) !== canonicalText(saved);
  useUnsaved(isChanged);
  return (
    <section>
      <header>
        <h3>Formula</h3>
      </header>
      <FormulaBox
        key={`${canonicalText(saved)} ${round}`}
        holder={field.holder}
        field={field.id}
        begin={saved}
        problem={problemOf(error)?.errors?.find(({ pointer }) => pointer.startsWith('/formula'))?.detail}
        onChange={setFormula}
      />
      <ErrorNotice error={error} />
      <WorkProgress work={work} />
      {isChanged && (
        <div className="panel-foot mt-2">
          <Button
            size="sm"
            disabled={!formula || isBusy}
            onClick={() => formula && saved && send({ id: field.id, body: { formula, saw: saved } })}
          >
            Save the formula
          </Button>
          <Button
            size="sm"
            variant="outline-secondary"
            onClick={() => {
              setFormula(saved);
              setRound(round + 1);
            }}
          >
            Discard
          </Button>
          <span className="small muted">
            {field.holder === 'deal'
              ? 'Deals have it from the next publish of their process.'
              : 'Worked out at once, and open deals are judged by it.'}
          </span>
        </div>
      )}
    </section>
  );
}

/** The catalogue is fetched again by whoever follows the work. */
const nothingMore = (): void => undefined;
