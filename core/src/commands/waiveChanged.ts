import { actor } from '../deals/actor.ts';
import type { Deal } from '../deals/deal.ts';
import { standsAt } from '../deals/finding.ts';
import { presentVisit } from '../deals/parts/visits.ts';
import { openWaivers, type Waiver, waiversInForce } from '../deals/parts/waivers.ts';
import type { Change } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import { targetText } from '../gate/route.ts';
import { addDays, type Day, startOfDay } from '../time/day.ts';
import { changeSurely, journal, revised, type SureStep } from './change.ts';
import { substanceNow } from './conformWaivers.ts';

/** What a publish lets pass, and for how long. */
export interface BulkWaiver {
  /** Until the end of this local day. */
  readonly until: Day;
  readonly why: string;
  /** Which of the requirements that fail because a gate changed: those that this publish changed, not one before it. */
  readonly concerns: (requirement: string) => boolean;
}

/**
 * Waives what fails only because the gate changed: asked by the process, granted by who publishes (S25). Each ends as any other
 * waiver does. The very same deal where nothing of it fails so.
 */
export const waiveChanged = (deal: Deal, setting: Setting, waiver: BulkWaiver, asked: Moment): Change =>
  changeSurely(deal, setting, asked, waiveChangedStep(setting, waiver));

/** The same as a step. */
const waiveChangedStep =
  (setting: Setting, { until, why, concerns }: BulkWaiver): SureStep =>
  (deal, moment) => {
    const at = moment.recordedAt;
    const known = new Set([...openWaivers(deal), ...waiversInForce(deal, at)].map(({ requirement }) => requirement));
    const items = deal.findings.flatMap((finding) =>
      finding.kind === 'gate_changed' &&
      standsAt(finding, at) &&
      concerns(finding.requirement) &&
      !known.has(finding.requirement)
        ? [{ id: finding.requirement, level: finding.level, state: 'unmet', passedOver: false } as const]
        : [],
    );
    if (deal.status.state !== 'open' || items.length === 0) return { deal, records: [] };
    const request = Math.max(0, ...deal.waivers.map((one) => one.request)) + 1;
    const stage = presentVisit(deal);
    const process = actor('process', deal.process);
    const target = targetText({ to: 'stage', stage: stage.stage });
    const covers = { from: at, to: startOfDay(addDays(until, 1), setting.zone) };
    const waivers = items.map(
      ({ id }, place): Waiver => ({
        seq: deal.waivers.length + 1 + place,
        request,
        requirement: id,
        substance: substanceNow(setting.document, id) ?? '',
        target,
        visitSeq: stage.seq,
        why,
        until,
        askedAt: at,
        askedBy: process,
        verdict: { answer: 'holds', items },
        decision: { how: 'granted', at, by: moment.by, word: null, until },
        covers,
        end: null,
      }),
    );
    const after = revised({ ...deal, waivers: [...deal.waivers, ...waivers] });
    const asked = { kind: 'waiver_asked', request, target, items: items.map(({ id }) => id), until } as const;
    return {
      deal: after,
      records: [
        journal(after, { ...moment, by: process }, asked, why),
        journal(after, moment, { kind: 'waiver_decided', request, how: 'granted', until }),
      ],
    };
  };
