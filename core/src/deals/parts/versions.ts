import type { VersionId } from '../../ids.ts';
import type { Instant } from '../../time/day.ts';
import type { DealPart } from './part.ts';

/** A version that the deal followed, and the instant from which on it did. */
export interface VersionFollowed {
  readonly version: VersionId;
  readonly from: Instant;
}

/** Every version that the deal followed since it began here, one after the other. */
export const versionsPart: DealPart<{ readonly versions: readonly VersionFollowed[] }> = { begins: { versions: [] } };
