import {
  catalogueOf,
  type Design,
  type DesignPerson,
  dayNumber,
  type Field,
  localDay,
  MONDAY_TO_FRIDAY,
  type ProcessDocument,
} from '@ladder/core';
import { inOrder } from '../db/inOrder.ts';
import type { Connection } from '../db/sql.ts';
import { offeredKinds } from '../documents/repository.ts';
import { presentCatalogue } from '../facts/catalogue.ts';
import { organisation } from '../session/repository.ts';
import { findPeople } from './repository.ts';

/** What a design is checked by, in a form that goes from one thread to another. */
export interface DesignInput {
  readonly document: ProcessDocument;
  readonly surroundings: Surroundings;
}

/** What is alike for all processes. */
export interface Surroundings {
  readonly fields: readonly Field[];
  /** Names of the kinds of documents that are offered. */
  readonly kinds: readonly (readonly [string, string])[];
  readonly people: readonly DesignPerson[];
  readonly today: number;
}

export async function loadSurroundings(connection: Connection, now: number): Promise<Surroundings> {
  const [catalogue, kinds, people, { timeZone }] = await inOrder(
    presentCatalogue(connection),
    offeredKinds(connection),
    findPeople(connection),
    organisation(connection),
  );
  return { fields: [...catalogue.values()], kinds: [...kinds], people, today: dayNumber(localDay(now, timeZone)) };
}

/** The design as core checks it, without how past deals went: what goes by that, and by the calendar, is told on the sheet alone. */
export function designOf({ document, surroundings }: DesignInput): Design {
  const { fields, kinds, people, today } = surroundings;
  const names = new Map(kinds);
  return {
    document,
    catalogue: catalogueOf(fields),
    nameOf: (id) => names.get(id),
    people,
    today,
    calendar: MONDAY_TO_FRIDAY,
    evidence: [],
  };
}
