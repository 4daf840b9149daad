import {
  attribute,
  childPlaces,
  childrenOf,
  closest,
  isElement,
  parentOf,
  textOf,
  tidyLabel,
  type Element,
  type Page,
} from './html-tree.ts';

/** A group's heading is looked for this many elements up; pages nest less, and hostile ones without end. */
const MOST_CLIMBED = 64;
/** Elements that may together name one control. */
const MOST_NAMING = 20;
/** Elements before a control that are looked at for its name. */
const MOST_BEFORE = 200;

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
  let at = parentOf(first);
  for (let climbed = 0; at && at.tagName !== 'form' && climbed < MOST_CLIMBED; at = parentOf(at), climbed += 1) {
    const role = attribute(at, 'role');
    if (at.tagName === 'fieldset') {
      const legend = childPlaces(at).elements.find(({ tagName }) => tagName === 'legend');
      if (legend) return textOf(legend);
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
  const ids = attribute(element, 'aria-labelledby')?.split(/\s+/, MOST_NAMING) ?? [];
  return ids
    .map((id) => page.byId.get(id))
    .map((each) => (each ? textOf(each) : ''))
    .filter(Boolean)
    .join(' ')
    .slice(0, 1000);
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
  const { cells, places } = cellsOf(row);
  const at = places.get(cell) ?? -1;
  const before = cells[at - 1];
  if (before && !holdsControl(before)) {
    const text = textOf(before);
    if (text) return text;
  }
  const table = closest(row, 'table');
  const heading = table && firstRows(page).get(table);
  if (!heading || heading === row) return '';
  const column = childPlaces(heading).elements[at];
  return column?.tagName === 'th' ? textOf(column) : '';
}

const cellsKept = new WeakMap<Element, { cells: Element[]; places: Map<Element, number> }>();

function cellsOf(row: Element): { cells: Element[]; places: Map<Element, number> } {
  let known = cellsKept.get(row);
  if (!known) {
    const cells = childPlaces(row).elements.filter(({ tagName }) => tagName === 'td' || tagName === 'th');
    known = { cells, places: new Map(cells.map((cell, at) => [cell, at])) };
    cellsKept.set(row, known);
  }
  return known;
}

const firstRowsKept = new WeakMap<Page, Map<Element, Element>>();

/** Every table's first row. */
function firstRows(page: Page): Map<Element, Element> {
  let known = firstRowsKept.get(page);
  if (!known) {
    known = new Map();
    for (const element of page.elements) {
      const table = element.tagName === 'tr' ? closest(element, 'table') : undefined;
      if (table && !known.has(table)) known.set(table, element);
    }
    firstRowsKept.set(page, known);
  }
  return known;
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
  const place = childPlaces(parent).places.get(child) ?? 0;
  for (let i = place - 1; i >= Math.max(0, place - MOST_BEFORE) && text.length < 2000; i -= 1) {
    const node = siblings[i]!;
    if (isElement(node)) {
      if (CONTROLS.has(node.tagName) || holdsControl(node)) break;
      if (text.trim() !== '' && ['br', 'p', 'div', 'hr', 'h1', 'h2', 'h3', 'h4'].includes(node.tagName)) break;
      if (node.tagName === 'hr') break;
      text = `${textOf(node)} ${text}`;
    } else if ('value' in node && node.nodeName === '#text') text = `${node.value.trim().slice(-1000)} ${text}`;
  }
  return tidyLabel(text);
}

const holdsKept = new WeakMap<Element, boolean>();

function holdsControl(element: Element): boolean {
  const known = holdsKept.get(element);
  if (known !== undefined) return known;
  const pending: Element[] = [element];
  let holds = false;
  while (pending.length > 0 && !holds) {
    const at = pending.pop()!;
    holds = CONTROLS.has(at.tagName) || holdsKept.get(at) === true;
    for (const child of childrenOf(at)) if (isElement(child)) pending.push(child);
  }
  holdsKept.set(element, holds);
  return holds;
}
