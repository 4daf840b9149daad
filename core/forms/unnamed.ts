/**
 * Names for controls that have none. A browser sends nothing of these; a page's own script may read them, and
 * `attach.js` sends them under the names that are made here, so page reader and script make the same ones.
 */

/** Classes of elements that draw an icon out of a word ("face", "mail") which nobody reads. */
export const ICON = /(?:^|[\s-])(?:icons?|symbols?-outlined|glyphicon)(?:$|[\s-])/;
/** Classes of what stands in a label and says how to write, not what. */
export const HINT = /(?:^|[\s_-])(?:hint|help)(?:$|[\s_-])/;

/** What names a control that has no name of its own. */
export interface Unnamed {
  id: string;
  /** What a visitor reads at it: its label, else its placeholder or title. */
  label: string;
  /** `text`, `email`, `select`, … */
  type: string;
}

const LONGEST = 60;

/**
 * Ids that a library numbers at each loading of a page tell nothing: `:r1:` or `mat-input-4` today is another control's
 * tomorrow.
 */
const NUMBERED =
  /[:«»]|^(?:[a-z]+-)*(?:input|field|control|text|select|ember|uid|id|el|item|component|react|mui|radix)[-_]?\d+$|\d{5,}|[0-9a-f]{8}-[0-9a-f]{4}/i;

/** A text as a name: small letters and digits of any script, joined by hyphens. */
export function slugOf(text: string): string {
  // As values are folded; this goes into a script on other people's pages, which takes nothing else along.
  const plain = text
    .slice(0, 500)
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/ß/g, 'ss')
    .replace(/ł/g, 'l')
    .replace(/ø/g, 'o');
  const words = plain.match(/[\p{L}\p{N}]+/gu) ?? [];
  const slug = words.join('-').slice(0, LONGEST);
  return slug.endsWith('-') ? slug.slice(0, -1) : slug;
}

/** The names of one form, those of its named controls first. */
export class NamesOfForm {
  private readonly taken: Set<string>;
  /** The number that a name taken before is tried with next: a hundred thousand controls may be called alike. */
  private readonly next = new Map<string, number>();

  constructor(named: Iterable<string>) {
    this.taken = new Set(named);
  }

  /**
   * The name a nameless control goes by, which is taken from then on: its id, else its label as a slug, else what kind of
   * control it is; with a number behind it where that name is taken.
   */
  nameFor({ id, label, type }: Unnamed): string {
    const own = id !== '' && id.length <= 200 && !NUMBERED.test(id) ? id : slugOf(label) || id.slice(0, 200) || type;
    let again = this.next.get(own) ?? 1;
    const numbered = (): string => (again === 1 ? own : `${own}-${again}`);
    while (this.taken.has(numbered())) again += 1;
    const name = numbered();
    this.taken.add(name);
    this.next.set(own, again + 1);
    return name;
  }
}
