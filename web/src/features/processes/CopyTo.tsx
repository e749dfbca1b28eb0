import type { ProcessDocument } from '@ladder/core';
import { useState } from 'react';
import { Dropdown } from 'react-bootstrap';
import { CopyDialog } from './CopyDialog.tsx';
import { useDesign } from './designContext.ts';
import type { CopyEdit } from './useCopyInto.ts';

interface CopyToProps {
  readonly name: string;
  /** Where it can be copied to in a document. */
  readonly placesIn: (document: ProcessDocument) => readonly { readonly id: string; readonly name: string }[];
  readonly toEdit: CopyEdit;
}

const ELSEWHERE = 'another process';

/** Copies one of a list to somewhere else, in this process or another one. */
export function CopyTo({ name, placesIn, toEdit }: CopyToProps) {
  const { document, edit } = useDesign();
  const [isElsewhere, setElsewhere] = useState(false);
  const choose = (target: string | null) => {
    if (target === ELSEWHERE) return setElsewhere(true);
    const here = target === null ? null : toEdit(target, document);
    if (here) edit?.(here);
  };
  return (
    <>
      <Dropdown align="end" className="copy-to" onSelect={choose}>
        <Dropdown.Toggle variant="link" size="sm" aria-label={`Copy to: ${name}`}>
          Copy to
        </Dropdown.Toggle>
        <Dropdown.Menu>
          {placesIn(document).map((place) => (
            <Dropdown.Item key={place.id} as="button" eventKey={place.id}>
              {place.name}
            </Dropdown.Item>
          ))}
          <Dropdown.Divider />
          <Dropdown.Item as="button" eventKey={ELSEWHERE}>
            Another process…
          </Dropdown.Item>
        </Dropdown.Menu>
      </Dropdown>
      {isElsewhere && (
        <CopyDialog
          name={name}
          note="What it reads of stages and steps that are not there is told by the design check."
          placesIn={placesIn}
          toEdit={toEdit}
          isElsewhere
          onClose={() => setElsewhere(false)}
        />
      )}
    </>
  );
}
