import type { Words } from '@zusammen/core/forms/hosted';

/** A form's pages, one at a time; those that don't apply are passed over. */
export class Leaves {
  private readonly pages: HTMLElement[];
  private readonly send: HTMLElement;
  private at = 0;

  /** @param isRight whether a page may be left; it says itself what is wrong */
  constructor(
    root: HTMLFormElement,
    words: Words,
    private readonly isRight: (page: Element) => boolean,
  ) {
    this.pages = [...root.querySelectorAll<HTMLElement>('.page')];
    this.send = root.querySelector<HTMLElement>('.send')!;
    if (this.pages.length < 2) return;
    const button = (label: string, work: () => void): HTMLButtonElement => {
      const made = document.createElement('button');
      made.type = 'button';
      made.textContent = label;
      made.addEventListener('click', work);
      return made;
    };
    for (const page of this.pages) {
      const turn = document.createElement('p');
      turn.className = 'turn';
      turn.append(
        button(words.back, () => this.go(-1)),
        button(words.next, () => void this.next()),
      );
      turn.lastElementChild!.className = 'strong';
      page.append(turn);
    }
  }

  /** Goes on to the next page, where this one is right. @returns whether there was one, or this one isn't right */
  next(): boolean {
    if (this.pages.length < 2 || this.following(1) === undefined) return false;
    if (this.isRight(this.pages[this.at]!)) this.go(1);
    return true;
  }

  open(page: number): void {
    this.at = page;
    this.refresh();
  }

  /** The page of the first field that stands on any; undefined: they stand on none. */
  pageOf(fields: readonly string[]): number | undefined {
    for (const field of fields) {
      const page = this.pages.findIndex((each) => this.isOn(each, field));
      if (page >= 0) return page;
    }
    return undefined;
  }

  isOn(page: Element, field: string): boolean {
    return (
      field !== '' &&
      page.querySelector(`[data-q="${CSS.escape(field)}"], [data-group="${CSS.escape(field)}"]`) !== null
    );
  }

  refresh(): void {
    if (this.pages.length < 2) return;
    const isLast = this.following(1) === undefined;
    this.pages.forEach((page, at) => {
      page.hidden = at !== this.at;
      const [back, next] = page.querySelectorAll<HTMLElement>('.turn button');
      back!.hidden = this.following(-1) === undefined;
      next!.hidden = isLast;
    });
    this.send.hidden = !isLast;
  }

  private go(by: 1 | -1): void {
    const to = this.following(by);
    if (to === undefined) return;
    this.open(to);
    const page = this.pages[to]!;
    const heading = page.querySelector<HTMLElement>('h2') ?? page;
    heading.tabIndex = -1;
    heading.focus();
    page.scrollIntoView({ block: 'start' });
  }

  /** The nearest page in a direction that applies. */
  private following(by: 1 | -1): number | undefined {
    for (let at = this.at + by; at >= 0 && at < this.pages.length; at += by)
      if (!this.pages[at]!.hasAttribute('data-off')) return at;
    return undefined;
  }
}
