import { DAY_GROUPS, itemTitle } from '@ladder/core';
import { Form } from 'react-bootstrap';
import { useSession } from '../../client/session.ts';
import { countOf, shortValue } from '../../parts/format.ts';
import { StageTone } from '../../parts/Notch.tsx';
import { GROUP_NAMES, whyOf } from './dayWords.ts';
import type { DayEntry, Today } from './todayApi.ts';

interface DayListProps {
  readonly entries: readonly DayEntry[];
  readonly counts: Today['counts'];
  /** Whether parts stand under their names; by due day they do not. */
  readonly grouped: 'yes' | 'no';
  readonly selected: string | null;
  readonly onSelect: (deal: string) => void;
  /** Null where nothing is handed over here. */
  readonly choosing: Choosing | null;
  readonly names: ReadonlyMap<string, string>;
}

/** Which deals are chosen to be handed over. */
export interface Choosing {
  readonly chosen: ReadonlySet<string>;
  readonly onChoose: (deal: string, is: 'chosen' | 'not') => void;
}

/** The deals of a day, each once, with what to do first about it and why it is there. */
export function DayList(props: DayListProps) {
  const { entries, counts, grouped } = props;
  if (grouped === 'no') return <Rows {...props} entries={entries} />;
  return DAY_GROUPS.filter((group) => entries.some((entry) => entry.group === group)).map((group) => (
    <section key={group} className="day-group" aria-labelledby={`day-${group}`}>
      <h2 id={`day-${group}`}>
        {GROUP_NAMES[group]} <small>{countOf(counts[group], 'deal')}</small>
      </h2>
      <Rows {...props} entries={entries.filter((entry) => entry.group === group)} />
    </section>
  ));
}

function Rows({ entries, selected, onSelect, choosing, names }: DayListProps) {
  return (
    <ul className="day-rows">
      {entries.map((entry) => (
        <li key={entry.deal.id} className={choosing ? 'choosing' : ''}>
          {choosing && <ChooseBox entry={entry} choosing={choosing} />}
          <Row entry={entry} isSelected={entry.deal.id === selected} onSelect={onSelect} names={names} />
        </li>
      ))}
    </ul>
  );
}

/** Steps and tasks are handed over; what follows from the deal itself stays with its owner. */
export const canHandOver = ({ item, others }: DayEntry): boolean =>
  [item, ...others].some(({ kind }) => kind === 'step' || kind === 'task');

function ChooseBox({ entry, choosing }: { entry: DayEntry; choosing: Choosing }) {
  const { id, name } = entry.deal;
  return (
    <Form.Check
      id={`choose-${id}`}
      aria-label={`Hand over what is to be done about ${name}`}
      title={canHandOver(entry) ? '' : 'Nothing of it can be handed over: it is its owner’s'}
      disabled={!canHandOver(entry)}
      checked={choosing.chosen.has(id)}
      onChange={(event) => choosing.onChoose(id, event.target.checked ? 'chosen' : 'not')}
    />
  );
}

interface RowProps {
  readonly entry: DayEntry;
  readonly isSelected: boolean;
  readonly onSelect: (deal: string) => void;
  readonly names: ReadonlyMap<string, string>;
}

/** What identifies a row on the page. */
export const rowId = (deal: string): string => `day-row-${deal}`;

function Row({ entry, isSelected, onSelect, names }: RowProps) {
  const { person, organisation } = useSession();
  const { deal, item, others } = entry;
  const why = whyOf(item, organisation.today);
  const whose = item.person !== null && item.person !== person.id ? names.get(item.person) : undefined;
  const more = others.length > 0 ? `${others.length} more` : '';
  return (
    <button
      type="button"
      id={rowId(deal.id)}
      className={`day-row ${isSelected ? 'on' : ''}`}
      aria-current={isSelected}
      onClick={() => onSelect(deal.id)}
      onFocus={() => onSelect(deal.id)}
    >
      <span className="day-what">
        <b>{itemTitle(item)}</b>
        <span>{[deal.name, whose].filter((part) => part).join(' · ')}</span>
      </span>
      <span className="day-stage">
        <StageTone place={deal.status === 'open' ? deal.stage.place : -1} count={deal.stage.of} />
        <span>{stageWords(entry)}</span>
      </span>
      <span className="num">{shortValue(deal.value)}</span>
      <span className="day-why">
        <b className={why.tone === 'bad' ? 'text-held' : why.tone === 'warn' ? 'text-flagged' : ''}>{why.says}</b>
        <small>{[why.note, more].filter((part) => part).join(' · ')}</small>
      </span>
    </button>
  );
}

const stageWords = ({ deal }: DayEntry): string => {
  if (deal.status === 'open') return deal.stage.name;
  return [deal.status === 'won' ? 'Won' : 'Lost', deal.reason].filter((part) => part).join(', ');
};
