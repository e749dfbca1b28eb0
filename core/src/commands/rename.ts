import type { Deal } from '../deals/deal.ts';
import type { Change } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import { failed, ok, type Result } from '../result.ts';
import { changeBy, journal, type Step } from './change.ts';

interface Closed {
  readonly code: 'closed';
}

/** The deal under another name. Errors: the deal is closed. */
export const renameDeal = (deal: Deal, setting: Setting, name: string, asked: Moment): Result<Change, Closed> =>
  changeBy(deal, setting, asked, renameStep(name));

/** The same as a step. */
export const renameStep =
  (name: string): Step<Closed> =>
  (deal, moment) => {
    if (deal.status.state !== 'open') return failed({ code: 'closed' });
    if (deal.name === name) return ok({ deal, records: [] });
    const body = { kind: 'renamed', before: deal.name, after: name } as const;
    return ok({ deal: { ...deal, name }, records: [journal(deal, moment, body)] });
  };
