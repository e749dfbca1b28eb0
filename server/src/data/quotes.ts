const [QUOTE, LINE_FEED, RETURN] = [34, 10, 13];

/** Follows the quotes of a CSV text as it passes, to tell where one that is never closed was opened. */
export class QuoteWatch {
  private line = 1;
  private opened: number | null = null;
  private lastOpened = 1;
  private last = 0;

  /** Takes the next piece of the text. */
  watch(text: string): void {
    for (let place = 0; place < text.length; place++) {
      const code = text.charCodeAt(place);
      if (code === QUOTE) this.turn();
      else if (code === RETURN || (code === LINE_FEED && this.last !== RETURN)) this.line++;
      this.last = code;
    }
  }

  /** The line on which the quote stands that is open; null where none is. */
  get openSince(): number | null {
    return this.opened;
  }

  /** A quote right behind one that closed is a doubled one: the cell goes on. */
  private turn(): void {
    if (this.opened !== null) {
      this.lastOpened = this.opened;
      this.opened = null;
    } else this.opened = this.last === QUOTE ? this.lastOpened : this.line;
  }
}
