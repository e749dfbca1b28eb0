import type { Field } from '@ladder/core';
import { Link } from 'react-router';
import { countOf, percent } from '../../parts/format.ts';
import { Loading } from '../../parts/Loading.tsx';
import { ChoicesEditor } from './ChoicesEditor.tsx';
import { FieldDetails } from './FieldDetails.tsx';
import { FormulaSection } from './FormulaSection.tsx';
import type { FieldUses } from './fieldsApi.ts';
import { TYPE_NAMES, USE_WORDS } from './fieldWords.ts';

interface FieldPanelProps {
  readonly field: Field;
  /** Undefined while it is being looked for. */
  readonly uses: FieldUses | undefined;
  readonly fields: readonly Field[];
}

/** One field: what it is, to be changed in place; where it is used; how often it is filled. */
export function FieldPanel({ field, uses, fields }: FieldPanelProps) {
  return (
    <aside className="design-panel side-panel" aria-label={field.name}>
      <h2>
        {field.name} <small>of the {field.holder}</small>
      </h2>
      {field.builtIn ? (
        <p className="muted small">
          {TYPE_NAMES[field.type]}. Every {field.holder} has it: it stays as it is, and processes list it or not.
        </p>
      ) : (
        <>
          {uses ? <FieldDetails field={field} isUsed={uses.used} /> : <Loading />}
          {field.choices && <ChoicesEditor field={field} uses={uses?.uses ?? []} />}
          {field.formula && <FormulaSection field={field} />}
        </>
      )}
      {uses && <WhereUsed uses={uses} fields={fields} />}
      {uses && uses.filled.length > 0 && <HowOften filled={uses.filled} holder={field.holder} />}
    </aside>
  );
}

const STATE_WORDS = { live: '', draft: 'draft', in_use: 'an older version' } as const;

function WhereUsed({ uses: { uses, readBy }, fields }: { uses: FieldUses; fields: readonly Field[] }) {
  const processes = [...new Map(uses.map(({ process }) => [process.id, process])).values()];
  const readers = fields.filter(({ id }) => readBy.includes(id));
  return (
    <section>
      <header>
        <h3>Where it is used</h3>
      </header>
      {uses.length + readers.length === 0 && (
        <p className="muted small">Nowhere yet: list it in a process, or let a gate ask for it.</p>
      )}
      {processes.map(({ id, name }) => (
        <div key={id} className="field-uses panel-link">
          <Link to={`/processes/${id}`}>{name}</Link>
          <ul>
            {uses
              .filter(({ process }) => process.id === id)
              .map((use) => (
                <li key={`${use.way} ${use.place} ${use.what}`}>
                  <span className="muted">{USE_WORDS[use.way]}</span> {use.place}
                  {use.what && <span className="muted">: {use.what}</span>} <OnlyIn versions={use.in} />
                </li>
              ))}
          </ul>
        </div>
      ))}
      {readers.map(({ id, name }) => (
        <p key={id} className="small panel-link">
          <span className="muted">worked out from it:</span> <Link to={`/processes/fields?field=${id}`}>{name}</Link>
        </p>
      ))}
    </section>
  );
}

/** Where not the live version alone, or not it at all, is meant. */
function OnlyIn({ versions }: { versions: FieldUses['uses'][number]['in'] }) {
  if (versions.includes('live')) return null;
  return <span className="chip">{versions.map((state) => STATE_WORDS[state]).join(', ')} only</span>;
}

function HowOften({ filled, holder }: { filled: FieldUses['filled']; holder: Field['holder'] }) {
  const counted = holder === 'deal' ? 'open deal' : holder;
  return (
    <section>
      <header>
        <h3>How often it is filled</h3>
      </header>
      {filled.map(({ process, of, filled: has }) => (
        <div key={process?.id ?? 'all'} className="filled-row small">
          <span>{process?.name ?? `All ${holder}s`}</span>
          <span className="filled-bar" aria-hidden>
            <i style={{ width: percent(of === 0 ? 0 : has / of) }} />
          </span>
          <span className="num">
            {has.toLocaleString('en-GB')} of {countOf(of, counted)}
          </span>
        </div>
      ))}
      {filled.some(({ of }) => of >= MOST_COUNTED) && (
        <p className="muted small">Counted over the newest {MOST_COUNTED.toLocaleString('en-GB')}.</p>
      )}
    </section>
  );
}

/** The server looks at no more of one kind. */
const MOST_COUNTED = 2_000;
