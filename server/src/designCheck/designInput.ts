import {
  catalogueOf,
  type Design,
  type DesignPerson,
  type Field,
  MONDAY_TO_FRIDAY,
  type ProcessDocument,
} from '@ladder/core';
import type { Connection } from '../db/sql.ts';
import { offeredKinds } from '../documents/repository.ts';
import { presentCatalogue } from '../facts/catalogue.ts';
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

export async function loadSurroundings(connection: Connection, today: number): Promise<Surroundings> {
  return {
    fields: [...(await presentCatalogue(connection)).values()],
    kinds: [...(await offeredKinds(connection))],
    people: await findPeople(connection),
    today,
  };
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
