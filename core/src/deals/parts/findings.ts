import type { Finding } from '../finding.ts';
import type { DealPart } from './part.ts';

/** Every way in which the deal did not, does not or will not comply. */
export const findingsPart: DealPart<{ readonly findings: readonly Finding[] }> = { begins: { findings: [] } };
