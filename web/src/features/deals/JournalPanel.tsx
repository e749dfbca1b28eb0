import type { DealId, StageId } from '@ladder/core';
import { placeOf } from '@ladder/core';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { Link } from 'react-router';
import { useSession } from '../../client/session.ts';
import { shortDay } from '../../parts/format.ts';
import { StageTone } from '../../parts/Notch.tsx';
import { Pieces } from '../../parts/Pieces.tsx';
import { ShowMore } from '../../parts/ShowMore.tsx';
import { Markdown } from '../steps/Markdown.tsx';
import { Compose } from './Compose.tsx';
import { type DealDetail, type JournalEntry, useEraseTextMutation, useListJournalInfiniteQuery } from './dealsApi.ts';
import { type JournalView, lookOf } from './eventLooks.ts';

/** All that happened, newest first, hung on the rungs on which it happened. */
export function JournalPanel({ deal }: { deal: DealDetail }) {
  const list = useListJournalInfiniteQuery(deal.id);
  const entries = list.data?.pages.flatMap(({ items }) => items) ?? [];
  const [shown, setShown] = useState<'everything' | JournalView>('everything');
  const visible = entries.filter(({ body }) => shown === 'everything' || lookOf(body).view === shown);
  return (
    <aside className="journal" aria-labelledby="journal-title">
      <header>
        <h2 id="journal-title">Journal</h2>
        <Form.Select
          size="sm"
          aria-label="Shown in the journal"
          value={shown}
          onChange={(event) => setShown(event.target.value as typeof shown)}
        >
          <option value="everything">Everything</option>
          <option value="moves">Moves</option>
          <option value="activities">Calls and notes</option>
        </Form.Select>
      </header>
      {deal.may.change && <Compose deal={deal} />}
      {groupByStay(visible).map(({ stage, entries: group }) => (
        <section key={keyOf(group[0])}>
          <StageHead stage={stage} deal={deal} />
          {group.map((entry) => (
            <Entry key={keyOf(entry)} entry={entry} deal={deal.id} />
          ))}
        </section>
      ))}
      <ShowMore list={list} label="Earlier entries" />
    </aside>
  );
}

/** A deal's own entries and its process's are numbered apart. */
const keyOf = (entry: JournalEntry | undefined): string => `${entry?.of} ${entry?.seq}`;

interface StayGroup {
  readonly stage: StageId;
  readonly entries: JournalEntry[];
}

/** Entries that follow each other in one stage stand under one head. */
function groupByStay(entries: readonly JournalEntry[]): readonly StayGroup[] {
  const groups: StayGroup[] = [];
  for (const entry of entries) {
    const last = groups.at(-1);
    if (last?.stage === entry.stage) last.entries.push(entry);
    else groups.push({ stage: entry.stage, entries: [entry] });
  }
  return groups;
}

function StageHead({ stage, deal }: { stage: StageId; deal: DealDetail }) {
  const place = placeOf(deal.document, stage);
  return (
    <div className="journal-stage">
      <StageTone place={place} count={deal.document.stages.length} />
      <h3>{deal.document.stages[place]?.name ?? 'A stage that is gone'}</h3>
    </div>
  );
}

/** Takes a person's words away for good, where someone asks for it; that it was done stays in the journal. */
function EraseText({ deal, seq }: { deal: DealId; seq: number }) {
  const { person } = useSession();
  const [eraseText, { isLoading }] = useEraseTextMutation();
  if (person.role !== 'administrator') return null;
  return (
    <Button
      variant="link"
      size="sm"
      className="erase"
      disabled={isLoading}
      onClick={() =>
        window.confirm('Erase this text for good? The entry stays, without it.') && eraseText({ deal, seq })
      }
    >
      Erase the text
    </Button>
  );
}

/** A person's note is Markdown, with those whom it mentions; other words stand as they were written. */
function Said({ entry, text }: { readonly entry: JournalEntry; readonly text: string }) {
  return entry.kind === 'activity' || entry.kind === 'step_noted' ? <Markdown>{text}</Markdown> : <q>{text}</q>;
}

function Entry({ entry, deal }: { entry: JournalEntry; deal: DealId }) {
  const { organisation } = useSession();
  const { icon: Icon, tag, leadsTo } = lookOf(entry.body);
  const time = new Date(entry.happenedAt).toLocaleTimeString('en-GB', {
    hour: '2-digit',
    minute: '2-digit',
    timeZone: organisation.timeZone,
  });
  const day = new Date(entry.happenedAt).toLocaleDateString('en-CA', { timeZone: organisation.timeZone });
  return (
    <div className={`entry ${entry.kind}`}>
      <i>
        <Icon aria-hidden size={11} /> {tag}
        <span>{shortDay(day, organisation.today)}</span>
      </i>
      <div>
        <Pieces says={entry.says} />
        {leadsTo && (
          <Link className="small d-block" to={`/deals/${leadsTo.deal}`}>
            Open {leadsTo.name}
          </Link>
        )}
        {entry.text && <Said entry={entry} text={entry.text} />}
        <small>
          {time}
          {entry.by && ` ${entry.by}`}
          {entry.text && <EraseText deal={deal} seq={entry.seq} />}
        </small>
      </div>
    </div>
  );
}
