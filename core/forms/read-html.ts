import {
  attribute,
  childrenOf,
  closest,
  isElement,
  parsePage,
  textOf,
  tidyLabel,
  type Element,
  type Page,
} from './html-tree.ts';
import { groupLabelOf, labelOf, plainLabelOf, sectionOf } from './labels.ts';
import type { FormField, FormOption, InputType, ReadForm } from './model.ts';
import { placeName } from './same-name.ts';
import { holdsCard, isPassword } from './secrets.ts';
import { NamesOfForm } from './unnamed.ts';

/**
 * Finds the forms of a page and what each of their fields sends (HTML Living Standard, 4.10 Forms).
 * @param html the page or a part of it, however broken; nothing in it is executed
 * @returns the forms in document order; controls outside any form make one of their own, named ''
 */
export function readForms(html: string): ReadForm[] {
  const page = parsePage(html);
  const labelsFor = new Map<string, Element>();
  for (const element of page.elements) {
    const target = element.tagName === 'label' ? attribute(element, 'for') : undefined;
    if (target !== undefined && !labelsFor.has(target)) labelsFor.set(target, element);
  }
  const owned = new Map<Element | undefined, Element[]>();
  for (const element of page.elements) {
    if (element.tagName === 'form') owned.set(element, owned.get(element) ?? []);
    if (!['input', 'select', 'textarea', 'button'].includes(element.tagName)) continue;
    if (closest(element, 'template')) continue;
    const owner = ownerOf(element, page);
    const controls = owned.get(owner);
    if (controls) controls.push(element);
    else owned.set(owner, [element]);
  }
  const forms: ReadForm[] = [];
  for (const [form, controls] of owned) {
    const read = readForm(form, controls, page, labelsFor);
    if (form || read.fields.length > 0) forms.push(read);
  }
  return forms;
}

function ownerOf(control: Element, page: Page): Element | undefined {
  const id = attribute(control, 'form');
  const named = id === undefined ? undefined : page.byId.get(id);
  return named?.tagName === 'form' ? named : closest(control, 'form');
}

function readForm(
  form: Element | undefined,
  controls: Element[],
  page: Page,
  labelsFor: Map<string, Element>,
): ReadForm {
  const fields = new Map<string, FormField>();
  const left: ReadForm['left'] = [];
  const names = namesOf(controls, labelsFor);
  const groups = groupByName(controls, names);
  for (const control of controls) {
    const name = names.get(control) ?? '';
    const label = labelOf(control, page, labelsFor);
    const reason = reasonToLeave(control, name, label);
    if (reason !== undefined) {
      if (reason !== '' && left.length < MOST_LEFT)
        left.push({ name: name.slice(0, LONGEST_NAME), label: label || name.slice(0, LONGEST_NAME), reason });
      continue;
    }
    if (fields.has(name)) continue;
    if (fields.size >= MOST_FIELDS) {
      left.push({ name, label: label || name, reason: `the form has more than ${MOST_FIELDS} fields` });
      break;
    }
    const group = groups.get(name) ?? [control];
    for (const field of readGroup(group, name, page, labelsFor)) fields.set(field.name, field);
  }
  const method = (form && attribute(form, 'method')?.toLowerCase()) === 'post' ? 'post' : 'get';
  return {
    name: form ? formNameOf(form).slice(0, LONGEST_NAME) : '',
    action: (form && attribute(form, 'action')) ?? '',
    method,
    fields: [...fields.values()],
    left,
  };
}

const formNameOf = (form: Element): string =>
  attribute(form, 'name') || attribute(form, 'id') || tidyLabel(attribute(form, 'aria-label') ?? '');

/** Fields that are read of one form; what an intake takes in is less. */
const MOST_FIELDS = 3000;
/** Characters of a name that an intake takes in, of a field and of a form. */
const LONGEST_NAME = 500;
/** Controls that are named as left out; of more nobody reads. */
const MOST_LEFT = 300;
/** Options that a field may have. */
const MOST_OPTIONS = 5000;

