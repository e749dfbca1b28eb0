import type { Instant } from '../time/day.ts';
import type { Deal } from './deal.ts';
import type { VersionFollowed } from './parts/versions.ts';

/** The versions followed, with the present one since `at` where it is another than the last. */
export function reviseVersions({ version, versions }: Deal, at: Instant): readonly VersionFollowed[] {
  return versions.at(-1)?.version === version ? versions : [...versions, { version, from: at }];
}
