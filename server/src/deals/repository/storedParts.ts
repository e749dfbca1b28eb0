import { DEAL_PART_NAMES, type DealPartName } from '@ladder/core';
import { activitiesStored } from './parts/activities.ts';
import { attemptStored } from './parts/attempt.ts';
import { documentsStored } from './parts/documents.ts';
import { findingsStored } from './parts/findings.ts';
import { pathStored } from './parts/path.ts';
import { runsStored } from './parts/runs.ts';
import { statesStored } from './parts/states.ts';
import type { StoredPart } from './parts/storedPart.ts';
import { tasksStored } from './parts/tasks.ts';
import { ticksStored } from './parts/ticks.ts';
import { valuesStored } from './parts/values.ts';
import { versionsStored } from './parts/versions.ts';
import { visitsStored } from './parts/visits.ts';
import { waiversStored } from './parts/waivers.ts';

/** How each part of a deal is kept. */
const STORED_PARTS: { readonly [Name in DealPartName]: StoredPart<Name> } = {
  values: valuesStored,
  activities: activitiesStored,
  visits: visitsStored,
  ticks: ticksStored,
  runs: runsStored,
  documents: documentsStored,
  tasks: tasksStored,
  waivers: waiversStored,
  path: pathStored,
  attempt: attemptStored,
  findings: findingsStored,
  states: statesStored,
  versions: versionsStored,
};

interface AnyPart {
  readonly name: DealPartName;
  readonly select: Readonly<Record<string, string>>;
  readonly from: string;
  readonly read: ((given: never) => object) | null;
  readonly asRead: NonNullable<StoredPart<never>['asRead']> | null;
  readonly row: NonNullable<StoredPart<never>['row']> | null;
  readonly writes: NonNullable<StoredPart<never>['writes']> | null;
}

const ALL: readonly AnyPart[] = DEAL_PART_NAMES.map((name) => {
  const { select, from = '', read = null, asRead = null, row = null, writes = null } = STORED_PARTS[name];
  return { name, select, from, read, asRead, row, writes };
});

/** The stored parts of these names, in the order of the list. */
export const storedParts = (names: readonly DealPartName[] = DEAL_PART_NAMES): readonly AnyPart[] =>
  names === DEAL_PART_NAMES ? ALL : ALL.filter(({ name }) => names.includes(name));
