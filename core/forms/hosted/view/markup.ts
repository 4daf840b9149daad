/** What is shown, as plain data: an element with what stands in it, or a text. The server writes it as HTML; others may show it otherwise. */
export type Markup = string | Element;
export interface Element {
  tag: string;
  attributes: Record<string, string | number | boolean>;
  inside: Markup[];
}

type Given = string | number | boolean | undefined;
type Inside = Markup | false | undefined | readonly Inside[];

/** An element. Attributes that are undefined or false aren't there; what is false or undefined inside isn't either. */
export function element(tag: string, given: Record<string, Given> = {}, ...inside: Inside[]): Element {
  const attributes: Element['attributes'] = {};
  for (const [name, value] of Object.entries(given))
    if (value !== undefined && value !== false) attributes[name] = value;
  return { tag, attributes, inside: flat(inside) };
}

const flat = (inside: readonly Inside[]): Markup[] =>
  inside.flatMap((each) =>
    Array.isArray(each)
      ? flat(each as readonly Inside[])
      : each === undefined || each === false || each === ''
        ? []
        : [each as Markup],
  );

/** Elements that have no end tag (HTML, 13.1.2). */
const VOID = new Set(['input', 'link', 'meta', 'br', 'img']);
const ESCAPES: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };
const escaped = (text: string): string => text.replace(/[&<>"]/g, (character) => ESCAPES[character]!);

/** Markup as HTML. Every text is escaped; names of tags and attributes are ours. */
export function asHtml(markup: Markup): string {
  if (typeof markup === 'string') return escaped(markup);
  const { tag, attributes, inside } = markup;
  let html = `<${tag}`;
  for (const name of Object.keys(attributes)) {
    const value = attributes[name]!;
    html += value === true ? ` ${name}` : ` ${name}="${escaped(String(value))}"`;
  }
  html += '>';
  if (VOID.has(tag)) return html;
  // A line break right behind these is swallowed (HTML, 13.1.2.5): a text that begins with one needs two.
  if (tag === 'textarea' && typeof inside[0] === 'string' && inside[0].startsWith('\n')) html += '\n';
  for (const each of inside) html += asHtml(each);
  return `${html}</${tag}>`;
}
