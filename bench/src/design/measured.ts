import { performance } from 'node:perf_hooks';
import {
  BUILT_IN_FIELDS,
  type Criterion,
  catalogueOf,
  checkDesign,
  compareVersions,
  type Design,
  dayNumber,
  MONDAY_TO_FRIDAY,
  newDocument,
  type ProcessDocument,
  type Requirement,
  type Stage,
  type StageId,
} from '@ladder/core';

/*
 * The design check and the comparison of two versions, beside a plain walk over the document: what they take of it is told,
 * and once how long that is, since both are waited for as one types.
 */

const FIELDS = Array.from(
  { length: 40 },
  (_, n) =>
    ({
      id: `f${n}`,
      name: `Field ${n}`,
      holder: 'deal',
      type: n % 4 === 3 ? 'date' : 'number',
    }) as const,
);
const catalogue = catalogueOf([...BUILT_IN_FIELDS, ...FIELDS]);

const number = (n: number): string => FIELDS[(n * 4 + (n % 3)) % FIELDS.length]?.id ?? 'f0';

/** A gate as people write them: fields compared with a bound each, one in four with another condition beside it. */
function requirement(n: number): Requirement {
  const left = { of: 'field', field: number(n) } as const;
  const bound: Criterion = {
    kind: n % 2 ? 'at_least' : 'at_most',
    left,
    right: { of: 'value', value: n % 2 ? n % 17 : 1_000 + n },
  };
  const other: Criterion = {
    kind: 'more',
    left: { of: 'field', field: number(n + 5) },
    right: { of: 'value', value: -n },
  };
  const criterion: Criterion = n % 4 === 0 ? { kind: 'any', of: [bound, { kind: 'not', of: other }] } : bound;
  return { id: `r${n}`, level: 'hold', binds: n % 3 ? 'must_stay' : 'at_move', kind: 'criterion', criterion };
}

/** One that no cells tell apart quickly: many fields, each in many alternatives. */
function adversarial(n: number): Requirement {
  const part = (m: number): Criterion => ({
    kind: 'any',
    of: Array.from({ length: 12 }, (_, k) => ({
      kind: 'equals',
      left: { of: 'field', field: number(m * 7 + k) },
      right: { of: 'value', value: (m * 31 + k * 17) % 97 },
    })),
  });
  const criterion: Criterion = { kind: 'all', of: Array.from({ length: 12 }, (_, m) => part(n * 12 + m)) };
  return { id: `a${n}`, level: 'hold', binds: 'must_stay', kind: 'criterion', criterion };
}

function documentOf(
  stages: number,
  requirements: number,
  made: (n: number) => Requirement,
  words = '',
): ProcessDocument {
  const document = newDocument('Bench', 'deal', 'GBP', { id: 's0' as StageId, name: 'S' });
  const each = Math.ceil(requirements / stages);
  return {
    ...document,
    sections: [{ id: 'all', name: 'All', fields: FIELDS.map(({ id }) => id) }],
    stages: Array.from({ length: stages }, (_, place) => ({
      ...(document.stages[0] as Stage),
      id: `s${place}` as StageId,
      name: `Stage ${place}${words}`,
      chance: Math.round((100 * place) / stages),
      enter: Array.from({ length: each }, (_, n) => made(place * each + n)),
    })),
  };
}

const designOf = (document: ProcessDocument): Design => ({
  document,
  catalogue,
  nameOf: () => undefined,
  people: [],
  today: dayNumber('2026-11-24'),
  calendar: MONDAY_TO_FRIDAY,
  evidence: [],
});

/** Every part of a value, once. */
function walk(part: unknown): number {
  if (typeof part !== 'object' || part === null) return 1;
  let parts = 1;
  for (const one of Object.values(part)) parts += walk(one);
  return parts;
}

/** The middle of several times, in milliseconds, after some that warm up. */
function timeOf(work: () => unknown, times = 15): number {
  const taken = Array.from({ length: times + 5 }, () => {
    const began = performance.now();
    work();
    return performance.now() - began;
  });
  return taken.slice(5).sort((a, b) => a - b)[Math.floor(times / 2)] ?? 0;
}

function tell(what: string, document: ProcessDocument, work: () => unknown, times?: number): void {
  const [plain, own] = [timeOf(() => walk(document)), timeOf(work, times)];
  console.log(`${what}: ${(own / plain).toFixed(0)} times a walk over the document (${own.toFixed(1)} ms)`);
}

const usual = documentOf(12, 200, requirement);
tell('checking 12 stages and 200 requirements', usual, () => checkDesign(designOf(usual)));
const hard = documentOf(12, 60, adversarial);
tell('checking an adversarial design', hard, () => checkDesign(designOf(hard)), 3);
const undecided = checkDesign(designOf(hard)).open.length;
console.log(`of it ${undecided} ${undecided === 1 ? 'question was' : 'questions were'} told as not decided`);
const [before, after] = [
  documentOf(40, 400, requirement),
  documentOf(40, 400, (n) => requirement(n + (n % 5)), ' anew'),
];
tell('comparing two versions of 40 stages', after, () =>
  compareVersions(
    { document: before, catalogue, nameOf: () => undefined },
    { document: after, catalogue, nameOf: () => undefined },
  ),
);
