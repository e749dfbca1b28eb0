import { createHash } from 'node:crypto';
import type { deal as contract, TypeOf } from '@ladder/contract';
import type { Setting } from '@ladder/core';

interface PresentedSetting {
  /** Says what is in it: another setting, another id. */
  readonly id: string;
  readonly told: TypeOf<typeof contract.setting>;
}

const presented = new WeakMap<Setting, PresentedSetting>();

/** The version that a deal follows and what the organisation set beside it. */
export function presentSetting(setting: Setting): PresentedSetting {
  const known = presented.get(setting);
  if (known) return known;
  const { document, catalogue, calendar, reasons, taskFates, waiverRights, houseRules } = setting;
  const told = {
    document,
    calendar,
    taskFates,
    waiverRights,
    nextActionRule: houseRules.no_next_action?.level ?? ('off' as const),
    fields: [...catalogue.values()],
    reasons: reasons
      .filter(({ withdrawn }) => withdrawn === 'no')
      .map(({ withdrawn: _withdrawn, ...reason }) => reason),
  };
  const id = createHash('sha256').update(JSON.stringify(told)).digest('base64url').slice(0, 22);
  const view: PresentedSetting = { id, told };
  presented.set(setting, view);
  return view;
}
