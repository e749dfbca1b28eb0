import { failed, ok } from '../result.ts';
import { journal, type Step } from './change.ts';

interface Closed {
  readonly code: 'closed';
}

/** The deal under another name. Errors: the deal is closed. */
export const renameStep =
  (name: string): Step<Closed> =>
  (deal, moment) => {
    if (deal.status.state !== 'open') return failed({ code: 'closed' });
    if (deal.name === name) return ok({ deal, records: [] });
    const body = { kind: 'renamed', before: deal.name, after: name } as const;
    return ok({ deal: { ...deal, name }, records: [journal(deal, moment, body)] });
  };
