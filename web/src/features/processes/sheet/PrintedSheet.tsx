import '../design.css';
import './sheet.css';
import {
  catalogueOf,
  dayCountWords,
  describeItem,
  dueWords,
  type GuidedStep,
  leadWords,
  type Outcome,
  type Requirement,
  type Stage,
  whoWords,
} from '@ladder/core';
import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import { useSession } from '../../../client/session.ts';
import { dayOf, shortDay } from '../../../parts/format.ts';
import { StageTone } from '../../../parts/Notch.tsx';
import { Pieces } from '../../../parts/Pieces.tsx';
import { Markdown } from '../../steps/Markdown.tsx';
import { DesignContext, useDesign } from '../designContext.ts';
import { OfProcess } from '../OfProcess.tsx';
import type { ProcessDetail } from '../processesApi.ts';
import { usePeopleNames } from '../steps/usePeopleNames.ts';
import { useDesignNames } from '../useDesignNames.ts';

/** The live version as sellers have it beside them on paper: a page a stage. */
export const PrintedSheetPage = () => (
  <OfProcess>
    {(process) => (process.live ? <PrintedSheet process={process} live={process.live} /> : <NothingPublished />)}
  </OfProcess>
);

const NothingPublished = () => (
  <div className="empty">
    <h2>Nothing is published yet</h2>
    <p>The sheet is of the version that deals follow.</p>
  </div>
);

function PrintedSheet({ process, live }: { process: ProcessDetail; live: NonNullable<ProcessDetail['live']> }) {
  const { organisation } = useSession();
  const { document, version } = live;
  const since = version.publishedAt && shortDay(dayOf(version.publishedAt, organisation), organisation.today);
  return (
    <DesignContext
      value={{ document, catalogue: catalogueOf(live.fields), reasons: [], edit: null, undo: null, check: null }}
    >
      <header className="page-head">
        <div>
          <div className="crumb">
            <Link to="/processes">Processes</Link> / <Link to={`/processes/${process.id}`}>{process.name}</Link>
          </div>
          <h1>Sheet for sellers</h1>
        </div>
        <span className="muted small">one page a stage</span>
        <div className="grow" />
        <Button onClick={() => window.print()}>Print</Button>
      </header>
      <div className="printed">
        {document.stages.map((stage, place) => (
          <StagePage key={stage.id} stage={stage} place={place}>
            {process.name}, version {version.number}
            {since && `, since ${since}`}
          </StagePage>
        ))}
        <section className="printed-page">
          {document.outcomes.map((outcome) => (
            <OutcomePart key={outcome.id} outcome={outcome} reasons={process.reasons} />
          ))}
        </section>
      </div>
    </DesignContext>
  );
}

function StagePage({ stage, place, children }: { stage: Stage; place: number; children: React.ReactNode }) {
  const { document } = useDesign();
  const { name, purpose, chance, target, enter, leave, checklist, steps } = stage;
  const days = target && dayCountWords(target);
  return (
    <section className="printed-page" aria-label={name}>
      <p className="muted small">{children}</p>
      <h2>
        <StageTone place={place} count={document.stages.length} /> {name}
      </h2>
      {purpose && <p>{purpose}</p>}
      <p className="small">
        Chance of winning from here {chance}%{days && ` · move on within ${days}`}
      </p>
      <Requirements title="To enter" of={enter} />
      {checklist.length > 0 && (
        <>
          <h3>Checklist</h3>
          <ul className="printed-ticks">
            {checklist.map(({ id, text, need }) => (
              <li key={id}>
                {text} {need === 'optional' && <span className="muted">optional</span>}
              </li>
            ))}
          </ul>
        </>
      )}
      {steps.length > 0 && (
        <>
          <h3>Step by step</h3>
          <ol>
            {steps.map((step) => (
              <StepPart key={step.id} stage={stage} step={step} />
            ))}
          </ol>
        </>
      )}
      <Requirements title="Before moving on" of={leave} />
    </section>
  );
}

function StepPart({ stage, step }: { stage: Stage; step: GuidedStep }) {
  const { document, catalogue } = useDesign();
  const nameOf = usePeopleNames();
  const fills = step.captures.flatMap(({ field }) => catalogue.get(field)?.name ?? []);
  return (
    <li>
      <b>{step.name}</b>{' '}
      <span className="muted small">
        {whoWords(step.who, nameOf)} · {dueWords(step.due)}
        {fills.length > 0 && ` · fills ${fills.join(', ')}`}
      </span>
      {step.instruction && <Markdown>{step.instruction}</Markdown>}
      <ul>
        {step.results.map((result) => (
          <li key={result.id}>
            {result.name}: {leadWords(document, stage, step.id, result)}
          </li>
        ))}
      </ul>
    </li>
  );
}

function Requirements({ title, of }: { title: string; of: readonly Requirement[] }) {
  const { catalogue } = useDesign();
  const nameOf = useDesignNames();
  if (of.length === 0) return null;
  return (
    <>
      <h3>{title}</h3>
      <ul>
        {of.map((requirement) => (
          <li key={requirement.id}>
            <Pieces says={describeItem(requirement, catalogue, nameOf)} />
            {requirement.level === 'flag' && <span className="muted"> · else it is flagged</span>}
            {requirement.appliesWhen && <span className="muted"> · for some</span>}
            {requirement.message && <div className="small">{requirement.message}</div>}
          </li>
        ))}
      </ul>
    </>
  );
}

function OutcomePart({ outcome, reasons }: { outcome: Outcome; reasons: ProcessDetail['reasons'] }) {
  const offered = reasons.filter((reason) => reason.outcome === outcome.id && reason.withdrawn === 'no');
  return (
    <div>
      <h2>{outcome.name}</h2>
      {offered.length > 0 && <p className="small">Reasons: {offered.map(({ name }) => name).join(', ')}</p>}
      <Requirements title={`To close as ${outcome.name.toLowerCase()}`} of={outcome.requirements} />
    </div>
  );
}
