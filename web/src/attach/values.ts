import { holdsCard, isPassword } from '../../../core/forms/secrets.ts';
import { HINT, ICON, NamesOfForm } from '../../../core/forms/unnamed.ts';

/** What a form is asked, whatever its inputs are called: one named `elements` or `checkValidity` hides the form's own. */
export const FORM = HTMLFormElement.prototype;
export const elementsOf = Object.getOwnPropertyDescriptor(FORM, 'elements')!.get as (
  this: HTMLFormElement,
) => HTMLFormControlsCollection;
const unchecked = Object.getOwnPropertyDescriptor(FORM, 'noValidate')!.get as (this: HTMLFormElement) => boolean;

/** A form the browser itself would not send isn't copied; one that switches its checks off is taken at its word. */
export const valid = (form: HTMLFormElement): boolean => unchecked.call(form) || FORM.checkValidity.call(form);

const SECRET = /^cc-|(^|[\s-])(password|one-time-code)/;

/** What is never sent, whatever a page does with it; by its kind, its token, its name or its label. */
const isSecret = (control: Control): boolean =>
  control.type === 'password' ||
  SECRET.test(control.autocomplete ?? '') ||
  [control.name, labelOf(control)].some((said) => holdsCard(said) || isPassword(said));

type Control = HTMLInputElement | HTMLSelectElement | HTMLTextAreaElement;

export const controlsIn = (holder: ParentNode): Control[] =>
  Array.from(holder.querySelectorAll<Control>('input, select, textarea'));

/** What the form sends, but for secrets and files; then what its page's script alone would send. */
export function valuesOf(form: HTMLFormElement, submitter: HTMLElement | null): [string, string][] {
  const controls = Array.from(elementsOf.call(form)).filter(
    (each): each is Control => !(each instanceof HTMLButtonElement) && 'value' in each,
  );
  const secret = new Set(controls.filter(isSecret).map(({ name }) => name));
  const pairs: [string, string][] = [];
  new FormData(form).forEach((value, name) => {
    if (typeof value === 'string' && !secret.has(name)) pairs.push([name, value]);
  });
  const { name, value } = (submitter ?? {}) as { name?: string; value?: string };
  if (name) pairs.push([name, value ?? '']);
  return [...pairs, ...unnamedAmong(controls, false)];
}

/** Kinds that hold nothing a copy could carry. */
const NEVER_SENT = /^(?:submit|button|reset|image|password|file)$/;

/**
 * What controls without a name hold, each under the name that the page reader gives it.
 * @param all whether those with a name are meant too: no browser sends them where no form is
 */
export function unnamedAmong(controls: readonly Control[], all: boolean): [string, string][] {
  const names = new NamesOfForm(controls.map(({ name }) => name).filter(Boolean));
  return controls.flatMap((control): [string, string][] => {
    const { type, name } = control;
    const kind = control instanceof HTMLInputElement ? type : control.tagName.toLowerCase();
    if (NEVER_SENT.test(kind) || (name ? !all : kind === 'hidden')) return [];
    const called = name || names.nameFor({ id: control.id, label: labelOf(control), type: kind });
    if (control.disabled || isSecret(control)) return [];
    if (control instanceof HTMLInputElement && /^(?:checkbox|radio)$/.test(type))
      return control.checked ? [[called, control.value]] : [];
    if (control instanceof HTMLSelectElement)
      return Array.from(control.selectedOptions, ({ value }): [string, string] => [called, value]);
    return [[called, control.value]];
  });
}

/** What a control says of itself, as the page reader reads it: spoken label, label, the label before it, placeholder, title. */
function labelOf(control: Control): string {
  const tied = control.labels?.[0];
  return (
    tidy(control.getAttribute('aria-label') ?? '') ||
    (tied ? textOf(tied) : '') ||
    labelBefore(control) ||
    tidy(control.getAttribute('placeholder') ?? '') ||
    tidy(control.title)
  );
}

function labelBefore(control: Element): string {
  for (const at of [control, control.parentElement]) {
    const before = at?.previousElementSibling;
    if (before instanceof HTMLLabelElement && !before.htmlFor) return textOf(before);
  }
  return '';
}

/** A label's own words: without those of controls in it, of icons, and of hints on what to write. */
function textOf(label: Element): string {
  const copy = label.cloneNode(true) as Element;
  copy
    .querySelectorAll(
      'script, style, select, textarea, option, button, template, noscript, datalist, svg, [hidden], [aria-hidden="true"]',
    )
    .forEach((each) => each.remove());
  for (const each of Array.from(copy.querySelectorAll('i, span'))) if (ICON.test(each.className)) each.remove();
  const whole = tidy(copy.textContent ?? '');
  for (const each of Array.from(copy.children))
    if (each.tagName === 'SMALL' || HINT.test(each.className)) each.remove();
  return tidy(copy.textContent ?? '') || whole;
}

/** One space between words, and no colon or asterisk behind them. */
function tidy(text: string): string {
  const tidied = text.replace(/\s+/gu, ' ').trim();
  let end = tidied.length;
  while (end > 0 && ' *:：'.includes(tidied[end - 1]!)) end -= 1;
  return tidied.slice(0, end).trim();
}
