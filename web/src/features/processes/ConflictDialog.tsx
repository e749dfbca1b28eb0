import {
  CONFLICT_CHOICES,
  type ConflictChoice,
  catalogueOf,
  compareVersions,
  type Difference,
  type DraftConflict,
  type DraftPart,
  type Field,
  mergeDrafts,
  type ProcessDocument,
} from '@ladder/core';
import { useState } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import { useAppDispatch, useAppSelector } from '../../client/hooks.ts';
import { newKey } from '../../parts/newKey.ts';
import { draftMerged, draftOf } from './draftSlice.ts';
import { DifferenceList } from './versions/ComparisonLadder.tsx';
import { useOtherNames } from './versions/useComparedVersion.ts';

const PART_NAMES: Readonly<Record<DraftPart, string>> = {
  stage: 'Stage',
  outcome: 'End',
  task_set: 'Set of tasks',
  purpose: 'What the process is for',
  rules: 'Skipping and going back',
  fields: 'The fields it uses',
  order: 'The order of the stages',
};
const CHOICE_NAMES: Readonly<Record<ConflictChoice, string>> = {
  mine: 'keep mine',
  theirs: 'take theirs',
  both: 'both',
};

/** Asks what becomes of what two people changed, each otherwise; everything else is put together already. */
export function ConflictDialog({ fields }: { fields: readonly Field[] }) {
  const dispatch = useAppDispatch();
  const state = useAppSelector(draftOf);
  const [choices, setChoices] = useState<Readonly<Record<string, ConflictChoice>>>({});
  const { theirs, saved, document } = state;
  if (state.save !== 'conflict' || !theirs || !saved || !document) return null;
  const [base, mine, other] = [saved, document, theirs.document] as readonly ProcessDocument[];
  if (!base || !mine || !other) return null;
  const { conflicts } = mergeDrafts(base, mine, other, {}, newKey);
  const isSettled = conflicts.every(({ key }) => choices[key]);
  const goOn = () => {
    const put = mergeDrafts(base, mine, other, choices, newKey);
    dispatch(draftMerged({ document: put.document, theirs: theirs as NonNullable<typeof theirs> }));
    setChoices({});
  };
  return (
    <Modal show centered size="lg" backdrop="static" keyboard={false} aria-labelledby="conflict-title">
      <Modal.Header>
        <h2 id="conflict-title">Someone else changed the same</h2>
      </Modal.Header>
      <Modal.Body>
        <p className="muted small">
          Both of you changed this since it was last saved. What only one of you changed is put together already.
        </p>
        {conflicts.map((conflict) => (
          <Conflict
            key={conflict.key}
            conflict={conflict}
            sides={{ base, mine, other, fields }}
            choice={choices[conflict.key]}
            onChoose={(choice) => setChoices((before) => ({ ...before, [conflict.key]: choice }))}
          />
        ))}
      </Modal.Body>
      <Modal.Footer>
        <Button disabled={!isSettled} onClick={goOn}>
          Go on
        </Button>
      </Modal.Footer>
    </Modal>
  );
}

interface Sides {
  readonly base: ProcessDocument;
  readonly mine: ProcessDocument;
  readonly other: ProcessDocument;
  readonly fields: readonly Field[];
}

interface ConflictProps {
  readonly conflict: DraftConflict;
  readonly sides: Sides;
  readonly choice: ConflictChoice | undefined;
  readonly onChoose: (choice: ConflictChoice) => void;
}

function Conflict({ conflict, sides, choice, onChoose }: ConflictProps) {
  const { key, part, name, both } = conflict;
  const changes = useChanges(conflict, sides);
  return (
    <fieldset className="conflict">
      <legend>
        {PART_NAMES[part]}
        {name && `: ${name}`}
      </legend>
      <h3>Mine</h3>
      <Changes of={changes(sides.mine)} isThere={isThere(conflict, sides.mine)} />
      <h3>Theirs</h3>
      <Changes of={changes(sides.other)} isThere={isThere(conflict, sides.other)} />
      {CONFLICT_CHOICES.filter((one) => one !== 'both' || both === 'possible').map((one) => (
        <Form.Check
          key={one}
          inline
          type="radio"
          id={`${key}-${one}`.replaceAll(' ', '-')}
          name={key}
          label={CHOICE_NAMES[one]}
          checked={choice === one}
          onChange={() => onChoose(one)}
        />
      ))}
    </fieldset>
  );
}

const isThere = ({ part, id }: DraftConflict, document: ProcessDocument): boolean => {
  const list = { stage: document.stages, outcome: document.outcomes, task_set: document.taskSets }[part as 'stage'];
  return !list || list.some((one) => one.id === id);
};

/** What a side changed of the part since it was last saved. */
function useChanges({ part, id }: DraftConflict, { base, fields }: Sides) {
  const nameOf = useOtherNames();
  const catalogue = catalogueOf(fields);
  return (document: ProcessDocument): readonly Difference[] => {
    const { stages, outcomes, process } = compareVersions(
      { document: base, catalogue, nameOf },
      { document, catalogue, nameOf },
    );
    if (part === 'stage') return stages.find((stage) => stage.id === id)?.differences ?? [];
    if (part === 'outcome') return outcomes.find((outcome) => outcome.id === id)?.differences ?? [];
    if (part === 'order') {
      const order = document.stages.map(({ name }) => name).join(', ');
      return [{ part: 'name', name: 'Order', before: null, after: order }];
    }
    const told = { task_set: ['task_sets'], purpose: ['purpose'], rules: ['skips', 'returns'], fields: ['fields'] }[
      part
    ];
    return process.filter((difference) => told.includes(difference.part));
  };
}

function Changes({ of, isThere: there }: { of: readonly Difference[]; isThere: boolean }) {
  return there ? <DifferenceList of={of} /> : <p className="small">Taken out.</p>;
}