/** What each control is sent as: its own name, else one made for it; buttons that have none are never sent. */
function namesOf(controls: readonly Element[], labelsFor: Map<string, Element>): Map<Element, string> {
  const names = new Map<Element, string>();
  for (const control of controls) {
    const name = attribute(control, 'name');
    if (name) names.set(control, name);
  }
  const all = new NamesOfForm(names.values());
  for (const control of controls) {
    const type = inputType(control);
    if (names.has(control) || NEVER_NAMED.has(type)) continue;
    const id = attribute(control, 'id') ?? '';
    names.set(control, all.nameFor({ id, label: plainLabelOf(control, labelsFor), type }));
  }
  return names;
}

/** What a script can't have meant to send: buttons, secrets, and what holds no value of the visitor's. */
const NEVER_NAMED = new Set(['submit', 'button', 'reset', 'image', 'password', 'hidden', 'file']);

function groupByName(controls: Element[], names: Map<Element, string>): Map<string, Element[]> {
  const groups = new Map<string, Element[]>();
  for (const control of controls) {
    const name = names.get(control);
    if (!name) continue;
    const group = groups.get(name);
    if (group) group.push(control);
    else groups.set(name, [control]);
  }
  return groups;
}

const CARD_TOKENS = /^cc-(number|csc|exp)/;
/** Why a control is left out; '' for controls that send nothing and deserve no word; undefined to take it in. */
function reasonToLeave(control: Element, name: string, label: string): string | undefined {
  const type = inputType(control);
  if (control.tagName === 'button' || type === 'submit' || type === 'image' || type === 'button' || type === 'reset') {
    const sends = name !== '' && attribute(control, 'value') !== undefined && type !== 'reset' && type !== 'button';
    return sends ? undefined : '';
  }
  if (type === 'password' || (type !== 'hidden' && [name, label].some(isPassword)))
    return 'a password is never taken in';
  if (CARD_TOKENS.test(attribute(control, 'autocomplete') ?? '') || [name, label].some(holdsCard)) {
    return 'card data is never taken in';
  }
  if (name.length > LONGEST_NAME) return `its name has more than ${LONGEST_NAME} characters`;
  if (name === '') return `it has no name, so nothing sends ${type === 'file' ? 'its file' : 'it'}`;
  const told = [attribute(control, 'name'), attribute(control, 'id'), label].some(Boolean);
  if (!told) return 'it has no name, no id and no label, so nothing tells what it is for';
  if (attribute(control, 'disabled') !== undefined)
    return 'it is switched off on the page, so a browser does not send it';
  return undefined;
}

function inputType(control: Element): string {
  if (control.tagName === 'button') return (attribute(control, 'type') ?? 'submit').toLowerCase();
  return control.tagName === 'input' ? (attribute(control, 'type') ?? 'text').toLowerCase() : control.tagName;
}

/** Fields of one name: one, or several where a visitor fills in several inputs that are called otherwise. */
function readGroup(group: Element[], name: string, page: Page, labelsFor: Map<string, Element>): FormField[] {
  const whole = (): FormField[] => [readField(group, name, labelOf(group[0]!, page, labelsFor), page, labelsFor)];
  if (group.length === 1 || name.endsWith('[]') || !group.every(isWritten)) return whole();
  const labels = group.map((control) => labelOf(control, page, labelsFor));
  if (new Set(labels).size < group.length || group.length > MOST_PLACES) {
    const [field] = whole();
    return [{ ...field!, multiple: true }];
  }
  return group.map((control, at) => ({
    ...readField([control], placeName(name, at + 1), labels[at]!, page, labelsFor),
    place: at + 1,
  }));
}

/** Inputs of one name that are told apart by their places. */
const MOST_PLACES = 20;

/** What a browser sends always, blank or not, so that it keeps its place among others of the same name. */
const isWritten = (control: Element): boolean =>
  !['checkbox', 'radio', 'button', 'submit', 'image', 'file', 'hidden'].includes(inputType(control)) &&
  attribute(control, 'multiple') === undefined &&
  attribute(control, 'disabled') === undefined;

