import type { StageId } from '@ladder/core';
import { DATE_ORDERS, type DateOrder, DEAL_COLUMNS, type Field, type Stage } from '@ladder/core';
import { useRef, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { problemAt, problemOf } from '../../client/api.ts';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { countOf } from '../../parts/format.ts';
import { Options } from '../../parts/Options.tsx';
import { useGetProcessQuery } from '../processes/processesApi.ts';
import {
  type ImportPreview,
  type ImportSettings,
  type Uploaded,
  usePreviewImportMutation,
  useRunImportMutation,
} from './importsApi.ts';

const DEAL_COLUMN_NAMES: Readonly<Record<string, string>> = {
  external_id: 'External id',
  name: 'Name of the deal',
  stage: 'Stage',
  created: 'Created on',
  entered_stage: 'In its stage since',
  last_activity: 'Last activity on',
};

interface MatchProps {
  readonly uploaded: Uploaded;
  readonly onStarted: (id: string) => void;
  readonly onCancel: () => void;
}

/** What each column is, and the first rows as they would be read, each problem at its cell. */
export function MatchColumns({ uploaded, onStarted, onCancel }: MatchProps) {
  const { preview, settings, change, isLoading, error } = useMatching(uploaded);
  const [run, { error: runError, isLoading: isStarting }] = useRunImportMutation();
  const { data: process } = useGetProcessQuery(settings.process);
  const start = async () => {
    const answer = await run({ id: uploaded.import.id, settings });
    if (answer.data) onStarted(uploaded.import.id);
  };
  const problem = problemOf(error) ?? problemOf(runError);
  const problems = problem?.errors ?? (error ? [] : preview.problems);
  const fields = process?.live?.fields.filter(({ holder, type }) => holder === 'deal' && type !== 'calculated') ?? [];
  return (
    <>
      <p>
        <b>{uploaded.import.fileName}</b>, {countOf(uploaded.import.rowsTotal ?? 0, 'row')}. Say what each column is;
        the first rows below show how they would be read.
      </p>
      <div className="match-terms">
        <MatchTerms settings={settings} stages={process?.live?.document.stages ?? []} onChange={change} />
        <div className="match-actions">
          <Button variant="outline-secondary" onClick={onCancel}>
            Cancel
          </Button>
          <Button disabled={isStarting || isLoading || problems.length > 0} onClick={start}>
            Import the good rows
          </Button>
        </div>
      </div>
      <GeneralProblems problems={problems} />
      {problem && !problem.errors && <ErrorNotice error={error ?? runError} />}
      <BadRows preview={preview} />
      <PreviewTable preview={preview} settings={settings} fields={fields} problems={problems} onChange={change} />
    </>
  );
}

/** The settings as they are chosen, and the preview that they give. */
function useMatching(uploaded: Uploaded) {
  const [preview, setPreview] = useState<ImportPreview>(uploaded.preview);
  const [settings, setSettings] = useState<ImportSettings>(uploaded.preview.settings);
  const [readAgain, { error, isLoading }] = usePreviewImportMutation();
  const wanted = useRef<ImportSettings | null>(null);
  const change = async (next: ImportSettings) => {
    setSettings(next);
    const isReading = wanted.current !== null;
    wanted.current = next;
    if (isReading) return;
    // One question at a time, always with the newest settings: the server takes few at once, and answers may overtake.
    for (let asked: ImportSettings | null = null; wanted.current !== asked; ) {
      asked = wanted.current;
      const answer = await readAgain({ id: uploaded.import.id, settings: asked ?? next });
      if (!answer.data || wanted.current !== asked) continue;
      setPreview(answer.data);
      setSettings(answer.data.settings);
    }
    wanted.current = null;
  };
  return { preview, settings, change, isLoading, error };
}

interface MatchTermsProps {
  readonly settings: ImportSettings;
  readonly stages: readonly Stage[];
  readonly onChange: (settings: ImportSettings) => void;
}

function MatchTerms({ settings, stages, onChange }: MatchTermsProps) {
  const set = (made: Partial<ImportSettings>) => onChange({ ...settings, ...made });
  return (
    <>
      <Form.Group controlId="import-delimiter">
        <Form.Label>Cells are separated by</Form.Label>
        <Form.Select
          value={settings.delimiter}
          onChange={(event) => set({ delimiter: event.target.value as ImportSettings['delimiter'] })}
        >
          <option value=",">commas</option>
          <option value=";">semicolons</option>
          <option value={'\t'}>tabs</option>
        </Form.Select>
      </Form.Group>
      <Form.Group controlId="import-stage">
        <Form.Label>Rows that name no stage start in</Form.Label>
        <Form.Select value={settings.stage} onChange={(event) => set({ stage: event.target.value as StageId })}>
          <Options of={stages} />
        </Form.Select>
      </Form.Group>
      <KnownChoice settings={settings} onChange={(known) => set({ known })} />
    </>
  );
}

interface KnownChoiceProps extends Pick<MatchTermsProps, 'settings'> {
  readonly onChange: (known: ImportSettings['known']) => void;
}

function KnownChoice({ settings, onChange }: KnownChoiceProps) {
  return (
    <Form.Group controlId="import-known">
      <Form.Label>An external id that is known already</Form.Label>
      <Form.Select
        value={settings.known}
        onChange={(event) => onChange(event.target.value === 'update' ? 'update' : 'skip')}
      >
        <option value="skip">is skipped</option>
        <option value="update">has its filled cells written to the deal</option>
      </Form.Select>
      {settings.known === 'update' && (
        <Form.Text>
          Fields, name, and stage where the gate lets the deal pass. The dates of its history are read for new deals
          only.
        </Form.Text>
      )}
    </Form.Group>
  );
}

type Problems = readonly { readonly pointer: string; readonly detail: string }[];

/** Problems of no column of its own. */
const GeneralProblems = ({ problems }: { problems: Problems }) =>
  problems
    .filter(({ pointer }) => !/^\/columns\/\d+/.test(pointer))
    .map(({ pointer, detail }) => (
      <div key={pointer + detail} className="notice bad mb-2" role="alert">
        {detail}
      </div>
    ));

function BadRows({ preview: { rows } }: { preview: ImportPreview }) {
  const bad = rows.filter(({ problem, cells }) => problem !== null || cells.some((cell) => cell.problem !== null));
  return (
    <p className="small muted" role="status">
      {bad.length === 0
        ? 'All of these rows can be imported.'
        : `${countOf(bad.length, 'row')} of these ${rows.length} would not be imported; you can download them afterwards, each with its reason.`}
    </p>
  );
}

interface PreviewTableProps {
  readonly preview: ImportPreview;
  readonly settings: ImportSettings;
  readonly fields: readonly Field[];
  readonly problems: Problems;
  readonly onChange: (settings: ImportSettings) => void;
}

function PreviewTable(props: PreviewTableProps) {
  const { preview, settings } = props;
  return (
    <div className="preview-scroll">
      <table className="plain preview">
        <thead>
          <tr>
            <th>Line</th>
            {preview.headers
              .map((header, place) => ({ header, place, key: `column ${place}` }))
              .map(({ header, place, key }) => (
                <ColumnHead key={key} {...props} header={header} place={place} />
              ))}
          </tr>
        </thead>
        <tbody>
          {preview.rows.map((row) => (
            <PreviewRow key={row.line} row={row} settings={settings} />
          ))}
        </tbody>
      </table>
    </div>
  );
}

interface ColumnHeadProps extends PreviewTableProps {
  readonly header: string;
  readonly place: number;
}

/** What a column is, and how its dates are written where that has to be said. */
function ColumnHead({ header, place, preview, settings, fields, problems, onChange }: ColumnHeadProps) {
  const told = (pointer: string) => problemAt({ type: '', title: '', status: 422, errors: problems }, pointer);
  const column = settings.columns[place];
  const [wrong, unordered] = [told(`/columns/${place}`), told(`/columns/${place}/order`)];
  return (
    <th>
      <div className="header-text" title={header}>
        {header || 'no name'}
      </div>
      <Form.Select
        size="sm"
        aria-label={`Column ${header || place + 1} is`}
        value={toKey(column)}
        isInvalid={wrong !== undefined}
        onChange={(event) => onChange(withColumn(settings, preview, place, event.target.value))}
      >
        <ColumnOptions fields={fields} />
      </Form.Select>
      {preview.dateOrders[place] === 'either' && holdsDates(column, fields) && (
        <OrderPick
          header={header || `${place + 1}`}
          column={column}
          isMissing={unordered !== undefined}
          onChoose={(order) => onChange(withOrder(settings, place, order))}
        />
      )}
      <span className="small text-held">{wrong ?? unordered}</span>
    </th>
  );
}

const ColumnOptions = ({ fields }: { fields: readonly Field[] }) => (
  <>
    <option value="">left out</option>
    <optgroup label="The deal">
      {Object.entries(DEAL_COLUMN_NAMES).map(([id, name]) => (
        <option key={id} value={`deal:${id}`}>
          {name}
        </option>
      ))}
    </optgroup>
    <optgroup label="Fields">
      {fields.map(({ id, name }) => (
        <option key={id} value={`field:${id}`}>
          {name}
        </option>
      ))}
    </optgroup>
  </>
);

const withColumn = (
  settings: ImportSettings,
  { headers }: ImportPreview,
  place: number,
  key: string,
): ImportSettings => ({
  ...settings,
  columns: headers.map((_header, at) => (at === place ? fromKey(key) : (settings.columns[at] ?? fromKey('')))),
});

const withOrder = (settings: ImportSettings, place: number, chosen: DateOrder | undefined): ImportSettings => ({
  ...settings,
  columns: settings.columns.map(({ order: before, ...column }, at) => {
    const order = at === place ? chosen : before;
    return order ? { ...column, order } : column;
  }),
});

interface PreviewRowProps {
  readonly row: ImportPreview['rows'][number];
  readonly settings: ImportSettings;
}

function PreviewRow({ row, settings }: PreviewRowProps) {
  const classOf = (problem: string | null, place: number): string =>
    problem ? 'bad' : settings.columns[place]?.to === 'nothing' ? 'muted' : '';
  return (
    <tr className={row.problem ? 'bad' : ''}>
      <td className="num muted">
        {row.line}
        {row.problem && <div className="small text-held">{row.problem}</div>}
      </td>
      {row.cells
        .map((cell, place) => ({ cell, place, key: `cell ${place}` }))
        .map(({ cell, place, key }) => (
          <td key={key} className={classOf(cell.problem, place)}>
            <div className="cell-text">{cell.text}</div>
            {cell.problem && <div className="small text-held">{cell.problem}</div>}
          </td>
        ))}
    </tr>
  );
}

interface OrderPickProps {
  readonly header: string;
  readonly column: Column | undefined;
  readonly isMissing: boolean;
  readonly onChoose: (order: DateOrder | undefined) => void;
}

/** How the dates of a column are written, where all its cells fit both orders. */
function OrderPick({ header, column, isMissing, onChoose }: OrderPickProps) {
  return (
    <Form.Select
      size="sm"
      className="mt-1"
      aria-label={`Dates of ${header} are written`}
      value={column?.order ?? ''}
      isInvalid={isMissing}
      onChange={(event) => onChoose(DATE_ORDERS.find((order) => order === event.target.value))}
    >
      <option value="">dates written…</option>
      <option value="day_first">day first</option>
      <option value="month_first">month first</option>
    </Form.Select>
  );
}

const DATE_COLUMNS: readonly (string | null)[] = ['created', 'entered_stage', 'last_activity'];

const holdsDates = (column: Column | undefined, fields: readonly Field[]): boolean =>
  column?.to === 'deal'
    ? DATE_COLUMNS.includes(column.column)
    : column?.to === 'field' && fields.find(({ id }) => id === column.field)?.type === 'date';

type Column = ImportSettings['columns'][number];

const toKey = (column: Column | undefined): string =>
  !column || column.to === 'nothing' ? '' : `${column.to}:${column.column ?? column.field}`;

function fromKey(key: string): Column {
  const [to, id = null] = key.split(':');
  const column = DEAL_COLUMNS.find((candidate) => candidate === id);
  if (to === 'deal' && column) return { to, column, field: null };
  return to === 'field' ? { to, column: null, field: id } : { to: 'nothing', column: null, field: null };
}
