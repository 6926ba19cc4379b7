/** How much work an entry may cost before it is given up: rules can ask for more than any machine does. */
export class Budget {
  /** What one entry has left, and what all of them together have. In steps of about a tenth of a microsecond. */
  private entry = 0

  constructor(private readonly perEntry: number, private all: number) {}

  begin(): void {
    this.entry = Math.min(this.perEntry, this.all)
  }

  spend(): void {
    this.all--
    if (--this.entry < 0) throw new TooMuchWork()
  }
}

export class TooMuchWork extends Error {}
