/** Steps that may still be taken before a question is left undecided (S44). */
export class Budget {
  constructor(private left: number) {}

  /** Takes steps; false where fewer are left. */
  spend(steps: number): boolean {
    this.left -= steps;
    return this.left >= 0;
  }
}
