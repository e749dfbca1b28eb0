import { catalogueOf, compareVersions, differs, firstStage, type StageId } from '@ladder/core';
import { useMemo, useState } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import { problemOf } from '../../client/api.ts';
import { useAppStore } from '../../client/hooks.ts';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { countOf } from '../../parts/format.ts';
import { Loading } from '../../parts/Loading.tsx';
import { Options } from '../../parts/Options.tsx';
import { useLongCommand } from '../work/useLongCommand.ts';
import { WorkProgress } from '../work/WorkProgress.tsx';
import { useDesign } from './designContext.ts';
import { draftOf } from './draftSlice.ts';
import { PublishEffect } from './PublishEffect.tsx';
import { type ProcessDetail, type PublishPreview, usePreviewPublishQuery, usePublishMutation } from './processesApi.ts';
import { ComparisonLadder } from './versions/ComparisonLadder.tsx';
import { useOtherNames } from './versions/useComparedVersion.ts';

/** Asks once before publishing: what changes, and for how many open deals. */
interface PublishDialogProps {
  readonly process: ProcessDetail;
  readonly onClose: () => void;
}

export function PublishDialog({ process, onClose }: PublishDialogProps) {
  const { data: preview, error } = usePreviewPublishQuery(process.id, { refetchOnMountOrArgChange: true });
  return (
    <Modal show onHide={onClose} centered scrollable size="lg" aria-labelledby="publish-title">
      <Modal.Header closeButton>
        <h2 id="publish-title">
          Publish {preview ? `version ${preview.number}` : ''} of {process.name}
        </h2>
      </Modal.Header>
      {!preview && !error && <Loading />}
      {error && (
        <Modal.Body>
          <ErrorNotice error={error} />
        </Modal.Body>
      )}
      {preview &&
        (preview.problems.length > 0 ? (
          <Problems preview={preview} onClose={onClose} />
        ) : (
          <PublishForm process={process} preview={preview} onClose={onClose} />
        ))}
    </Modal>
  );
}

function Problems({ preview, onClose }: { preview: PublishPreview; onClose: () => void }) {
  const { document } = useDesign();
  const placeOf = (pointer: string): string => {
    const stage = /^\/stages\/(\d+)/.exec(pointer)?.[1];
    return stage === undefined ? '' : `${document.stages[Number(stage)]?.name || `Stage ${Number(stage) + 1}`}: `;
  };
  return (
    <>
      <Modal.Body>
        <p>The draft cannot be published yet:</p>
        <ul>
          {preview.problems.map(({ pointer, detail }) => (
            <li key={pointer}>
              {placeOf(pointer)}
              {detail}
            </li>
          ))}
        </ul>
      </Modal.Body>
      <Modal.Footer>
        <Button onClick={onClose}>Back to the draft</Button>
      </Modal.Footer>
    </>
  );
}

interface PublishFormProps extends PublishDialogProps {
  readonly preview: PublishPreview;
  readonly onClose: () => void;
}

function PublishForm({ process, preview, onClose }: PublishFormProps) {
  const { terms, change, submit, work, error, isBusy } = usePublishing(process, preview, onClose);
  const movesOver = terms.deals === 'move_over';
  return (
    <>
      <Modal.Body>
        <DesignRemarks />
        <Changes preview={preview} live={process.live} />
        <NoteBox terms={terms} onChange={change} />
        {preview.openDeals > 0 && <DealsChoice preview={preview} terms={terms} onChange={change} />}
        {movesOver && preview.openDeals > 0 && preview.touchesGates && <GraceDays terms={terms} onChange={change} />}
        {movesOver && preview.openDeals > 0 && preview.touchesGates && <WaiveInBulk terms={terms} onChange={change} />}
        {movesOver && <Transfers preview={preview} terms={terms} onChange={change} />}
        <WorkProgress work={work} />
        {problemOf(error) && (
          <div className="mt-2">
            <ErrorNotice error={error} />
          </div>
        )}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="outline-secondary" onClick={onClose}>
          {isBusy ? 'Close' : 'Cancel'}
        </Button>
        <Button disabled={isBusy} onClick={submit}>
          {isBusy ? 'Publishing…' : 'Publish'}
        </Button>
      </Modal.Footer>
    </>
  );
}

/** What becomes of open deals. */
interface Terms {
  readonly deals: 'move_over' | 'stay';
  readonly graceDays: number;
  /** What is told to all who have deals of it. */
  readonly note: string;
  /** Until when what fails only because of it is waived; empty where nothing is. */
  readonly waiveUntil: string;
  /** Where deals of a removed stage go, by that stage; the first stage unless said. */
  readonly transfers: Readonly<Record<string, StageId>>;
}

