import { stageOf } from '@ladder/core';
import { countOf } from '../../parts/format.ts';
import { Pieces } from '../../parts/Pieces.tsx';
import type { DealDetail, Verdict } from './dealsApi.ts';
import { RemedyControl } from './RemedyControl.tsx';

/** Ways in which the deal does not comply that the gate above does not show already, each with its remedy. */
export function OpenFindings({ deal, verdict }: { deal: DealDetail; verdict: Verdict | null }) {
  const above = new Set(verdict?.items.map(({ id }) => id));
  const findings = deal.findings.filter(({ requirement }) => requirement === null || !above.has(requirement));
  if (findings.length === 0) return null;
  return (
    <section className="gate" aria-labelledby="findings-title">
      <h2 id="findings-title">
        What it owes <small>{countOf(findings.length, 'finding')} beside the gate</small>
      </h2>
      <div className="card">
        {findings.map((finding) => {
          const owed = deal.owed.find(({ id }) => id === finding.requirement);
          return (
            <div
              key={finding.key}
              id={finding.requirement ? `owed-${finding.requirement}` : undefined}
              className={`gate-row open ${finding.level === 'hold' ? 'edge-hold' : 'edge-flag'}`}
            >
              <div>
                <Pieces says={finding.says} />
                <small>
                  {finding.actual && `${finding.actual} · `}
                  {finding.requirement && finding.askedBy
                    ? `asked by ${stageOf(deal.document, finding.askedBy)?.name ?? 'an older stage'} · `
                    : ''}
                  {finding.sinceDays === 0 ? 'since today' : `for ${countOf(finding.sinceDays, 'day')}`}
                </small>
              </div>
              <div className="gate-remedy">{owed && deal.may.change && <RemedyControl item={owed} deal={deal} />}</div>
              <span className={`gate-state ${finding.level === 'hold' ? 'text-held' : 'text-flagged'}`}>
                {finding.level === 'hold' ? 'holds' : 'flags'}
              </span>
            </div>
          );
        })}
      </div>
    </section>
  );
}
