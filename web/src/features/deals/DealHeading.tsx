import type { ReactNode } from 'react';
import { Link } from 'react-router';

interface DealHeadingProps {
  readonly process: string;
  /** Where it stands: the process, its version, the stage. */
  readonly crumb: string;
  readonly name: string;
  readonly badge: ReactNode;
  readonly facts: readonly (readonly [name: string, value: string])[];
  /** What can be done with it. */
  readonly children?: ReactNode;
}

/** The head of a deal's page: where it stands, what it is called, how it stands, and the facts that are always wanted. */
export function DealHeading({ process, crumb, name, badge, facts, children }: DealHeadingProps) {
  return (
    <header className="deal-head">
      <div>
        <div className="crumb">
          <Link to={`/deals?process=${process}`}>Deals</Link> / {crumb}
        </div>
        <div className="deal-title">
          <h1>{name}</h1>
          {badge}
        </div>
      </div>
      {children}
      <dl className="deal-facts">
        {facts.map(([fact, value]) => (
          <div key={fact}>
            <dt>{fact}</dt>
            <dd>{value}</dd>
          </div>
        ))}
      </dl>
    </header>
  );
}