function usePublishing(process: ProcessDetail, preview: PublishPreview, onDone: () => void) {
  const { document } = useDesign();
  const store = useAppStore();
  const [begin] = usePublishMutation();
  const { send, work, error, isBusy } = useLongCommand(process.id, begin, onDone);
  const [terms, setTerms] = useState<Terms>({
    deals: 'move_over',
    graceDays: 14,
    note: '',
    waiveUntil: '',
    transfers: {},
  });
  const change = (made: Partial<Terms>) => setTerms((old) => ({ ...old, ...made }));
  const submit = async () => {
    const first = firstStage(document);
    const transfers = Object.fromEntries(preview.removedStages.map(({ id }) => [id, terms.transfers[id] ?? first]));
    const { revision } = draftOf(store.getState());
    const { note, waiveUntil, ...said } = terms;
    const waive = waiveUntil ? { waive: { until: waiveUntil, why: note.trim() || WAIVED_WITH } } : {};
    await send({
      id: process.id,
      body: { ...said, ...(note.trim() ? { note: note.trim() } : {}), ...waive, transfers },
      revision,
    });
  };
  return { terms, change, submit, work, error, isBusy };
}

interface TermsProps {
  readonly terms: Terms;
  readonly onChange: (made: Partial<Terms>) => void;
}

/** Reaches everyone who has open deals of the process, by the bell. */
function NoteBox({ terms, onChange }: TermsProps) {
  return (
    <Form.Group controlId="publish-note" className="mb-3">
      <Form.Label>A note for those who have deals in it</Form.Label>
      <Form.Control
        as="textarea"
        rows={2}
        maxLength={2_000}
        value={terms.note}
        onChange={(event) => onChange({ note: event.target.value })}
      />
    </Form.Group>
  );
}

const DEALS_WORDS = [
  ['move_over', 'deals-move', 'move over to the new version'],
  ['stay', 'deals-stay', 'stay on the version they began with'],
] as const;

function DealsChoice({ preview, terms, onChange }: TermsProps & { readonly preview: PublishPreview }) {
  return (
    <fieldset className="mt-3">
      <legend className="publish-legend">{countOf(preview.openDeals, 'open deal')}</legend>
      {DEALS_WORDS.map(([deals, id, label]) => (
        <Form.Check
          key={id}
          type="radio"
          id={id}
          name="deals"
          label={label}
          checked={terms.deals === deals}
          onChange={() => onChange({ deals })}
        />
      ))}
      {terms.deals === 'move_over' && <PublishEffect preview={preview} />}
    </fieldset>
  );
}

/** What a waiver says that was granted with a publish, where its note says nothing. */
const WAIVED_WITH = 'Granted with the publish';

/** The other way round: each deal that fails only what changed has a waiver of it, which is told on the deal. */
function WaiveInBulk({ terms, onChange }: TermsProps) {
  return (
    <Form.Group controlId="waive-until" className="mt-2">
      <Form.Label>Waive what is new for deals that fail it, until (empty waives nothing)</Form.Label>
      <Form.Control
        type="date"
        value={terms.waiveUntil}
        onChange={(event) => onChange({ waiveUntil: event.target.value })}
      />
    </Form.Group>
  );
}

function GraceDays({ terms, onChange }: TermsProps) {
  const set = (text: string) => onChange({ graceDays: Math.max(0, Math.min(365, Math.round(Number(text)))) });
  return (
    <Form.Group controlId="grace-days" className="mt-2">
      <Form.Label>Days in which what is new only flags</Form.Label>
      <Form.Control
        type="number"
        min={0}
        max={365}
        value={terms.graceDays}
        onChange={(event) => set(event.target.value)}
      />
    </Form.Group>
  );
}

function Transfers({ preview, terms, onChange }: TermsProps & { readonly preview: PublishPreview }) {
  const { document } = useDesign();
  const send = (from: StageId, to: string) => onChange({ transfers: { ...terms.transfers, [from]: to as StageId } });
  return preview.removedStages.map(({ id, name, openDeals }) => (
    <Form.Group key={id} controlId={`transfer-${id}`} className="mt-2">
      <Form.Label>
        {countOf(openDeals, 'deal')} in “{name}”, which is removed, go to
      </Form.Label>
      <Form.Select
        value={terms.transfers[id] ?? firstStage(document)}
        onChange={(event) => send(id, event.target.value)}
      >
        <Options of={document.stages} />
      </Form.Select>
    </Form.Group>
  ));
}

/** What else the design check says: nothing of it stops publishing. */
function DesignRemarks() {
  const { check } = useDesign();
  const warnings = check?.remarks.filter(({ weight }) => weight === 'warning') ?? [];
  if (warnings.length === 0) return null;
  return (
    <details className="publish-check">
      <summary>The design check has {countOf(warnings.length, 'warning')}</summary>
      <ul>
        {warnings.map(({ key, says }) => (
          <li key={key}>{says}</li>
        ))}
      </ul>
    </details>
  );
}

function Changes({ preview, live }: { preview: PublishPreview; live: ProcessDetail['live'] }) {
  const { document, catalogue } = useDesign();
  const nameOf = useOtherNames();
  const comparison = useMemo(
    () =>
      live &&
      compareVersions(
        { document: live.document, catalogue: catalogueOf(live.fields), nameOf },
        { document, catalogue, nameOf },
      ),
    [live, document, catalogue, nameOf],
  );
  if (!comparison) return <p>It is the first version: all of it is new.</p>;
  if (!differs(comparison)) return <p>Nothing differs from the live version.</p>;
  return (
    <section className="compared publish-changes">
      <h3>What changes</h3>
      <ComparisonLadder comparison={comparison} stage={null} shown="changed" />
      {!preview.touchesGates && <p className="small muted mb-0">No gate asks anything else.</p>}
    </section>
  );
}
