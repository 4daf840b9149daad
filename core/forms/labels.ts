import {
  attribute,
  childPlaces,
  childrenOf,
  closest,
  isElement,
  parentOf,
  textOf,
  isIcon,
  labelTextOf,
  tidyLabel,
  UNSPOKEN,
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
    (isHidden(control) ? '' : besideIt(control, page))
  );
}

/** A hidden input is beside what it is by chance only. */
const isHidden = (control: Element): boolean => typeOf(control) === 'hidden';

const typeOf = (control: Element): string =>
  control.tagName === 'input' ? (attribute(control, 'type') ?? 'text').toLowerCase() : control.tagName;

/** What the page says around a control that nothing is tied to. */
function besideIt(control: Element, page: Page): string {
  return (
    (isTicked(control) || labelsFollow(control) ? followingText(control) : '') ||
    tableCell(control, page) ||
    precedingOrPlaceholder(control) ||
    tidyLabel(attribute(control, 'title') ?? '') ||
    precedingText(control, true)
  );
}

/**
 * Some pages write what a field is called behind it: the first control of the row has nothing before it, and every one
 * has something behind it.
 */
function labelsFollow(control: Element): boolean {
  const parent = parentOf(control);
  if (!parent) return false;
  const known = followKept.get(parent);
  if (known !== undefined) return known;
  const controls = childPlaces(parent).elements.filter(({ tagName }) => CONTROLS.has(tagName));
  const written = controls.filter(
    (each) => !['hidden', 'submit', 'button', 'checkbox', 'radio'].includes(typeOf(each)),
  );
  const follow =
    written.length >= 2 &&
    written.length <= MOST_NAMING &&
    textBefore(parent, written[0]!, false) === '' &&
    written.every((each) => followingText(each) !== '');
  followKept.set(parent, follow);
  return follow;
}

const followKept = new WeakMap<Element, boolean>();

/** What a control says of itself, however the page around it is laid out; `attach.js` reads the same. */
export function plainLabelOf(control: Element, labelsFor: Map<string, Element>): string {
  return (
    tidyLabel(attribute(control, 'aria-label') ?? '') ||
    forLabel(control, labelsFor) ||
    wrappingLabel(control) ||
    labelBefore(control) ||
    tidyLabel(attribute(control, 'placeholder') ?? '') ||
    tidyLabel(attribute(control, 'title') ?? '')
  );
}

/** A label that is tied to nothing and stands straight before the control, or before what holds it. */
function labelBefore(control: Element): string {
  let at: Element | undefined = control;
  for (let climbed = 0; at && climbed < 2; at = parentOf(at), climbed += 1) {
    const before = siblingOf(at, -1);
    if (before?.tagName === 'label' && attribute(before, 'for') === undefined) return labelTextOf(before);
  }
  return '';
}

/** The element next to one, before it (-1) or behind it (1). */
function siblingOf(element: Element, step: 1 | -1): Element | undefined {
  const parent = parentOf(element);
  if (!parent) return undefined;
  const siblings = childrenOf(parent);
  const place = childPlaces(parent).places.get(element) ?? 0;
  for (let at = place + step; at >= 0 && at < siblings.length && Math.abs(at - place) < 10; at += step) {
    const node = siblings[at]!;
    if (isElement(node)) return node;
  }
  return undefined;
}

const HEADINGS = new Set(['h1', 'h2', 'h3', 'h4', 'h5', 'h6']);
/** Longer ones are sentences; they say something about the page. */
const LONGEST_HEADING = 120;
const headingsKept = new WeakMap<Page, Map<Element, Element | undefined>>();

/** The heading that a control stands under: its fieldset's legend, else the last heading before it; '' when there is none. */
export function sectionOf(control: Element, page: Page): string {
  let at = parentOf(control);
  for (let climbed = 0; at && climbed < MOST_CLIMBED; at = parentOf(at), climbed += 1) {
    if (at.tagName !== 'fieldset') continue;
    const legend = childPlaces(at).elements.find(({ tagName }) => tagName === 'legend');
    const text = legend ? textOf(legend) : '';
    if (text) return text.length > LONGEST_HEADING ? '' : text;
  }
  let headings = headingsKept.get(page);
  if (!headings) {
    headings = new Map();
    let last: Element | undefined;
    for (const element of page.elements) {
      if (HEADINGS.has(element.tagName)) last = element;
      else if (CONTROLS.has(element.tagName)) headings.set(element, last);
    }
    headingsKept.set(page, headings);
  }
  const heading = headings.get(control);
  const text = heading ? textOf(heading) : '';
  return text.length > LONGEST_HEADING ? '' : text;
}

/** What a box is ticked for stands behind it. */
const isTicked = (control: Element): boolean =>
  control.tagName === 'input' && ['checkbox', 'radio'].includes((attribute(control, 'type') ?? '').toLowerCase());

