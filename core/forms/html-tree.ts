import { parse, type DefaultTreeAdapterTypes as Tree } from 'parse5';
import { HINT, ICON } from './unnamed.ts';

/** The few questions the form reader asks of a parsed page. Scripts never run: parse5 builds a tree and nothing else. */
export type Element = Tree.Element;
type Node = Tree.Node;

export interface Page {
  /** All elements in document order. */
  elements: Element[];
  byId: Map<string, Element>;
}

export function parsePage(html: string): Page {
  const elements: Element[] = [];
  const byId = new Map<string, Element>();
  const pending: Node[] = [parse(html)];
  // An explicit stack: hostile pages nest deeper than the call stack allows.
  while (pending.length > 0) {
    const node = pending.pop()!;
    if (isElement(node)) {
      elements.push(node);
      const id = attribute(node, 'id');
      if (id !== undefined && !byId.has(id)) byId.set(id, node);
    }
    const children = childrenOf(node);
    for (let i = children.length - 1; i >= 0; i -= 1) pending.push(children[i]!);
  }
  return { elements, byId };
}

export function isElement(node: Node): node is Element {
  return 'tagName' in node;
}

export function childrenOf(node: Node): Node[] {
  if ('content' in node) return node.content.childNodes;
  return 'childNodes' in node ? node.childNodes : [];
}

export function parentOf(node: Node): Element | undefined {
  const parent = 'parentNode' in node ? node.parentNode : null;
  return parent && isElement(parent) ? parent : undefined;
}

export function attribute(element: Element, name: string): string | undefined {
  return element.attrs.find((each) => each.name === name)?.value;
}

/**
 * Answers about elements, each worked out once: a page may hold a hundred thousand controls in one row, one label or one
 * nest, and reading it must not take the square of that.
 */
function remembering<Answer>(): {
  has(key: Element): boolean;
  get(key: Element): Answer | undefined;
  set(key: Element, answer: Answer): unknown;
} {
  return new WeakMap<Element, Answer>();
}

const closestByTag = new Map<string, ReturnType<typeof remembering<Element | undefined>>>();

/** The nearest element of a tag around an element, itself included. */
export function closest(
  element: Element,
  tag: 'form' | 'label' | 'td' | 'tr' | 'table' | 'template' | 'optgroup',
): Element | undefined {
  let known = closestByTag.get(tag);
  if (!known) closestByTag.set(tag, (known = remembering()));
  const climbed: Element[] = [];
  let at: Element | undefined = element;
  while (at && at.tagName !== tag && !known.has(at)) {
    climbed.push(at);
    at = parentOf(at);
  }
  const found = at && at.tagName !== tag ? known.get(at) : at;
  for (const each of climbed) known.set(each, found);
  return found;
}

const childrenKept = remembering<{ elements: Element[]; places: Map<Node, number> }>();

/** The elements straight below an element, and where each of its children stands among all of them. */
export function childPlaces(parent: Element): { elements: Element[]; places: Map<Node, number> } {
  let known = childrenKept.get(parent);
  if (!known) {
    const children = childrenOf(parent);
    known = { elements: children.filter(isElement), places: new Map(children.map((child, at) => [child, at])) };
    childrenKept.set(parent, known);
  }
  return known;
}

/** The longest label kept, in UTF-16 units. */
const LABEL_LENGTH = 1000;

/** Elements whose text nobody reads as words about what stands beside them. */
export const UNSPOKEN: ReadonlySet<string> = new Set([
  'script',
  'style',
  'select',
  'textarea',
  'option',
  'button',
  'template',
  'noscript',
  'datalist',
  'svg',
]);

const textsKept = remembering<string>();
/** Nodes looked through for one text: what people read as a label isn't hidden behind more. */
const MOST_NODES = 5000;

/** The text a person reads inside an element, without that of controls; at most 1,000 characters. */
export function textOf(element: Element): string {
  const known = textsKept.get(element);
  if (known !== undefined) return known;
  const text = gatherText(element);
  textsKept.set(element, text);
  return text;
}

function gatherText(element: Element): string {
  const parts: string[] = [];
  const pending: Node[] = [element];
  let length = 0;
  for (let looked = 0; pending.length > 0 && looked < MOST_NODES && length < 4 * LABEL_LENGTH; looked += 1) {
    const node = pending.pop()!;
    if ('value' in node && node.nodeName === '#text') {
      parts.push(node.value);
      length += node.value.trim().length;
    }
    if (isElement(node) && node !== element && isPassedOver(node)) continue;
    const children = childrenOf(node);
    for (let i = Math.min(children.length, MOST_NODES) - 1; i >= 0; i -= 1) pending.push(children[i]!);
  }
  return tidyLabel(parts.join(' '));
}

const isPassedOver = (node: Element): boolean =>
  UNSPOKEN.has(node.tagName) || isHiddenFromReaders(node) || isIcon(node);

/** A font draws icons out of words ("face", "mail") that nobody reads. */
export const isIcon = (element: Element): boolean =>
  (element.tagName === 'i' || element.tagName === 'span') &&
  ICON.test((attribute(element, 'class') ?? '').slice(0, 300));

function isHiddenFromReaders(element: Element): boolean {
  return attribute(element, 'hidden') !== undefined || attribute(element, 'aria-hidden') === 'true';
}

const labelsKept = remembering<string>();

/** What a label calls its control: without hints on what to write, which often stand inside it. */
export function labelTextOf(label: Element): string {
  const known = labelsKept.get(label);
  if (known !== undefined) return known;
  const whole = textOf(label);
  const hints = childPlaces(label).elements.filter(
    (each) => each.tagName === 'small' || HINT.test((attribute(each, 'class') ?? '').slice(0, 300)),
  );
  let text = whole;
  for (const hint of hints.slice(0, 5)) {
    const said = textOf(hint);
    const at = said === '' ? -1 : text.lastIndexOf(said);
    if (at > 0) text = `${text.slice(0, at)} ${text.slice(at + said.length)}`;
  }
  const tidy = tidyLabel(text) || whole;
  labelsKept.set(label, tidy);
  return tidy;
}

/** A label without its trailing colon and asterisk. */
export function tidyLabel(text: string): string {
  // White space of any length goes first: pages are indented.
  const tidied = text
    .trimStart()
    .slice(0, 4 * LABEL_LENGTH)
    .replace(/[\u200e\u200f\u202a-\u202e\u2066-\u2069]/gu, '')
    .replace(/\s+/gu, ' ')
    .trim();
  let end = tidied.length;
  while (end > 0 && ' *:：'.includes(tidied[end - 1]!)) end -= 1;
  return tidied.slice(0, Math.min(end, LABEL_LENGTH)).trim();
}
