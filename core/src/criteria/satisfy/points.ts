/*
 * Numbers that stand for all others: what compares alike with every constant is one cell of the line, and one number of
 * each is enough. Numbers that are compared with each other as well need as many of each cell as there are of them.
 */

const LARGE = 1e9;

/** The constants, and so many numbers of each gap between, below and above them. Numbers have at most 15 digits (S3). */
export function pointsAmong(constants: readonly number[], perGap: number): readonly number[] {
  const sorted = distinct(constants.length > 0 ? constants : [0]);
  const [first = 0] = sorted;
  const last = sorted.at(-1) ?? 0;
  return distinct([
    ...sorted,
    ...beyond(first, perGap, -1),
    ...sorted.flatMap((low, place) => {
      const high = sorted[place + 1];
      return high === undefined ? [] : inside(low, high, perGap);
    }),
    ...beyond(last, perGap, 1),
  ]);
}

/** The same of whole numbers. */
export function wholeAmong(constants: readonly number[], perGap: number): readonly number[] {
  const steps = Array.from({ length: perGap + 1 }, (_, step) => step);
  return distinct(
    (constants.length > 0 ? constants : [0]).flatMap((constant) =>
      steps.flatMap((step) => [Math.floor(constant) + step, Math.ceil(constant) - step]),
    ),
  );
}

const distinct = (numbers: readonly number[]): readonly number[] => [...new Set(numbers)].sort((a, b) => a - b);

/** Round ones near the end; far out, where adding one is lost, half as far again and again. */
function beyond(end: number, count: number, direction: 1 | -1): readonly number[] {
  const found: number[] = [];
  for (let from = end; found.length < count; from = found.at(-1) ?? from) {
    const near = direction === 1 ? Math.floor(from) + 1 : Math.ceil(from) - 1;
    const isOutward = Math.sign(from) === direction;
    found.push(Math.abs(from) < LARGE ? near : Number((isOutward ? from * 2 : from / 2).toPrecision(3)));
  }
  return found;
}

function inside(low: number, high: number, count: number): readonly number[] {
  if (count === 0) return [];
  const middle = between(low, high);
  if (middle === null) return [];
  const rest = count - 1;
  return [middle, ...inside(low, middle, Math.ceil(rest / 2)), ...inside(middle, high, Math.floor(rest / 2))];
}

const MOST_DIGITS = 15;

/** The number of fewest digits that lies between the two; null where none of at most 15 digits does. */
function between(low: number, high: number): number | null {
  const middle = low + (high - low) / 2;
  for (let digits = 1; digits <= MOST_DIGITS; digits++) {
    const rounded = Number(middle.toPrecision(digits));
    if (rounded > low && rounded < high) return rounded;
  }
  return null;
}
