import type { FormField } from '../model.ts';
import { drawnName, fileName } from './files.ts';
import { ASKED_AS, isQuestion } from './kinds.ts';
import type { HostedForm, Item } from './model.ts';
import { shownName, wordingOf } from './answers.ts';
import { mostRows, rowName } from './placed.ts';
import { say } from './say.ts';
import { FEE_FIELDS } from './to-pay.ts';

/** Rows of a group within a group whose fields are told: each is a field of the outer row's record. */
const NESTED_ROWS = 3;

/**
 * The fields that a form of ours sends, as everything else knows fields: suggestions, checks, samples, rehearsal. Of a
 * group those of its first row (core/plans/rows), of one within it those of its first rows.
 */
export function fieldsOf(form: HostedForm): FormField[] {
  const fields: FormField[] = [];
  const language = form.languages[0]!;
  const text = (texts: Item['label'] | undefined): string => say(texts, language, form.languages);
  const add = (items: readonly Item[], around: Around): void => {
    let section = around.section;
    for (const item of items) {
      if (item.kind === 'heading') section = text(item.label);
      if (item.name === undefined) continue;
      const name = around.row === '' ? item.name : `${around.row}[${item.name}]`;
      if (item.kind === 'group') {
        const rows = around.row === '' ? 1 : Math.min(NESTED_ROWS, mostRows(item));
        const within = around.row === '' ? name : around.group;
        for (let row = 0; row < rows; row += 1)
          add(item.items ?? [], {
            ...around,
            section,
            row: rowName(name, row),
            group: within,
            sure: around.sure && (item.leastRows ?? 0) > row,
          });
      } else if (isQuestion(item.kind)) {
        const field = fieldOf(item, item.kind, name, text, around.sure && item.shown === undefined);
        if (around.group !== undefined) field.group = around.group;
        if (section !== '') field.section = section.slice(0, 200);
        fields.push(field);
        if (item.kind === 'consent') fields.push(wordingField(field));
        if (item.reads) fields.push(shownField(field));
        if (item.kind === 'file') fields.push(besideField(field, fileName(name), 'name of the file', 'text'));
        if (item.kind === 'signature') fields.push(besideField(field, drawnName(name), 'as drawn', 'web address'));
      }
    }
  };
  for (const page of form.pages)
    add(page.items, { row: '', group: undefined, section: text(page.title), sure: page.shown === undefined });
  if (form.fee) fields.push(...FEE.map((field) => ({ ...field })));
  return fields;
}

/** What goes on once it is paid. */
const FEE: FormField[] = [
  { name: FEE_FIELDS.amount, label: 'What was paid', type: 'number', required: true, hidden: true },
  { name: FEE_FIELDS.currency, label: 'The currency it was paid in', type: 'text', required: true, hidden: true },
  { name: FEE_FIELDS.payment, label: 'The payment’s number', type: 'text', required: true, hidden: true },
  { name: FEE_FIELDS.paidAt, label: 'When it was paid', type: 'date and time', required: true, hidden: true },
];

/** Where a question stands: in which row of which group, under which heading, and whether it is shown to everybody. */
interface Around {
  row: string;
  group: string | undefined;
  section: string;
  sure: boolean;
}

function fieldOf(
  item: Item,
  kind: keyof typeof ASKED_AS,
  name: string,
  text: (texts: Item['label'] | undefined) => string,
  sure: boolean,
): FormField {
  const field: FormField = {
    name,
    label: text(item.label).slice(0, 1000) || item.name!,
    type: ASKED_AS[kind],
    required: sure && item.required === true,
  };
  if (item.options) field.options = item.options.map(({ value, label }) => ({ value, label: text(label) || value }));
  if (kind === 'yes/no')
    field.options = [
      { value: 'yes', label: 'yes' },
      { value: 'no', label: 'no' },
    ];
  if (kind === 'consent') field.options = [{ value: 'yes', label: 'yes' }];
  if (item.reads) field.record = { system: item.reads.system, entity: item.reads.entity };
  if (item.holds) field.record = item.holds;
  if (kind === 'several of') field.multiple = true;
  if (kind === 'hidden') field.hidden = true;
  if (item.maxLength !== undefined) field.maxLength = item.maxLength;
  if (item.least !== undefined) field.minimum = String(item.least);
  if (item.most !== undefined) field.maximum = String(item.most);
  if (item.autocomplete !== undefined) field.autocomplete = item.autocomplete;
  if (item.begins?.with === 'constant') field.initial = item.begins.value;
  return field;
}

/** How a chosen record was shown goes on with its id, which tells nobody anything. */
const shownField = ({
  name,
  label,
  options: _,
  record: __,
  type: ___,
  multiple: ____,
  ...rest
}: FormField): FormField => ({
  ...rest,
  name: shownName(name),
  label: `${label}, as shown`.slice(0, 1000),
  type: 'text',
  required: false,
  hidden: true,
});

/** What goes on beside an answer. */
const besideField = (
  { name: _, label, options: __, maxLength: ___, autocomplete: ____, ...rest }: FormField,
  name: string,
  what: string,
  type: FormField['type'],
): FormField => ({ ...rest, name, label: `${label}, ${what}`.slice(0, 1000), type, required: false, hidden: true });

/** What somebody consented to goes on with their consent. */
const wordingField = ({ name, label, required, options: _, autocomplete: __, ...rest }: FormField): FormField => ({
  ...rest,
  name: wordingOf(name),
  label: `Wording of: ${label}`.slice(0, 1000),
  type: 'long text',
  required,
  hidden: true,
});
