import {
  describeItem,
  type ProcessDocument,
  type ProcessEdit,
  type Requirement,
  type RequirementPlace,
} from '@ladder/core';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { MoveButtons } from '../../parts/MoveButtons.tsx';
import { newKey } from '../../parts/newKey.ts';
import { CopyTo } from './CopyTo.tsx';
import { useDesign } from './designContext.ts';
import { RequirementDialog } from './RequirementDialog.tsx';
import { RequirementLine } from './RequirementLine.tsx';
import { useDesignNames } from './useDesignNames.ts';

interface SectionProps {
  readonly title: string;
  readonly place: RequirementPlace;
  readonly requirements: readonly Requirement[];
}

/** The requirements of one place, to be read, added, changed and removed. */
export function RequirementSection({ title, place, requirements }: SectionProps) {
  const { edit } = useDesign();
  const [edited, setEdited] = useState<Requirement | 'new' | null>(null);
  const save = (requirement: Requirement) => {
    edit?.({ kind: 'put_requirement', place, requirement });
    setEdited(null);
  };
  return (
    <section>
      <header>
        <h3>{title}</h3>
        {edit && (
          <Button
            variant="link"
            data-act="add-requirement"
            aria-label={`Add requirement: ${title}`}
            onClick={() => setEdited('new')}
          >
            Add requirement
          </Button>
        )}
      </header>
      {requirements.length === 0 && <p className="muted small">Nothing is asked.</p>}
      {requirements.map((requirement) => (
        <RequirementRow
          key={requirement.id}
          requirement={requirement}
          among={requirements}
          place={place}
          onEdit={setEdited}
        />
      ))}
      {edited && (
        <RequirementDialog
          requirement={edited === 'new' ? null : edited}
          onSave={save}
          onClose={() => setEdited(null)}
        />
      )}
    </section>
  );
}

/** Everywhere that a requirement can stand. */
const requirementPlaces = ({ stages, outcomes }: ProcessDocument) => [
  ...stages.flatMap(({ id, name }) => [
    { id: `enter:${id}`, name: `${name}, to enter`, place: { at: 'enter', stage: id } as const },
    { id: `leave:${id}`, name: `${name}, before leaving`, place: { at: 'leave', stage: id } as const },
  ]),
  ...outcomes.map(({ id, name }) => ({
    id,
    name: `To close as ${name}`,
    place: { at: 'outcome', outcome: id } as const,
  })),
];

interface RowProps {
  readonly requirement: Requirement;
  readonly among: readonly Requirement[];
  readonly place: RequirementPlace;
  readonly onEdit: (requirement: Requirement) => void;
}

function RequirementRow({ requirement, among, place, onEdit }: RowProps) {
  const { catalogue, edit } = useDesign();
  const nameOf = useDesignNames();
  const name = describeItem(requirement, catalogue, nameOf)
    .map(({ text }) => text)
    .join('');
  const copy = (target: string, into: ProcessDocument): ProcessEdit | null => {
    const there = requirementPlaces(into).find(({ id }) => id === target)?.place;
    return there ? { kind: 'put_requirement', place: there, requirement: { ...requirement, id: newKey() } } : null;
  };
  const remove = () => edit?.({ kind: 'remove_requirement', place, requirement: requirement.id });
  return (
    <div className="panel-req" data-part={requirement.id}>
      <RequirementLine requirement={requirement} />
      <span className="small muted">
        {requirement.level === 'hold' ? 'holds' : 'flags'} ·{' '}
        {requirement.binds === 'at_move' ? 'at the move' : 'must stay so'}
      </span>
      {edit && (
        <span className="panel-buttons">
          <MoveButtons
            name={name}
            place={among.indexOf(requirement)}
            count={among.length}
            onMove={(to) => edit({ kind: 'move_requirement', place, requirement: requirement.id, to })}
          />
          <CopyTo name={name} placesIn={requirementPlaces} toEdit={copy} />
          <Button variant="link" size="sm" onClick={() => onEdit(requirement)}>
            Edit
          </Button>
          <Button variant="link" size="sm" onClick={remove}>
            Remove
          </Button>
        </span>
      )}
    </div>
  );
}