/** Text straight behind a box, as far as the next control or the end of what holds it. */
function followingText(control: Element): string {
  const parent = parentOf(control);
  if (!parent) return '';
  const siblings = childrenOf(parent);
  const place = childPlaces(parent).places.get(control) ?? 0;
  let text = '';
  for (let i = place + 1; i < Math.min(siblings.length, place + MOST_BEFORE) && text.length < 2000; i += 1) {
    const node = siblings[i]!;
    if (isElement(node)) {
      if (CONTROLS.has(node.tagName) || holdsControl(node)) break;
      if (text.trim() !== '' && PARTING.has(node.tagName)) break;
      if (!UNSPOKEN.has(node.tagName) && !isIcon(node)) text += ` ${textOf(node)}`;
    } else if ('value' in node && node.nodeName === '#text') text += ` ${node.value.trim().slice(0, 1000)}`;
  }
  return tidyLabel(text);
}

/** Elements that begin a new line, and so end what was said before. */
const PARTING = new Set(['br', 'p', 'div', 'hr', 'h1', 'h2', 'h3', 'h4', 'ul', 'table']);

/** A sentence that stands before a field tells about the form; then the field's placeholder is what it is called. */
function precedingOrPlaceholder(control: Element): string {
  const text = precedingText(control, false);
  const placeholder = tidyLabel(attribute(control, 'placeholder') ?? '');
  const sentence = text.length > 60 || /[.!]$/.test(text);
  return placeholder !== '' && (sentence || sharesItsLabel(control) || isForSeveral(control))
    ? placeholder
    : text || placeholder;
}

/** What stands before a box with several controls in it names them together. */
function isForSeveral(control: Element): boolean {
  for (let at: Element = control, climbed = 0; climbed < 3; climbed += 1) {
    const parent = parentOf(at);
    if (!parent) return false;
    if (textBefore(parent, at, false) !== '') return controlsIn(at) > 1;
    if (parent.tagName === 'form') return false;
    at = parent;
  }
  return false;
}

const countsKept = new WeakMap<Element, number>();

/** How many controls an element holds; counting ends at two. */
function controlsIn(element: Element): number {
  const known = countsKept.get(element);
  if (known !== undefined) return known;
  let count = 0;
  const pending: Element[] = [element];
  while (pending.length > 0 && count < 2) {
    const at = pending.pop()!;
    if (CONTROLS.has(at.tagName) && at.tagName !== 'button' && typeOf(at) !== 'hidden') count += 1;
    for (const child of childrenOf(at)) if (isElement(child)) pending.push(child);
  }
  countsKept.set(element, count);
  return count;
}

/** "Full name" before two inputs is what both are called together; each one's placeholder tells it apart. */
function sharesItsLabel(control: Element): boolean {
  for (let at: Element = control, climbed = 0; climbed < 2; climbed += 1) {
    const parent = parentOf(at);
    if (!parent || parent.tagName === 'form') return false;
    const next = siblingOf(at, 1);
    if (next) return isWrittenIn(onlyControlIn(next));
    at = parent;
  }
  return false;
}

/** The control an element is, or holds with no text beside it. */
function onlyControlIn(element: Element): Element | undefined {
  for (let at: Element | undefined = element, climbed = 0; at && climbed < 3; climbed += 1) {
    if (CONTROLS.has(at.tagName)) return at;
    const { elements }: { elements: Element[] } = childPlaces(at);
    if (elements.length !== 1 || textOf(at) !== '') return undefined;
    at = elements[0];
  }
  return undefined;
}

const isWrittenIn = (control: Element | undefined): boolean =>
  control?.tagName === 'input' && attribute(control, 'placeholder') !== undefined && !isTicked(control);

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
  return tableCell(first, page) || precedingText(wrapper, true);
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
  return label ? labelTextOf(label) : '';
}

function wrappingLabel(control: Element): string {
  const label = closest(control, 'label');
  return label ? labelTextOf(label) : '';
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
function precedingText(control: Element, headings: boolean): string {
  for (let at: Element = control, climbed = 0; climbed < 3; climbed += 1) {
    const parent = parentOf(at);
    if (!parent || parent.tagName === 'form' || parent.tagName === 'body') {
      return parent ? textBefore(parent, at, headings) : '';
    }
    const text = textBefore(parent, at, headings);
    if (text) return text;
    at = parent;
  }
  return '';
}

/** Lists of links and tables before a control are no name for it. */
const NO_LABELS = new Set(['nav', 'ul', 'ol', 'menu', 'table', 'header', 'aside', 'article', 'iframe']);

/** @param headings whether a heading may name it; it mostly names the form */
function textBefore(parent: Element, child: Element, headings: boolean): string {
  const siblings = childrenOf(parent);
  let text = '';
  const place = childPlaces(parent).places.get(child) ?? 0;
  for (let i = place - 1; i >= Math.max(0, place - MOST_BEFORE) && text.length < 2000; i -= 1) {
    const node = siblings[i]!;
    if (isElement(node)) {
      if (CONTROLS.has(node.tagName) || holdsControl(node)) break;
      if (text.trim() !== '' && PARTING.has(node.tagName)) break;
      if (node.tagName === 'hr' || NO_LABELS.has(node.tagName)) break;
      if (!headings && HEADINGS.has(node.tagName)) break;
      if (!UNSPOKEN.has(node.tagName) && !isIcon(node)) text = `${textOf(node)} ${text}`;
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
