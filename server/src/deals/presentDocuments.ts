import type { deal as contract, TypeOf } from '@ladder/contract';
import type { Deal, NameOf } from '@ladder/core';
import { namedAs } from '../files/mediaType.ts';

/** The documents that are attached, in the order in which they were. */
export const presentDocuments = (deal: Deal, nameOf: NameOf): TypeOf<typeof contract.detail>['documents'] =>
  deal.documents
    .filter(({ removed }) => removed === null)
    .map(({ id, kind, name, mediaType, bytes, at, by }) => ({
      id,
      kind: { id: kind, name: nameOf(kind) ?? 'Unknown' },
      name,
      mediaType,
      namedAs: namedAs(name, mediaType),
      bytes,
      at: new Date(at).toISOString(),
      by: nameOf(by) ?? null,
    }));
