import { personActor } from '../deals/actor.ts';
import type { Deal } from '../deals/deal.ts';
import { textValue } from '../deals/parts/values.ts';
import type { Change } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import { ok, type Result } from '../result.ts';
import { changeBy } from './change.ts';
import { passOpenWork, type ReassignProblem, reassignStep, withdrawRequests } from './reassign.ts';

/**
 * Nothing of the deal is someone's any more who leaves: another owns it and has their open tasks and steps; what they asked for
 * on deals of others is withdrawn. Errors: it is void.
 */
export const handOnDeal = (
  deal: Deal,
  setting: Setting,
  { person, to }: { readonly person: string; readonly to: string },
  asked: Moment,
): Result<Change, ReassignProblem> =>
  changeBy<ReassignProblem>(deal, setting, asked, (before, moment) => {
    const along = { tasks: 'go', steps: 'go', waivers: 'go' } as const;
    const isOwner = textValue(before, 'owner') === person;
    const request = { owner: to, team: textValue(before, 'team'), ...along };
    const owned = isOwner ? reassignStep(setting, request)(before, moment) : ok({ deal: before, records: [] });
    if (!owned.ok || isOwner) return owned;
    const passed = passOpenWork(before, setting, { from: person, to }, moment);
    const without = withdrawRequests(passed.deal, personActor(person), moment);
    return ok({ deal: without.deal, records: [...passed.records, ...without.records] });
  });
