import type { NameOf, Piece } from '../criteria/phrase.ts';
import type { Catalogue } from '../facts/field.ts';
import type { ItemVerdict } from './judgeItem.ts';
import type { WrittenAs } from './kind.ts';
import { kindNamed } from './kindOf.ts';
import type { GateItem } from './kinds.ts';

/** What an item asks, in words. */
export const describeItem = (item: WrittenAs<GateItem>, catalogue: Catalogue, nameOf: NameOf): readonly Piece[] =>
  kindNamed(item.kind).asks(item, catalogue, nameOf);

/** What is so now, in words, for an item that reads a value; null where there is nothing to tell. */
export const describeActual = (verdict: ItemVerdict, catalogue: Catalogue, nameOf: NameOf): string | null =>
  kindNamed(verdict.item.kind).actual(verdict.item, verdict, catalogue, nameOf);
