import type { deal as contract, TypeOf } from '@ladder/contract';

export type DealSetting = TypeOf<typeof contract.setting>;

/** As many as the server is told of with each reading. */
const MOST = 40;
const known = new Map<string, DealSetting>();

/*
 * The versions that deals follow, with what was set beside them, as the server told them. Their ids say what is in them, so
 * that none is ever out of date; deals of one version share one, and the server tells it once.
 */

/** The ids of those that need not be told again. */
export const knownSettings = (): string => [...known.keys()].join(',');

export const settingOf = (id: string): DealSetting | undefined => known.get(id);

export function rememberSetting(id: string, setting: DealSetting): void {
  known.set(id, setting);
  for (const oldest of known.keys()) {
    if (known.size <= MOST) return;
    known.delete(oldest);
  }
}
