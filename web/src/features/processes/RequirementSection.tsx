import type { Requirement, RequirementPlace } from '@ladder/core';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { useDesign } from './designContext.ts';
import { RequirementDialog } from './RequirementDialog.tsx';
import { RequirementLine } from './RequirementLine.tsx';

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
          <Button variant="link" aria-label={`Add requirement: ${title}`} onClick={() => setEdited('new')}>
            Add requirement
          </Button>
        )}
      </header>
      {requirements.length === 0 && <p className="muted small">Nothing is asked.</p>}
      {requirements.map((requirement) => (
        <RequirementRow key={requirement.id} requirement={requirement} place={place} onEdit={setEdited} />
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

interface RowProps {
  readonly requirement: Requirement;
  readonly place: RequirementPlace;
  readonly onEdit: (requirement: Requirement) => void;
}

function RequirementRow({ requirement, place, onEdit }: RowProps) {
  const { edit } = useDesign();
  const remove = () => edit?.({ kind: 'remove_requirement', place, requirement: requirement.id });
  return (
    <div className="panel-req" data-part={requirement.id}>
      <RequirementLine requirement={requirement} />
      <span className="small muted">
        {requirement.level === 'hold' ? 'holds' : 'flags'} ·{' '}
        {requirement.binds === 'at_move' ? 'at the move' : 'must stay so'}
      </span>
      {edit && (
        <>
          <Button variant="link" size="sm" onClick={() => onEdit(requirement)}>
            Edit
          </Button>
          <Button variant="link" size="sm" onClick={remove}>
            Remove
          </Button>
        </>
      )}
    </div>
  );
}
