import { parse, type DefaultTreeAdapterTypes as Tree } from 'parse5';

/** The few questions the form reader asks of a parsed page. Scripts never run: parse5 builds a tree and nothing else. */
export type Element = Tree.Element;
type Node = Tree.Node;

export interface Page {
  /** All elements in document order. */
  elements: Element[];
  byId: Map<string, Element>;
  position: Map<Node, number>;
}

export function parsePage(html: string): Page {
  const elements: Element[] = [];
  const byId = new Map<string, Element>();
  const position = new Map<Node, number>();
  const pending: Node[] = [parse(html)];
  // An explicit stack: hostile pages nest deeper than the call stack allows.
  while (pending.length > 0) {
    const node = pending.pop()!;
    position.set(node, position.size);
    if (isElement(node)) {
      elements.push(node);
      const id = attribute(node, 'id');
      if (id !== undefined && !byId.has(id)) byId.set(id, node);
    }
    const children = childrenOf(node);
    for (let i = children.length - 1; i >= 0; i -= 1) pending.push(children[i]!);
  }
  return { elements, byId, position };
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

export function closest(element: Element, ...tags: string[]): Element | undefined {
  for (let at: Element | undefined = element; at; at = parentOf(at)) if (tags.includes(at.tagName)) return at;
  return undefined;
}

const UNSPOKEN = new Set([
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

/** The text a person reads inside an element, without that of controls; at most 1,000 characters. */
export function textOf(element: Element): string {
  const parts: string[] = [];
  const pending: Node[] = [element];
  while (pending.length > 0) {
    const node = pending.pop()!;
    if ('value' in node && node.nodeName === '#text') parts.push(node.value);
    if (isElement(node) && node !== element && (UNSPOKEN.has(node.tagName) || isHiddenFromReaders(node))) continue;
    const children = childrenOf(node);
    for (let i = children.length - 1; i >= 0; i -= 1) pending.push(children[i]!);
  }
  return tidyLabel(parts.join(' '));
}

function isHiddenFromReaders(element: Element): boolean {
  return attribute(element, 'hidden') !== undefined || attribute(element, 'aria-hidden') === 'true';
}

/** A label without its trailing colon and asterisk. */
export function tidyLabel(text: string): string {
  return text
    .replace(/[\u200e\u200f\u202a-\u202e\u2066-\u2069]/gu, '')
    .replace(/\s+/gu, ' ')
    .trim()
    .replace(/\s*[*:：]+\s*[*]*\s*$/u, '')
    .slice(0, 1000)
    .trim();
}
