import { type AnswerTrouble, type Words } from '@zusammen/core/forms/hosted';
import { idOf } from '@zusammen/core/forms/hosted/view';

/** Shows what is wrong: at each field, and together at the top; the first of them gets the focus. */
export function showErrors(root: HTMLFormElement, errors: readonly AnswerTrouble[], words: Words): void {
  clearErrors(root, []);
  const links: Element[] = [];
  const general: string[] = [];
  for (const { field, message } of errors) {
    const at = placeOf(root, field);
    if (!at) {
      general.push(message);
      continue;
    }
    mark(root, field, message);
    const link = document.createElement('a');
    link.href = `#${idOf(field)}`;
    link.textContent = `${labelOf(at) ?? field}: ${message}`;
    link.addEventListener('click', (event) => {
      event.preventDefault();
      focusOn(root, field);
    });
    links.push(link);
  }
  const summary = root.querySelector<HTMLElement>('#summary')!;
  const line = document.createElement('p');
  line.textContent = general[0] ?? words.errors(errors.length);
  summary.replaceChildren(line, ...(links.length > 1 ? links : []));
  summary.hidden = false;
  const first = errors.find(({ field }) => placeOf(root, field));
  if (first) focusOn(root, first.field);
  else summary.focus();
}

/** Takes away the words at fields that are right now. @param left what is still wrong; nothing new is marked */
export function clearErrors(root: HTMLFormElement, left: readonly AnswerTrouble[]): void {
  const still = new Set(left.map(({ field }) => field));
  let any = false;
  for (const place of root.querySelectorAll<HTMLElement>('[data-q], [data-group]')) {
    const name = place.dataset['q'] ?? place.dataset['group']!;
    const words = wrongOf(root, name);
    if (!words || words.hidden) continue;
    if (still.has(name)) {
      any = true;
      continue;
    }
    words.hidden = true;
    words.textContent = '';
    for (const control of controlsOf(place)) control.removeAttribute('aria-invalid');
  }
  const summary = root.querySelector<HTMLElement>('#summary')!;
  if (!any) summary.hidden = true;
}

function mark(root: HTMLFormElement, name: string, message: string): void {
  const place = placeOf(root, name)!;
  const words = wrongOf(root, name);
  if (!words) return;
  words.textContent = message;
  words.hidden = false;
  for (const control of controlsOf(place)) {
    control.setAttribute('aria-invalid', 'true');
    const described = (control.getAttribute('aria-describedby') ?? '')
      .split(' ')
      .filter((id) => id !== '' && id !== words.id);
    control.setAttribute('aria-describedby', [...described, words.id].join(' '));
  }
}

/** What is told to be wrong: the control of a question, or the whole of a choice or a group. */
const controlsOf = (place: HTMLElement): HTMLElement[] =>
  place.tagName === 'FIELDSET' ? [place] : [...place.querySelectorAll<HTMLElement>('input, select, textarea')];

/** What a question or group is called, without the mark that it is required. */
function labelOf(place: HTMLElement): string | null | undefined {
  // Of a consent the label holds its box and its words.
  const label = place.querySelector('label, legend');
  return (label?.querySelector('span') ?? label)?.firstChild?.textContent;
}

const placeOf = (root: HTMLFormElement, name: string): HTMLElement | null =>
  name === ''
    ? null
    : root.querySelector<HTMLElement>(`[data-q="${CSS.escape(name)}"], [data-group="${CSS.escape(name)}"]`);

const wrongOf = (root: HTMLFormElement, name: string): HTMLElement | null =>
  root.querySelector<HTMLElement>(`#${idOf(name)}-wrong`);

function focusOn(root: HTMLFormElement, name: string): void {
  const place = placeOf(root, name);
  const control = place?.querySelector<HTMLElement>('input:not([type=hidden]), select, textarea') ?? place;
  control?.focus();
  place?.scrollIntoView({ block: 'center' });
}
