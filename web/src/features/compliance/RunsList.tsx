import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import { useSession } from '../../client/session.ts';
import { countOf, shortDay } from '../../parts/format.ts';
import { PlainTable } from '../../parts/PlainTable.tsx';
import type { MeasureChoice } from '../processes/ProcessBar.tsx';
import {
  type StepRunRow,
  type StepWork,
  useLazyReadStepRunsQuery,
  useListStepRunsInfiniteQuery,
} from './complianceApi.ts';
import { WorkList } from './WorkList.tsx';

interface RunsListProps {
  readonly work: StepWork;
  readonly choice: MeasureChoice;
}

/** The runs behind a number, each leading to its deal; late ones at hand unless something else was chosen. */
export function RunsList({ work, choice }: RunsListProps) {
  const state = choice.get('state') ?? 'open';
  const isChosen = choice.get('state') !== null;
  const asked = {
    process: work.process.id,
    filters: choice.filters,
    from: work.from,
    state,
    step: choice.get('step'),
    result: choice.get('result'),
    person: choice.get('person'),
    late: isChosen ? choice.get('late') : 'yes',
  };
  const list = useListStepRunsInfiniteQuery(asked);
  const [read, reading] = useLazyReadStepRunsQuery();
  const title = isChosen ? (state === 'done' ? 'Done, one by one' : 'At hand, one by one') : 'Late, one by one';
  return (
    <WorkList
      id="runs"
      title={title}
      note={(rows, hasMore) => (hasMore ? `the first ${rows.length}` : countOf(rows.length, 'step'))}
      narrowed={
        isChosen && (
          <Button
            variant="link"
            onClick={() => choice.choose({ state: null, step: null, result: null, person: null, late: null })}
          >
            Show all that is late
          </Button>
        )
      }
      list={list}
      file={{ name: 'steps-one-by-one', heads: HEADS, cellsOf, read: () => read(asked), state: reading }}
    >
      {(rows) => (
        <PlainTable
          heads={['Deal, owner', 'Stage', 'Step', 'Who', 'Due', state === 'done' ? 'Done' : '', 'Days late#']}
        >
          {rows.map((row) => (
            <Row key={`${row.deal.id} ${row.seq}`} row={row} />
          ))}
        </PlainTable>
      )}
    </WorkList>
  );
}

const HEADS = ['Deal', 'Owner', 'Stage', 'Step', 'Result', 'Who', 'Due', 'Done', 'Days late'];

const cellsOf = ({ deal, stage, step, result, person, dueDay, doneDay, daysLate }: StepRunRow) => [
  deal.name,
  deal.owner,
  stage.name,
  step,
  result,
  person ?? whose(result),
  dueDay,
  doneDay,
  daysLate,
];

/** Whose a step is that is no person's. */
const whose = (result: string | null): string => (result ? 'the process' : 'nobody’s yet');

function Row({ row: { deal, stage, step, result, person, dueDay, doneDay, daysLate } }: { row: StepRunRow }) {
  const { organisation } = useSession();
  const day = (text: string | null) => (text === null ? '' : shortDay(text, organisation.today));
  return (
    <tr>
      <td>
        <Link to={`/deals/${deal.id}`}>{deal.name}</Link>
        <div className="small muted">{deal.owner ?? 'nobody'}</div>
      </td>
      <td>{stage.name}</td>
      <td>
        {step}
        {result && <div className="small muted">{result}</div>}
      </td>
      <td>{person ?? <span className="muted">{whose(result)}</span>}</td>
      <td>{day(dueDay)}</td>
      <td>{day(doneDay)}</td>
      <td className={`num ${daysLate > 0 ? 'text-held' : 'muted'}`}>{daysLate}</td>
    </tr>
  );
}
