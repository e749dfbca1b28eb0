import { Budget } from '../criteria/satisfy/budget.ts';
import type { Claim } from '../criteria/satisfy/claim.ts';
import { type Answer, satisfy, type Undecided, USUAL_STEPS } from '../criteria/satisfy/satisfy.ts';
import type { Subject } from '../criteria/satisfy/variable.ts';
import { type Design, type RemarkPlace, WHOLE_PROCESS } from './remark.ts';

/** Steps that one check may take, so that it ends in a second or two whatever the design is. */
const MOST_STEPS = 1_000_000;

/** Something that could not be decided, and is therefore said nothing of. */
export interface OpenQuestion {
  readonly place: RemarkPlace;
  readonly says: string;
}

/** Asks whether claims can hold, within bounds, and keeps what stayed open. */
export class Asker {
  readonly open: OpenQuestion[] = [];
  private readonly subject: Subject;
  private readonly told = new Set<string>();
  private left = MOST_STEPS;

  constructor({ document, catalogue, today }: Design) {
    const results = new Map(
      document.stages.flatMap(({ steps }) => steps.map((step) => [step.id, step.results.map(({ id }) => id)] as const)),
    );
    this.subject = {
      catalogue,
      today,
      currency: document.currency,
      resultsOf: (step) => results.get(step) ?? [],
    };
  }

  /** Whether anything can still be decided; where not, that is told. */
  goesOn(): boolean {
    if (this.left <= 0) this.leftOpen('whatever else is to be asked of so large a design', WHOLE_PROCESS, 'steps');
    return this.left > 0;
  }

  /** Whether the claim can hold; `what` tells the question where it stays open, nothing where it need not be told. */
  about(what: string, claim: () => Claim, place: RemarkPlace = WHOLE_PROCESS): Answer {
    if (!this.goesOn()) return { is: 'undecided', why: 'steps' };
    const budget = new Budget(Math.min(USUAL_STEPS, this.left));
    const answer = satisfy(claim(), this.subject, budget);
    this.left -= budget.spent;
    return answer.is === 'undecided' ? this.leftOpen(what, place, answer.why) : answer;
  }

  private leftOpen(what: string, place: RemarkPlace, why: Undecided): Answer {
    if (what !== '' && !this.told.has(what)) this.open.push({ place, says: what });
    this.told.add(what);
    return { is: 'undecided', why };
  }
}
