/** A page in the pieces between which what is issued stands. */
type Split = readonly string[];

const MOST_KEPT = 100;
/** A page of more characters is made anew each time: what is kept stays small, whatever forms there are. */
const MOST_CHARACTERS = 300_000;

/** Pages of forms as they were made, so that showing one again costs no more than sending it. */
export class Pages {
  /** Stands in a page where what is issued for whoever sees it goes. */
  static readonly PLACE = '\u{fffc}issued\u{fffc}';
  private readonly kept = new Map<string, Split>();

  /** @param key what the page depends on */
  of(key: string, make: () => string): Split {
    const held = this.kept.get(key);
    if (held) return held;
    const made = make();
    const page = this.split(made);
    if (made.length > MOST_CHARACTERS) return page;
    // The oldest goes first; a form that is looked at comes back at once.
    if (this.kept.size >= MOST_KEPT) this.kept.delete(this.kept.keys().next().value!);
    this.kept.set(key, page);
    return page;
  }

  split(page: string): Split {
    return page.split(Pages.PLACE);
  }

  filled(page: Split, issued: string): string {
    return page.join(issued);
  }
}
