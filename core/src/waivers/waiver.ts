/** Roles that a process may name to decide on waivers. */
export const WAIVER_ROLES = ['manager', 'administrator'] as const;
export type WaiverRole = (typeof WAIVER_ROLES)[number];

/** Who may decide on waivers of a process, and for how many days at most. */
export interface WaiverRights {
  readonly roles: readonly WaiverRole[];
  readonly mostDays: number;
}

/** A waiver lasts no longer in any process. */
export const LONGEST_WAIVER_DAYS = 365;

/** What a process says before anyone says otherwise. */
export const USUAL_WAIVER_RIGHTS: WaiverRights = { roles: WAIVER_ROLES, mostDays: 30 };
