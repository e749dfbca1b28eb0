import { createContext, type ReactNode, use, useEffect, useId, useState } from 'react';
import { Button, Modal } from 'react-bootstrap';
import { type Location, useBeforeUnload, useBlocker } from 'react-router';

type Note = (part: string, isUnsaved: boolean) => void;
const UnsavedContext = createContext<Note | null>(null);

interface AsksBeforeLeavingProps {
  /** What of the address says which thing is being written: the rest of the query may change. */
  readonly chosenBy: string;
  readonly children: ReactNode;
}

/** Asks before what is written in it and not saved is left: by a link, the browser's buttons, or closing the page. */
export function AsksBeforeLeaving({ chosenBy, children }: AsksBeforeLeavingProps) {
  const [unsaved, setUnsaved] = useState<ReadonlySet<string>>(new Set());
  const [note] = useState<Note>(() => (part: string, isUnsaved: boolean) => {
    setUnsaved((parts) => {
      if (parts.has(part) === isUnsaved) return parts;
      const next = new Set(parts);
      if (isUnsaved) next.add(part);
      else next.delete(part);
      return next;
    });
  });
  const hasUnsaved = unsaved.size > 0;
  const blocker = useBlocker(
    ({ currentLocation, nextLocation }) =>
      hasUnsaved && placeOf(currentLocation, chosenBy) !== placeOf(nextLocation, chosenBy),
  );
  useBeforeUnload((event) => {
    if (hasUnsaved) event.preventDefault();
  });
  return (
    <UnsavedContext value={note}>
      {children}
      <Modal
        show={blocker.state === 'blocked'}
        onHide={() => blocker.reset?.()}
        centered
        aria-labelledby="leaving-title"
      >
        <Modal.Header closeButton>
          <h2 id="leaving-title">Not saved</h2>
        </Modal.Header>
        <Modal.Body>What you changed here is not saved yet.</Modal.Body>
        <Modal.Footer>
          <Button variant="outline-secondary" onClick={() => blocker.proceed?.()}>
            Leave without it
          </Button>
          <Button onClick={() => blocker.reset?.()}>Stay here</Button>
        </Modal.Footer>
      </Modal>
    </UnsavedContext>
  );
}

const placeOf = ({ pathname, search }: Location, name: string): string =>
  `${pathname} ${new URLSearchParams(search).get(name)}`;

/** Says that something is written that is not saved, as long as it is so. */
export function useUnsaved(isUnsaved: boolean): void {
  const note = use(UnsavedContext);
  const part = useId();
  useEffect(() => {
    note?.(part, isUnsaved);
    return () => note?.(part, false);
  }, [note, part, isUnsaved]);
}
