import type { StageId } from '@ladder/core';
import {
  type AskedItem,
  BUILT_IN_FIELDS,
  type Comparison,
  catalogueOf,
  compileGate,
  type FactValue,
  type Field,
  type GateAnswer,
  type GateFacts,
  isOpen,
  judgeGate,
  type Values,
  type Verdict,
} from '@ladder/core';
import { seededRandom } from '@ladder/demo/random.ts';
import { parse } from '@marcbachmann/cel-js';
import jsonLogic from 'json-logic-js';
import { measure, report } from './measure.ts';

/*
 * Verdicts a second of the compiled gate: 10 criteria over 8 fields and 8 required fields, on 100,000 random deals of
 * which 30% of the values are missing, some of those present as null. All contenders read the same objects, and all
 * give the same three-valued answer, which is checked before anything is timed.
 */

const DEALS = 100_000;
const MISSING = 0.3;
const AS_NULL = 0.3;
const TODAY = 20_781;
const NUMBERS = ['area', 'bays', 'height', 'span', 'margin'] as const;
const CHOICES = ['crop', 'planning', 'heating'] as const;
const READ = [...NUMBERS, ...CHOICES];
const OPTIONS = ['a', 'b', 'c', 'd'];

const field = (id: string, type: Field['type']): Field => ({
  id,
  name: id,
  holder: 'deal',
  type,
  ...(type === 'choice' ? { choices: OPTIONS.map((one) => ({ id: one, name: one })) } : {}),
});
const catalogue = catalogueOf([
  ...BUILT_IN_FIELDS,
  ...NUMBERS.map((id) => field(id, 'number')),
  ...CHOICES.map((id) => field(id, 'choice')),
]);

const asked = { stage: 's' as StageId, at: 'enter', level: 'hold', binds: 'at_move', passedOver: false } as const;
const compare = (id: string, kind: Comparison, left: string, value: FactValue): AskedItem => ({
  ...asked,
  id,
  kind: 'criterion',
  criterion: { kind, left: { of: 'field', field: left }, right: { of: 'value', value } },
});
const oneOf = (id: string, left: string, values: readonly string[]): AskedItem => ({
  ...asked,
  id,
  kind: 'criterion',
  criterion: { kind: 'one_of', left: { of: 'field', field: left }, values },
});

/* Most deals pass each single criterion, so that a verdict seldom ends at the first. */
const CRITERIA: readonly AskedItem[] = [
  compare('1', 'at_least', 'area', 5),
  compare('2', 'less', 'bays', 96),
  compare('3', 'more', 'height', 3),
  compare('4', 'at_most', 'span', 97),
  compare('5', 'differs', 'margin', 50),
  oneOf('6', 'crop', ['a', 'b', 'c']),
  oneOf('7', 'planning', ['a', 'b', 'c', 'd']),
  {
    ...asked,
    id: '8',
    kind: 'criterion',
    criterion: {
      kind: 'any',
      of: [
        { kind: 'more', left: { of: 'field', field: 'area' }, right: { of: 'value', value: 20 } },
        { kind: 'equals', left: { of: 'field', field: 'heating' }, right: { of: 'value', value: 'a' } },
      ],
    },
  },
  {
    ...asked,
    id: '9',
    kind: 'criterion',
    criterion: {
      kind: 'not',
      of: { kind: 'equals', left: { of: 'field', field: 'planning' }, right: { of: 'value', value: 'x' } },
    },
  },
  {
    ...asked,
    id: '10',
    kind: 'criterion',
    criterion: {
      kind: 'between',
      left: { of: 'field', field: 'margin' },
      low: { of: 'value', value: 1 },
      high: { of: 'value', value: 99 },
    },
  },
].map((item) => ({ ...item, level: 'flag' }) as AskedItem);
const REQUIRED: readonly AskedItem[] = READ.map((id) => ({
  ...asked,
  id: `r ${id}`,
  kind: 'field',
  field: id,
  level: 'flag',
}));
const ITEMS = [...CRITERIA, ...REQUIRED];

function makeDeals(): readonly GateFacts[] {
  const random = seededRandom(1);
  const nothing = new Set<string>();
  return Array.from({ length: DEALS }, () => {
    const values: Record<string, FactValue> = {};
    for (const id of READ) {
      if (random() >= MISSING)
        values[id] = (NUMBERS as readonly string[]).includes(id)
          ? Math.floor(random() * 100)
          : (OPTIONS[Math.floor(random() * 4)] ?? 'a');
      else if (random() < AS_NULL) values[id] = null;
    }
    return {
      values,
      enteredDay: TODAY - 5,
      lastActivityDay: null,
      at: TODAY * 86_400_000,
      zone: 'UTC',
      today: TODAY,
      rateOf: () => undefined,
      currencyOf: { deal: 'GBP', customer: 'GBP', contact: 'GBP' },
      ticked: nothing,
      closeDateMoves: 0,
      activityCounts: { ever: null, stay: null },
      documentCounts: null,
      stepsFinished: nothing,
      stepResults: {},
      waived: nothing,
      waivers: [],
    };
  });
}

