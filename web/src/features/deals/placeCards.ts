import type { Standing } from '@ladder/core';
import type { DealCard, Lane } from './dealsApi.ts';

/** The target stands at this share of the axis, in every lane. */
export const TARGET_AT = 0.58;
export const CARD_WIDTH = 138;
const STACK_WIDTH = 54;
const GAP = 4;
const ROWS = 2;

/** A lane's axis without a target runs to this age at the target's place. */
const DAYS_WITHOUT_TARGET = 30;

export interface PlacedCard {
  readonly kind: 'card';
  readonly card: DealCard;
  readonly left: number;
  readonly row: number;
}

export interface PlacedStack {
  readonly kind: 'stack';
  readonly left: number;
  readonly row: number;
  readonly count: number;
  readonly minor: number;
  readonly standing: Standing;
  readonly ageFrom: number;
  readonly ageTo: number;
}

export type Placed = PlacedCard | PlacedStack;

/** Where an age stands on a lane's axis, from 0 to 1; what is older than the axis is long stands at its end. */
export const placeOfAge = (age: number, targetDays: number | null): number =>
  Math.min(1, (age / (targetDays ?? DAYS_WITHOUT_TARGET)) * TARGET_AT);

interface Crowd {
  row: number;
  left: number;
  count: number;
  minor: number;
  standing: Standing;
  ageFrom: number;
  ageTo: number;
}

interface Loose {
  readonly age: number;
  readonly count: number;
  readonly minor: number;
  readonly standing: Standing;
}

const RANK: Readonly<Record<Standing, number>> = { held: 2, flagged: 1, clear: 0 };
const stronger = (a: Standing, b: Standing): Standing => (RANK[a] >= RANK[b] ? a : b);

/**
 * Places cards on two rows at their ages without overlap, held ones first. What finds no room is gathered in stacks,
 * which take the strongest edge of what they hold, so that a held deal is never hidden.
 */
export function placeCards(lane: Lane, width: number): readonly Placed[] {
  const taken: { row: number; left: number; right: number }[] = [];
  const isFree = (row: number, left: number, size: number): boolean =>
    taken.every((box) => box.row !== row || left + size + GAP <= box.left || left >= box.right + GAP);
  const leftOf = (age: number, size: number): number =>
    Math.max(3, Math.min(placeOfAge(age, lane.targetDays) * width + 3, width - size - 3));
  const cards: PlacedCard[] = [];
  const loose: Loose[] = [...unsent(lane)];
  const reserved = lane.count > 12 ? 1 : 0;
  for (const card of [...lane.cards].sort((a, b) => RANK[b.standing] - RANK[a.standing] || a.age - b.age)) {
    const left = leftOf(card.age, CARD_WIDTH);
    const rows = reserved && card.standing === 'clear' ? [0] : [0, 1];
    const row = rows.find((candidate) => isFree(candidate, left, CARD_WIDTH));
    if (row === undefined) {
      loose.push({ age: card.age, count: 1, minor: card.value?.minor ?? 0, standing: card.standing });
      continue;
    }
    taken.push({ row, left, right: left + CARD_WIDTH });
    cards.push({ kind: 'card', card, left, row });
  }
  const crowds: Crowd[] = [];
  for (const one of loose.sort((a, b) => a.age - b.age)) {
    const wanted = leftOf(one.age, STACK_WIDTH);
    const near = crowds.find((crowd) => Math.abs(crowd.left - wanted) < STACK_WIDTH * 1.6) ?? null;
    const spot = near ? null : freeSpot(wanted, width, isFree);
    const home = near ?? (spot ? null : nearest(crowds, wanted));
    if (home) join(home, one);
    else if (spot) {
      taken.push({ row: spot.row, left: spot.left, right: spot.left + STACK_WIDTH });
      crowds.push({
        ...spot,
        count: one.count,
        minor: one.minor,
        standing: one.standing,
        ageFrom: one.age,
        ageTo: one.age,
      });
    } else {
      crowds.push(crowdInPlaceOf(cards, one, wanted));
    }
  }
  return [...cards, ...crowds.map((crowd): PlacedStack => ({ kind: 'stack', ...crowd }))];
}

/** Deals that are told by their age alone, because only so many cards of a stage are sent. */
function unsent(lane: Lane): readonly Loose[] {
  return lane.ages.flatMap(({ age, count, minor, standing }) => {
    const sent = lane.cards.filter((card) => card.age === age && card.standing === standing);
    const left = count - sent.length;
    return left > 0
      ? [{ age, count: left, minor: minor - sent.reduce((sum, card) => sum + (card.value?.minor ?? 0), 0), standing }]
      : [];
  });
}

function freeSpot(
  wanted: number,
  width: number,
  isFree: (row: number, left: number, size: number) => boolean,
): { row: number; left: number } | null {
  for (const shift of [0, -20, 20, -45, 45, -75, 75]) {
    const left = Math.max(3, Math.min(wanted + shift, width - STACK_WIDTH - 3));
    for (let row = 0; row < ROWS; row++) if (isFree(row, left, STACK_WIDTH)) return { row, left };
  }
  return null;
}

const nearest = (crowds: readonly Crowd[], left: number): Crowd | null =>
  crowds.reduce<Crowd | null>(
    (best, crowd) => (best && Math.abs(best.left - left) <= Math.abs(crowd.left - left) ? best : crowd),
    null,
  );

function join(crowd: Crowd, one: Loose): void {
  crowd.count += one.count;
  crowd.minor += one.minor;
  crowd.standing = stronger(crowd.standing, one.standing);
  crowd.ageFrom = Math.min(crowd.ageFrom, one.age);
  crowd.ageTo = Math.max(crowd.ageTo, one.age);
}

/** Where there is no room at all, the nearest card that is not held gives its place to a stack of both. */
function crowdInPlaceOf(cards: PlacedCard[], one: Loose, wanted: number): Crowd {
  const calm = cards.filter(({ card }) => card.standing !== 'held');
  const host = (calm.length > 0 ? calm : cards).reduce((best, card) =>
    Math.abs(card.left - wanted) < Math.abs(best.left - wanted) ? card : best,
  );
  cards.splice(cards.indexOf(host), 1);
  const crowd: Crowd = {
    row: host.row,
    left: host.left,
    count: 1,
    minor: host.card.value?.minor ?? 0,
    standing: host.card.standing,
    ageFrom: host.card.age,
    ageTo: host.card.age,
  };
  join(crowd, one);
  return crowd;
}
