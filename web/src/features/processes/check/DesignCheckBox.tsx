import { type OpenQuestion, outcomeOf, type Remark, type RemarkPlace, type RemarkWeight, stageOf } from '@ladder/core';
import { useRef, useState } from 'react';
import { Button } from 'react-bootstrap';
import { ErrorNotice } from '../../../parts/ErrorNotice.tsx';
import { AddLine } from '../../../parts/form/AddLine.tsx';
import { countOf } from '../../../parts/format.ts';
import { useDesign } from '../designContext.ts';
import type { Selection } from '../useSelection.ts';
import { useDismissRemarkMutation, useGetDismissalsQuery } from './checkApi.ts';
import { showPart } from './showPart.ts';
import type { CheckState } from './useDesignCheck.ts';

/** What is looked at: remarks of a weight, those that were dismissed, or what was not decided. */
type Shown = RemarkWeight | 'dismissed' | 'open';

const LOOKS: Readonly<Record<RemarkWeight, string>> = { problem: 'held', warning: 'flagged', suggestion: 'plain' };

const lookOf = (what: Shown): string => (what === 'dismissed' || what === 'open' ? 'plain' : LOOKS[what]);

interface BoxProps {
  readonly process: string;
  readonly found: CheckState;
  readonly onSelect: (selection: Selection) => void;
}

/** The design check under the sheet: what it has to say, each with its place and remedy. */
export function DesignCheckBox({ process, found, onSelect }: BoxProps) {
  const { edit, undo } = useDesign();
  const { data: dismissals } = useGetDismissalsQuery(process);
  const [shown, setShown] = useState<Shown | null>(null);
  const [remedied, setRemedied] = useState<string | null>(null);
  const head = useRef<HTMLHeadingElement>(null);
  const { check, state } = found;
  if (state === 'failed')
    return <p className="notice bad">The design could not be checked. Load the page again to try it once more.</p>;
  if (!check) return <p className="muted small">Checking the design…</p>;
  const dismissed = new Map(dismissals?.items.map((one) => [one.remark, one]));
  const isDismissed = ({ weight, key }: Remark) => weight === 'suggestion' && dismissed.has(key);
  const told = check.remarks.filter((remark) => !isDismissed(remark));
  const of = (weight: RemarkWeight) => told.filter((remark) => remark.weight === weight);
  const counts: readonly (readonly [Shown, number, string])[] = [
    ['problem', of('problem').length, 'problem'],
    ['warning', of('warning').length, 'warning'],
    ['suggestion', of('suggestion').length, 'suggestion'],
    ['dismissed', check.remarks.filter(isDismissed).length, 'dismissed'],
    ['open', check.open.length, 'not decided'],
  ];
  const chosen = counts.find(([what, count]) => what === shown && count > 0) ?? counts.find(([, count]) => count > 0);
  const go = (place: RemarkPlace) => {
    onSelect(selectionOf(place));
    showPart(place.part);
  };
  const toHead = () => head.current?.focus();
  const remedy = (remark: Remark) => {
    for (const one of remark.remedy?.edits ?? []) edit?.(one);
    setRemedied(remark.remedy?.name ?? null);
    toHead();
  };
  const takeBack = () => {
    undo?.();
    setRemedied(null);
    toHead();
  };
  return (
    <section className="design-check" aria-labelledby="design-check">
      <header>
        <h2 id="design-check" ref={head} tabIndex={-1}>
          Design check
        </h2>
        {counts.map(([what, count, name]) =>
          count === 0 && what !== 'problem' ? null : (
            <button
              key={what}
              type="button"
              className={`state ${count === 0 ? 'clear' : lookOf(what)}`}
              aria-pressed={chosen?.[0] === what}
              disabled={count === 0}
              onClick={() => setShown(what)}
            >
              {name === 'dismissed' || name === 'not decided' ? `${count} ${name}` : countOf(count, name)}
            </button>
          ),
        )}
        <span className="small muted check-status" role="status">
          {state === 'checking'
            ? 'checking…'
            : of('problem').length > 0
              ? 'Cannot be published like this'
              : 'Nothing stops publishing'}
        </span>
      </header>
      {remedied && (
        <p className="small">
          Done: {remedied.toLowerCase()}.{' '}
          <Button variant="link" size="sm" onClick={takeBack}>
            Undo it
          </Button>
        </p>
      )}
      {chosen?.[0] === 'open' && <OpenQuestions questions={check.open} onGo={go} />}
      {chosen && chosen[0] !== 'open' && (
        <ul>
          {check.remarks
            .filter((remark) =>
              chosen[0] === 'dismissed' ? isDismissed(remark) : !isDismissed(remark) && remark.weight === chosen[0],
            )
            .map((remark) => (
              <RemarkRow
                key={remark.key}
                process={process}
                remark={remark}
                dismissed={dismissed.get(remark.key)}
                onGo={go}
                onRemedy={remedy}
                onGone={toHead}
              />
            ))}
        </ul>
      )}
    </section>
  );
}

