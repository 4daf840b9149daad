import {
  attribute,
  childrenOf,
  closest,
  isElement,
  parentOf,
  textOf,
  tidyLabel,
  type Element,
  type Page,
} from './html-tree.ts';

const CONTROLS = new Set(['input', 'select', 'textarea', 'button']);

/** How a control is called on the page, from the surest sign to the weakest; '' when nothing tells. */
export function labelOf(control: Element, page: Page, labelsFor: Map<string, Element>): string {
  return (
    labelledBy(control, page) ||
    forLabel(control, labelsFor) ||
    wrappingLabel(control) ||
    tidyLabel(attribute(control, 'aria-label') ?? '') ||
    tableCell(control, page) ||
    precedingOrPlaceholder(control) ||
    tidyLabel(attribute(control, 'title') ?? '')
  );
}

/** A sentence that stands before a field tells about the form; then the field's placeholder is what it is called. */
function precedingOrPlaceholder(control: Element): string {
  const text = precedingText(control);
  const placeholder = tidyLabel(attribute(control, 'placeholder') ?? '');
  const sentence = text.length > 60 || /[.!]$/.test(text);
  return sentence && placeholder !== '' ? placeholder : text || placeholder;
}

/** What a group of radio buttons or checkboxes is called: the fieldset's legend or the group's name for readers. */
export function groupLabelOf(first: Element, page: Page): string {
  for (let at = parentOf(first); at && at.tagName !== 'form'; at = parentOf(at)) {
    const role = attribute(at, 'role');
    if (at.tagName === 'fieldset') {
      const legend = childrenOf(at).find((node) => isElement(node) && node.tagName === 'legend');
      if (legend && isElement(legend)) return textOf(legend);
    }
    if (role === 'group' || role === 'radiogroup') {
      const label = labelledBy(at, page) || tidyLabel(attribute(at, 'aria-label') ?? '');
      if (label) return label;
    }
  }
  const wrapper = closest(first, 'label') ?? first;
  return tableCell(first, page) || precedingText(wrapper);
}

function labelledBy(element: Element, page: Page): string {
  const ids = attribute(element, 'aria-labelledby')?.split(/\s+/) ?? [];
  return ids
    .map((id) => page.byId.get(id))
    .map((each) => (each ? textOf(each) : ''))
    .filter(Boolean)
    .join(' ');
}

function forLabel(control: Element, labelsFor: Map<string, Element>): string {
  const id = attribute(control, 'id');
  const label = id === undefined ? undefined : labelsFor.get(id);
  return label ? textOf(label) : '';
}

function wrappingLabel(control: Element): string {
  const label = closest(control, 'label');
  return label ? textOf(label) : '';
}

/** In a table laid out as a form the label stands in the cell before, or in the heading of the column. */
function tableCell(control: Element, page: Page): string {
  const cell = closest(control, 'td');
  const row = cell ? closest(cell, 'tr') : undefined;
  if (!cell || !row) return '';
  const cells = childrenOf(row).filter(
    (node): node is Element => isElement(node) && (node.tagName === 'td' || node.tagName === 'th'),
  );
  const at = cells.indexOf(cell);
  const before = cells[at - 1];
  if (before && !holdsControl(before)) {
    const text = textOf(before);
    if (text) return text;
  }
  const table = closest(row, 'table');
  const heading = table
    ? page.elements.find((element) => element.tagName === 'tr' && closest(element, 'table') === table)
    : undefined;
  if (!heading || heading === row) return '';
  const column = childrenOf(heading).filter(isElement)[at];
  return column?.tagName === 'th' ? textOf(column) : '';
}

/** Text straight before the control, or before the element around it, when no other control stands between. */
function precedingText(control: Element): string {
  for (let at: Element = control, climbed = 0; climbed < 3; climbed += 1) {
    const parent = parentOf(at);
    if (!parent || parent.tagName === 'form' || parent.tagName === 'body') {
      return parent ? textBefore(parent, at) : '';
    }
    const text = textBefore(parent, at);
    if (text) return text;
    at = parent;
  }
  return '';
}

function textBefore(parent: Element, child: Element): string {
  const siblings = childrenOf(parent);
  let text = '';
  for (let i = siblings.indexOf(child) - 1; i >= 0; i -= 1) {
    const node = siblings[i]!;
    if (isElement(node)) {
      if (CONTROLS.has(node.tagName) || holdsControl(node)) break;
      if (text.trim() !== '' && ['br', 'p', 'div', 'hr', 'h1', 'h2', 'h3', 'h4'].includes(node.tagName)) break;
      if (node.tagName === 'hr') break;
      text = `${textOf(node)} ${text}`;
    } else if ('value' in node && node.nodeName === '#text') text = `${node.value} ${text}`;
  }
  return tidyLabel(text);
}

function holdsControl(element: Element): boolean {
  const pending: Element[] = [element];
  while (pending.length > 0) {
    const at = pending.pop()!;
    if (CONTROLS.has(at.tagName)) return true;
    pending.push(...childrenOf(at).filter(isElement));
  }
  return false;
}
