import type { FieldType, Option } from '../schema/index.ts';
import { fieldNameFor } from '../definitions/index.ts';
import type {
  AdapterDocument,
  AddFieldOperation,
  AddOptionOperation,
  EntityAdapter,
  FieldAdapter,
} from './document.ts';
import { pointerOf, put, tokensOf } from './pointer.ts';

/** A field that is to be made. */
export interface NewField {
  /** Its name there, where that is settled already. */
  name?: string;
  label: string;
  type: FieldType;
  options?: Option[];
  /** The longest value that it should hold, in characters, where there is a limit. */
  maxLength?: number;
}

/** What a kind of field may be made as where a system doesn't have it: the first that it has. */
const NEAREST: Partial<Record<FieldType, FieldType[]>> = {
  email: ['text'],
  phone: ['text'],
  'web address': ['text'],
  'long text': ['text'],
  integer: ['number', 'text'],
  number: ['text'],
  'yes/no': ['text'],
  date: ['text'],
  'date and time': ['text'],
  time: ['text'],
  duration: ['text'],
  option: ['text'],
  options: ['text'],
  id: ['text'],
  reference: ['text'],
};

/** What a system would make a field as; undefined: it has nothing that could hold such values. */
export function kindFor({ kinds }: Pick<AddFieldOperation, 'kinds'>, type: FieldType) {
  for (const each of [type, ...(NEAREST[type] ?? [])]) {
    const kind = kinds.find((known) => known.type === each);
    if (kind) return kind;
  }
  return undefined;
}

/** The path of a change, with what it is about in it. */
export const pathOfChange = (path: string, entity: string, field = ''): string =>
  path.replaceAll('{entity}', encodeURIComponent(entity)).replaceAll('{field}', encodeURIComponent(field));

/** What is sent to add an option. */
export function bodyOfOption({ value, label }: AddOptionOperation, option: Option): unknown {
  const body = put({}, value, option.value);
  return label === undefined ? body : put(body, label, option.label);
}

/** The field as the system would make it, and what is sent for that. @returns why it can't hold such values, in words */
export function madeField(
  operation: AddFieldOperation,
  entity: EntityAdapter,
  { name: settled, label, type, options, maxLength }: NewField,
): { field: FieldAdapter; body: unknown } | string {
  const kind = kindFor(operation, type);
  if (!kind) return `It has no kind of field that could hold ${type}.`;
  const taken = entity.fields.map((field) => field.name);
  const name = settled ?? fieldNameFor(label, taken);
  const chosen = kind.type === 'option' || kind.type === 'options';
  if (chosen && !options?.length) return 'A field that is chosen from options needs some.';
  const limited = operation.limit !== undefined && kind.type === 'text';
  const limit = Math.min(maxLength ?? Infinity, operation.mostLimit ?? Infinity);
  const field: FieldAdapter = {
    ...{ name, label, type: kind.type, at: pointerOf(...besideOthers(entity), name) },
    ...(chosen ? { options: (options ?? []).map((option) => ({ ...option })) } : {}),
    ...(limited && Number.isFinite(limit) ? { [operation.inBytes ? 'maxBytes' : 'maxLength']: limit } : {}),
  };
  let body = put({}, operation.name, name);
  const add = (at: string | undefined, value: unknown): void => {
    if (at !== undefined && value !== undefined) body = put(body, at, value);
  };
  add(operation.entity, entity.name);
  add(operation.label, label);
  add(operation.kind, kind.value);
  if (chosen)
    add(
      operation.options,
      (options ?? []).map(({ value }) => value),
    );
  if (limited && Number.isFinite(limit)) add(operation.limit, limit);
  return { field, body };
}

/** What most fields of an entity stand in, within its record. */
function besideOthers({ fields, key }: EntityAdapter): string[] {
  const counts = new Map<string, number>();
  for (const { name, at } of fields) {
    const around = pointerOf(...tokensOf(at).slice(0, -1));
    if (!key.includes(name)) counts.set(around, (counts.get(around) ?? 0) + 1);
  }
  const [most] = [...counts].sort((a, b) => b[1] - a[1]);
  return most ? [...tokensOf(most[0])] : [];
}

const within = (
  document: AdapterDocument,
  entity: string,
  change: (known: EntityAdapter) => EntityAdapter,
): AdapterDocument => ({
  ...document,
  entities: document.entities.map((each) => (each.name === entity ? change(each) : each)),
});

/** The adapter of a system in which a field has options more. */
export const withOptions = (document: AdapterDocument, entity: string, field: string, added: readonly Option[]) =>
  within(document, entity, (known) => ({
    ...known,
    fields: known.fields.map((each) => {
      if (each.name !== field || !each.options) return each;
      const fresh = added.filter(({ value }) => !each.options!.some((option) => option.value === value));
      return { ...each, options: [...each.options, ...fresh.map((option) => ({ ...option }))] };
    }),
  }));

/** The adapter of a system in which an entity has a field more; where only some may be written, it is one of them. */
export const withField = (document: AdapterDocument, entity: string, field: FieldAdapter) =>
  within(document, entity, (known) => {
    const writing = <Of extends { fields?: string[] } | undefined>(operation: Of): Of =>
      operation?.fields ? { ...operation, fields: [...operation.fields, field.name] } : operation;
    const { create, update } = known;
    return {
      ...known,
      fields: [...known.fields, field],
      ...(create ? { create: writing(create) } : {}),
      ...(update ? { update: writing(update) } : {}),
    };
  });
