// Letters typed while the form they belong to is still on its way.

/** Keys after "note" or "reading" are words for its form, even before the form is there. */
export class TypedAhead {
  private text = "";
  private waiting = 0;

  begin(): void {
    this.waiting++;
  }
  end(): void {
    this.waiting--;
  }
  /** True when the key was taken as words. */
  take(key: string): boolean {
    if (this.waiting === 0) return false;
    if (key === "Backspace") this.text = this.text.slice(0, -1);
    else if (key === "Enter") this.text += "\n";
    else if (key.length === 1) this.text += key;
    else return false;
    return true;
  }
  /** The words so far, and whether Enter ended them. */
  give(): { text: string; entered: boolean } {
    const [line = "", ...rest] = this.text.split("\n");
    this.text = "";
    return { text: line, entered: rest.length > 0 };
  }
}

/** One for the page: the form may open on another unit's console. */
export const typedAhead = new TypedAhead();
