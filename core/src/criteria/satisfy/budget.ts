/** Steps that may still be taken before a question is left undecided (S44). */
export class Budget {
  spent = 0;

  constructor(private readonly most: number) {}

  /** Takes steps; false where fewer are left. */
  spend(steps: number): boolean {
    this.spent += steps;
    return this.spent <= this.most;
  }
}
