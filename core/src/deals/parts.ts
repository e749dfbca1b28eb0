import { activitiesPart } from './parts/activities.ts';
import { attemptPart } from './parts/attempt.ts';
import { documentsPart } from './parts/documents.ts';
import { findingsPart } from './parts/findings.ts';
import { pathPart } from './parts/path.ts';
import { runsPart } from './parts/runs.ts';
import { statesPart } from './parts/states.ts';
import { tasksPart } from './parts/tasks.ts';
import { ticksPart } from './parts/ticks.ts';
import { valuesPart } from './parts/values.ts';
import { versionsPart } from './parts/versions.ts';
import { visitsPart } from './parts/visits.ts';
import { waiversPart } from './parts/waivers.ts';

/** Everything that a deal carries. A new part is a file of its own and its name here, and its storing in the server. */
export const DEAL_PARTS = {
  values: valuesPart,
  activities: activitiesPart,
  visits: visitsPart,
  ticks: ticksPart,
  runs: runsPart,
  documents: documentsPart,
  tasks: tasksPart,
  waivers: waiversPart,
  path: pathPart,
  attempt: attemptPart,
  findings: findingsPart,
  states: statesPart,
  versions: versionsPart,
} as const;

type Parts = typeof DEAL_PARTS;
export type DealPartName = keyof Parts;
export const DEAL_PART_NAMES = Object.keys(DEAL_PARTS) as readonly DealPartName[];

type CarriedOf<P> = P extends { readonly carries?: infer Carried } ? Exclude<Carried, undefined> : never;
type Both<U> = (U extends unknown ? (one: U) => void : never) extends (all: infer I) => void ? I : never;

/** What a deal carries of the named parts. */
export type Carried<Name extends DealPartName> = Both<{ [N in Name]: CarriedOf<Parts[N]> }[Name]>;

/** What every new deal carries, whatever it is begun with. */
export const BEGINNING = Object.assign(
  {},
  ...DEAL_PART_NAMES.map((name) => ('begins' in DEAL_PARTS[name] ? DEAL_PARTS[name].begins : {})),
) as Carried<Exclude<DealPartName, 'values' | 'activities'>>;

type ReadingOf<P> = P extends { facts: (...of: never[]) => infer Read } ? Read : never;
type KeepingOf<P> = P extends { keep: (...of: never[]) => infer Kept } ? Kept : never;

/** The parts that gates read: whoever judges needs these and no others. */
export type FactPartName = { [N in DealPartName]: Parts[N] extends { facts: unknown } ? N : never }[DealPartName];
export const FACT_PARTS = DEAL_PART_NAMES.filter((name) => 'facts' in DEAL_PARTS[name]) as readonly FactPartName[];

/** The parts that have to be read of a deal for what these say to be told, in the order of the list. */
export function partsToRead(names: readonly string[]): readonly FactPartName[] {
  const read = new Set(names);
  // A set takes what is added while it is gone through.
  for (const name of read) for (const other of readsOf(name)) read.add(other);
  return FACT_PARTS.filter((name) => read.has(name));
}

const readsOf = (name: string): readonly string[] =>
  (DEAL_PARTS as Readonly<Record<string, { readonly readsOf?: readonly string[] }>>)[name]?.readsOf ?? [];

/** What gates read of them, and what moves keep. */
export type FactsRead = Both<{ [N in FactPartName]: ReadingOf<Parts[N]> }[FactPartName]>;
export type FactsKept = Both<{ [N in FactPartName]: KeepingOf<Parts[N]> }[FactPartName]>;