function selectionOf({ stage, outcome }: RemarkPlace): Selection {
  if (stage) return { kind: 'stage', stage };
  return outcome ? { kind: 'outcome', outcome } : { kind: 'process' };
}

interface RowProps {
  readonly process: string;
  readonly remark: Remark;
  readonly dismissed: { readonly reason: string; readonly by: string } | undefined;
  readonly onGo: (place: RemarkPlace) => void;
  readonly onRemedy: (remark: Remark) => void;
  /** It is no longer told here, so the keyboard goes elsewhere. */
  readonly onGone: () => void;
}

function RemarkRow({ process, remark, dismissed, onGo, onRemedy, onGone }: RowProps) {
  const { edit } = useDesign();
  const [isDismissing, setDismissing] = useState(false);
  const [dismiss, { error, isLoading }] = useDismissRemarkMutation();
  const { key, weight, place, says, witness, remedy } = remark;
  const isOut = weight === 'suggestion' && dismissed !== undefined;
  const send = async (reason: string | null) => {
    const answer = await dismiss({ process, body: { remark: key, reason } });
    if (!answer.error) onGone();
  };
  return (
    <li className={LOOKS[weight]}>
      <p>
        <PlaceName place={place} />
        {says} {witness && <span className="muted">{witness}</span>}
      </p>
      {isOut && (
        <p className="small muted">
          Dismissed by {dismissed.by}: {dismissed.reason}
        </p>
      )}
      <span className="remark-buttons">
        <Button variant="link" size="sm" aria-label={`Show where: ${says}`} onClick={() => onGo(place)}>
          Show
        </Button>
        {edit && remedy && !isOut && (
          <Button variant="link" size="sm" aria-label={`${remedy.name}: ${says}`} onClick={() => onRemedy(remark)}>
            {remedy.name}
          </Button>
        )}
        {weight === 'suggestion' && !isOut && (
          <Button
            variant="link"
            size="sm"
            aria-expanded={isDismissing}
            aria-label={`Dismiss: ${says}`}
            onClick={() => setDismissing(!isDismissing)}
          >
            Dismiss
          </Button>
        )}
        {isOut && (
          <Button
            variant="link"
            size="sm"
            disabled={isLoading}
            aria-label={`Tell again: ${says}`}
            onClick={() => send(null)}
          >
            Tell again
          </Button>
        )}
      </span>
      {isDismissing && !isOut && (
        <AddLine
          label="Why it is dismissed"
          placeholder="Why it is as it should be"
          confirm="Dismiss"
          max={500}
          onAdd={send}
        />
      )}
      <ErrorNotice error={error} />
    </li>
  );
}

/** The stage or outcome that is spoken of. */
function PlaceName({ place: { stage, outcome } }: { place: RemarkPlace }) {
  const { document } = useDesign();
  const name = stage ? stageOf(document, stage)?.name : outcome ? outcomeOf(document, outcome)?.name : undefined;
  return name && <b>{name}: </b>;
}

function OpenQuestions({
  questions,
  onGo,
}: {
  questions: readonly OpenQuestion[];
  onGo: (place: RemarkPlace) => void;
}) {
  return (
    <ul>
      {questions.map(({ place, says }) => (
        <li key={says} className="plain">
          <p>
            <PlaceName place={place} />
            Not decided: {says}.
          </p>
          <Button variant="link" size="sm" aria-label={`Show where: ${says}`} onClick={() => onGo(place)}>
            Show
          </Button>
        </li>
      ))}
    </ul>
  );
}
