import { normaliseValue, type Values } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { loadPartyValues, lockParties } from '../facts/partyValues.ts';
import { invalid } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import { checkReferences } from './references.ts';
import type { Command } from './runCommand.ts';

/** Values of fields as a person wrote them, and where in the request each stands. */
export interface Written {
  readonly values: readonly { readonly field: string; readonly value: Values[string] }[];
  readonly pointerTo: (field: string) => string;
}

/**
 * Locks the customer and contact that are written, before the deal is locked: everywhere in this order, so that nobody waits
 * for each other. Gives what then makes a command of the deal read theirs, and refuses whoever does not exist.
 */
export async function holdWritten(
  tx: EntityManager,
  person: Person,
  { values, pointerTo }: Written,
): Promise<(command: Command) => Promise<Command>> {
  const written = Object.fromEntries(values.map(({ field, value }) => [field, normaliseValue(value)]));
  const namesParty = 'customer' in written || 'contact' in written;
  if (namesParty) await lockParties(tx, written);
  return async (command) => {
    const { deal, setting } = command;
    const strange = await checkReferences(tx, person, setting.catalogue, written, pointerTo);
    if (strange.length > 0) throw invalid(strange);
    if (!namesParty) return command;
    const [partyValues = {}] = await loadPartyValues(tx, [{ ...deal.values, ...written }]);
    return { ...command, deal: { ...deal, partyValues } };
  };
}
