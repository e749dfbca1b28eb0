import type { StageId } from '../ids.ts';
import type { Requirement } from '../requirements/kinds.ts';
import { newDocument, newStage, type ProcessDocument, type Stage } from './document.ts';

/** What a new process can begin with instead of a bare stage; each works as it is, and everything in it can be changed. */
export const STARTING_POINTS = ['short_sale', 'considered_sale', 'renewal'] as const;
export type StartingPoint = (typeof STARTING_POINTS)[number];

/** What each is called, and for which sales it is meant. */
export const STARTING_POINT_WORDS: Readonly<Record<StartingPoint, { readonly name: string; readonly meant: string }>> =
  {
    short_sale: { name: 'A short sale', meant: 'one person decides within days: three stages' },
    considered_sale: { name: 'A considered sale', meant: 'several people weigh it for weeks: five stages' },
    renewal: { name: 'A renewal', meant: 'a customer has it already and goes on, or not: four stages' },
  };

interface StageSketch {
  readonly name: string;
  readonly purpose: string;
  readonly chance: number;
  readonly days: number;
  readonly checklist?: readonly string[];
  /** Fields that must be filled to enter. */
  readonly fields?: readonly string[];
}

/** Each chance is a guess to begin with (common practice): what was won from there tells later. */
const SKETCHES: Readonly<Record<StartingPoint, readonly StageSketch[]>> = {
  short_sale: [
    {
      name: 'Asked',
      purpose: 'They have asked for something that we sell.',
      chance: 20,
      days: 3,
      checklist: ['What they need is written down'],
    },
    {
      name: 'Offered',
      purpose: 'They hold a price that we stand by.',
      chance: 50,
      days: 7,
      fields: ['value'],
      checklist: ['The offer was sent'],
    },
    {
      name: 'Agreed',
      purpose: 'They have said yes, and only papers are missing.',
      chance: 90,
      days: 5,
      fields: ['close_date'],
    },
  ],
  considered_sale: [
    {
      name: 'First talk',
      purpose: 'We know who asks, and what for.',
      chance: 10,
      days: 10,
      fields: ['customer'],
      checklist: ['A first talk was held'],
    },
    {
      name: 'Need understood',
      purpose: 'They agree with what we have written down as their need.',
      chance: 25,
      days: 15,
      checklist: ['Their need is written down, and they agree', 'We know who decides'],
    },
    {
      name: 'Proposal made',
      purpose: 'They hold a proposal with a price that we stand by.',
      chance: 45,
      days: 15,
      fields: ['value'],
      checklist: ['The proposal was presented'],
    },
    {
      name: 'Being decided',
      purpose: 'Whoever decides has it before them, and a day is set.',
      chance: 65,
      days: 20,
      fields: ['close_date'],
      checklist: ['Open questions are answered'],
    },
    {
      name: 'Contract',
      purpose: 'They have decided for us, and the contract is being signed.',
      chance: 90,
      days: 10,
      checklist: ['The contract was sent'],
    },
  ],
  renewal: [
    {
      name: 'Coming due',
      purpose: 'What they have ends soon.',
      chance: 60,
      days: 20,
      fields: ['customer', 'close_date'],
    },
    {
      name: 'Looked back',
      purpose: 'We know how they used it, and what they think of it.',
      chance: 70,
      days: 15,
      checklist: ['They were asked how it went'],
    },
    {
      name: 'Terms sent',
      purpose: 'They hold the terms on which it goes on.',
      chance: 80,
      days: 15,
      fields: ['value'],
    },
    { name: 'Agreed', purpose: 'They go on, and only papers are missing.', chance: 95, days: 7 },
  ],
};

/** The document of a new process that begins so. */
export function startingDocument(
  start: StartingPoint,
  name: string,
  currency: string,
  newKey: () => string,
): ProcessDocument {
  const stages = SKETCHES[start].map((sketch) => stageOf(sketch, newKey));
  const [first] = stages;
  if (!first) throw new Error('A starting point has stages');
  return { ...newDocument(name, 'deal', currency, first), skips: 'flag', returns: 'flag', stages };
}

const stageOf = (sketch: StageSketch, newKey: () => string): Stage => ({
  ...newStage(newKey() as StageId, sketch.name),
  purpose: sketch.purpose,
  chance: sketch.chance,
  target: { days: sketch.days, counting: 'calendar' },
  enter: (sketch.fields ?? []).map(
    (field): Requirement => ({
      id: newKey(),
      level: 'flag',
      binds: 'must_stay',
      kind: 'field',
      field,
    }),
  ),
  checklist: (sketch.checklist ?? []).map((text) => ({
    id: newKey(),
    text,
    need: 'must',
    level: 'flag',
    afterReturn: 'keep',
  })),
});