/* How many items are open is the answer that every contender gives: it cannot stop at the first. */

const compiled = compileGate(
  ITEMS.map((item) => ({ ...item, level: 'hold' as const })),
  catalogue,
);

type Read = Readonly<Record<string, never>>;

/** What a programmer would write by hand for just this gate. */
function byHand(values: Values): number {
  const { area, bays, height, span, margin, crop, planning, heating } = values as unknown as Record<
    string,
    number | null | undefined
  > &
    Read;
  let open = 0;
  if (!(typeof area === 'number' && area >= 5)) open++;
  if (!(typeof bays === 'number' && bays < 96)) open++;
  if (!(typeof height === 'number' && height > 3)) open++;
  if (!(typeof span === 'number' && span <= 97)) open++;
  if (!(typeof margin === 'number' && margin !== 50)) open++;
  const [c, p, h] = [crop, planning, heating] as unknown as (string | null | undefined)[];
  if (!(typeof c === 'string' && (c === 'a' || c === 'b' || c === 'c'))) open++;
  if (!(typeof p === 'string' && (p === 'a' || p === 'b' || p === 'c' || p === 'd'))) open++;
  if (!((typeof area === 'number' && area > 20) || (typeof h === 'string' && h === 'a'))) open++;
  if (!(typeof p === 'string' && p !== 'x')) open++;
  if (!(typeof margin === 'number' && margin >= 1 && margin <= 99)) open++;
  for (const value of [area, bays, height, span, margin, c, p, h]) if (value === null || value === undefined) open++;
  return open;
}

/* json-logic is two-valued, so every rule says first that its fields are there. */
const has = (id: string): object => ({ '!==': [{ var: [id, null] }, null] });
const rule = (id: string, operator: string, value: unknown): object => ({
  and: [has(id), { [operator]: [{ var: id }, value] }],
});
const LOGIC: readonly object[] = [
  rule('area', '>=', 5),
  rule('bays', '<', 96),
  rule('height', '>', 3),
  rule('span', '<=', 97),
  rule('margin', '!==', 50),
  rule('crop', 'in', ['a', 'b', 'c']),
  rule('planning', 'in', OPTIONS),
  { or: [rule('area', '>', 20), rule('heating', '===', 'a')] },
  rule('planning', '!==', 'x'),
  { and: [has('margin'), { '<=': [1, { var: 'margin' }, 99] }] },
  ...READ.map(has),
];

const celHas = (id: string): string => `has(v.${id}) && v.${id} != null`;
const CEL = [
  'v.area >= 5.0',
  'v.bays < 96.0',
  'v.height > 3.0',
  'v.span <= 97.0',
  'v.margin != 50.0',
  'v.crop in ["a", "b", "c"]',
  'v.planning in ["a", "b", "c", "d"]',
]
  .map((text) => parse(`${celHas(text.slice(2).split(' ')[0] ?? '')} && ${text}`))
  .concat(
    parse(`(${celHas('area')} && v.area > 20.0) || (${celHas('heating')} && v.heating == "a")`),
    parse(`${celHas('planning')} && v.planning != "x"`),
    parse(`${celHas('margin')} && v.margin >= 1.0 && v.margin <= 99.0`),
    ...READ.map((id) => parse(celHas(id))),
  );

const countFalse =
  (tests: readonly ((values: Values) => unknown)[]) =>
  (values: Values): number => {
    let open = 0;
    for (const test of tests) if (test(values) !== true) open++;
    return open;
  };
const byLogic = countFalse(LOGIC.map((one) => (values: Values) => jsonLogic.apply(one as never, values)));
const byCel = countFalse(CEL.map((one) => (values: Values) => one({ v: values })));

function checkAlike(deals: readonly GateFacts[]): void {
  for (const facts of deals.slice(0, 2_000)) {
    const explained: GateAnswer = judgeGate(ITEMS, facts, catalogue).answer;
    const counts = [compiled.missing(facts), byHand(facts.values), byLogic(facts.values), byCel(facts.values)];
    if (new Set(counts).size > 1 || (explained === 'passes') !== (counts[0] === 0))
      throw new Error(`The contenders differ: ${counts.join(', ')} on ${JSON.stringify(facts.values)}`);
  }
}

const sum = (deals: readonly GateFacts[], judge: (facts: GateFacts) => number) => (): number => {
  let total = 0;
  for (const facts of deals) total += judge(facts);
  return total;
};

const openIn = ({ items }: Verdict): number => items.filter(({ state }) => isOpen(state)).length;

const deals = makeDeals();
checkAlike(deals);
const times = measure([
  { name: 'compiled gate', run: sum(deals, compiled.missing) },
  { name: 'explained verdict', run: sum(deals, (facts) => openIn(judgeGate(ITEMS, facts, catalogue))) },
  { name: 'plain function', run: sum(deals, ({ values }) => byHand(values)) },
  { name: 'json-logic-js', run: sum(deals, ({ values }) => byLogic(values)) },
  { name: 'cel-js', run: sum(deals, ({ values }) => byCel(values)) },
]);
report('gate', times, 'compiled gate', DEALS, 'verdicts/s');
