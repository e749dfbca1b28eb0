import type { Standing } from '@ladder/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { countOf } from '../../parts/format.ts';
import { PlainTable } from '../../parts/PlainTable.tsx';
import type { PublishPreview } from './processesApi.ts';

const NEWLY: readonly (readonly [Standing, 'newlyHeld' | 'newlyFlagged' | 'newlyClear'])[] = [
  ['held', 'newlyHeld'],
  ['flagged', 'newlyFlagged'],
  ['clear', 'newlyClear'],
];

/** How open deals stand by stage now, and after the days of grace; behind each number the deals that it is about. */
export function PublishEffect({ preview }: { preview: PublishPreview }) {
  const [shown, setShown] = useState<Standing | null>(null);
  const turned = NEWLY.filter(([, count]) => preview[count] > 0);
  const deals = preview.turned.filter(({ after }) => after === shown);
  const count = NEWLY.find(([standing]) => standing === shown)?.[1];
  return (
    <>
      <PlainTable heads={['Stage', 'Open#', 'Held#', 'Flagged#']}>
        {preview.stages.map(({ stage, name, before, after }) => (
          <tr key={stage}>
            <td>{name}</td>
            <Turned before={before.open} after={after.open} />
            <Turned before={before.held} after={after.held} />
            <Turned before={before.flagged} after={after.flagged} />
          </tr>
        ))}
      </PlainTable>
      <p className="small muted mt-1 mb-0">
        {turned.length === 0 ? 'No deal’s standing changes.' : 'After the days of grace, newly: '}
        {turned.map(([standing, of]) => (
          <button
            key={standing}
            type="button"
            className={`state ${standing} turned`}
            aria-expanded={shown === standing}
            onClick={() => setShown(shown === standing ? null : standing)}
          >
            {preview[of]} {standing}
          </button>
        ))}
      </p>
      {deals.length > 0 && (
        <ul className="turned-deals">
          {deals.map(({ deal, name, before }) => (
            <li key={deal}>
              <Link to={`/deals/${deal}`} target="_blank" rel="noreferrer">
                {name}
              </Link>{' '}
              <span className="muted">{before} now</span>
            </li>
          ))}
          {count && preview[count] > deals.length && (
            <li className="muted">and {countOf(preview[count] - deals.length, 'more deal')}</li>
          )}
        </ul>
      )}
    </>
  );
}

function Turned({ before, after }: { before: number; after: number }) {
  return (
    <td className="num">
      {before === after ? (
        before
      ) : (
        <>
          <span className="muted">{before} →</span> <b>{after}</b>
        </>
      )}
    </td>
  );
}