function readField(
  group: Element[],
  name: string,
  ownLabel: string,
  page: Page,
  labelsFor: Map<string, Element>,
): FormField {
  const first = group[0]!;
  const type = inputType(first);
  const field: FormField = { name, label: ownLabel || name, type: 'text', required: group.some(isRequired) };
  if (!attribute(first, 'name')) field.byScript = true;
  const section = sectionOf(first, page);
  if (section && section !== field.label) field.section = section;
  const repeated = /^([^[\].]+)(?:\[\d*\]|\.\d+)(?:\[|\.)/.exec(name);
  if (repeated) field.group = repeated[1]!;
  if (name.endsWith('[]')) field.multiple = true;
  if (type === 'button' || type === 'submit' || type === 'image') readButtons(field, group, type);
  else if (type === 'radio' || (type === 'checkbox' && (group.length > 1 || name.endsWith('[]')))) {
    readChoices(field, group, page, labelsFor, type === 'checkbox');
  } else if (type === 'checkbox') {
    field.type = 'yes/no';
    field.initial = attribute(first, 'value') ?? 'on';
  } else if (type === 'select') readSelect(field, first);
  else readText(field, first, type);
  const token = attribute(first, 'autocomplete')?.trim().toLowerCase();
  if (token && token !== 'on' && token !== 'off') field.autocomplete = token;
  return field;
}

const isRequired = (control: Element): boolean =>
  attribute(control, 'required') !== undefined || attribute(control, 'aria-required') === 'true';

function readButtons(field: FormField, group: Element[], type: string): void {
  field.type = 'option';
  field.options = group.map((button) => {
    const value = attribute(button, 'value') ?? '';
    return { value, label: (button.tagName === 'button' && textOf(button)) || value };
  });
  if (type !== 'image') field.label = field.name;
}

function readChoices(
  field: FormField,
  group: Element[],
  page: Page,
  labelsFor: Map<string, Element>,
  several: boolean,
): void {
  field.type = several ? 'options' : 'option';
  if (several) field.multiple = true;
  field.options = group.slice(0, MOST_OPTIONS).map((control) => {
    const value = attribute(control, 'value') ?? 'on';
    return { value, label: labelOf(control, page, labelsFor) || value };
  });
  field.label = groupLabelOf(group[0]!, page) || field.name.replace(/\[\]$/, '');
}

function readSelect(field: FormField, select: Element): void {
  const several = attribute(select, 'multiple') !== undefined;
  field.type = several ? 'options' : 'option';
  if (several) field.multiple = true;
  const options: FormOption[] = [];
  const pending = childrenOf(select).filter(isElement).reverse();
  while (pending.length > 0) {
    const element = pending.pop()!;
    if (element.tagName === 'optgroup') pending.push(...childrenOf(element).filter(isElement).reverse());
    if (element.tagName !== 'option') continue;
    const label = tidyLabel(textOf(element) || attribute(element, 'label') || '');
    const value = attribute(element, 'value') ?? label;
    // An empty first entry is a prompt ("please choose"), not an option.
    if (value === '') continue;
    const group = closest(element, 'optgroup');
    const heading = group && attribute(group, 'label');
    options.push(heading ? { value, label: label || value, group: heading } : { value, label: label || value });
  }
  field.options = options.slice(0, MOST_OPTIONS);
}

const INPUTS: Record<string, InputType> = {
  email: 'email',
  tel: 'phone',
  url: 'web address',
  number: 'number',
  range: 'number',
  date: 'date',
  time: 'time',
  'datetime-local': 'date and time',
  file: 'file',
  textarea: 'long text',
};

const INPUT_MODES: Record<string, InputType> = { email: 'email', tel: 'phone', url: 'web address', decimal: 'number' };

function readText(field: FormField, control: Element, type: string): void {
  field.type = INPUTS[type] ?? INPUT_MODES[attribute(control, 'inputmode') ?? ''] ?? 'text';
  if (field.type === 'number' && INPUTS[type] === undefined) field.freely = true;
  if (type === 'hidden') field.hidden = true;
  if (attribute(control, 'multiple') !== undefined && type !== 'hidden') field.multiple = true;
  const limit = Number(attribute(control, 'maxlength'));
  if (Number.isInteger(limit) && limit > 0) field.maxLength = limit;
  const settings = {
    min: 'minimum',
    max: 'maximum',
    pattern: 'pattern',
    placeholder: 'placeholder',
    value: 'initial',
  } as const;
  for (const [name, property] of Object.entries(settings)) {
    const value = attribute(control, name);
    if (value) field[property] = value;
  }
}
