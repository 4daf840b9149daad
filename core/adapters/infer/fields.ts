import type { FieldType } from '../../schema/index.ts';
import type { FieldAdapter, ValueForm } from '../document.ts';
import { pointerOf } from '../pointer.ts';
import { labelOf, plain } from './names.ts';
import { leavesOf, shapeOf, type Leaf, type Shape } from './shape.ts';
import type { Guess } from './listing.ts';

/** What stands around all values of a record and names none of them. */
const WRAPPERS = new Set(['attributes', 'properties', 'fields', 'values']);

const LINKS = new Set(['links', '_links', '@links']);

/** What is the same in every record: `type` in JSON:API. */
export const isConstant = ({ at, shape }: Leaf): boolean =>
  shape.options?.length === 1 && /^(?:type|kind|object|class|resourceType|_type|@type)$/.test(at.at(-1)!);

/** A field as it is called here: without the wrapper that all stand in. */
const nameOf = (at: readonly string[]): string =>
  (at.length > 1 && WRAPPERS.has(at[0]!) ? at.slice(1) : at).join('.').slice(0, 255);

const FORMATS: Record<string, FieldType> = {
  date: 'date',
  'date-time': 'date and time',
  datetime: 'date and time',
  time: 'time',
  duration: 'duration',
  email: 'email',
  'idn-email': 'email',
  uri: 'web address',
  url: 'web address',
  phone: 'phone',
  tel: 'phone',
};

const DAY_FORMS: ReadonlySet<string> = new Set([
  'day.month.year',
  'day/month/year',
  'month/day/year',
] satisfies ValueForm[]);

/** The kind of a value by its schema, and by its name where the schema says nothing. */
function typeOf(shape: Shape, name: string): { type: FieldType; form?: ValueForm; why: string; sure: number } {
  const { types, options, format = '', items } = shape;
  if (types.has('array')) {
    const element = shapeOf(items);
    const numbers = element.types.has('integer') || element.types.has('number');
    return { type: 'options', ...(numbers ? { form: 'number' as const } : {}), why: 'it is a list', sure: 0.95 };
  }
  if (types.has('boolean')) return { type: 'yes/no', why: 'it is true or false', sure: 0.98 };
  if (options !== undefined && options.length > 1) {
    const numbers = types.has('integer') || types.has('number');
    return {
      type: 'option',
      ...(numbers ? { form: 'number' as const } : {}),
      why: `it is one of ${options.length}`,
      sure: 0.97,
    };
  }
  const stamp = /(?:_at|At|timestamp|_time|Time|_on|date)$/.test(name);
  if (
    (types.has('integer') || types.has('number')) &&
    (format === 'unix-time' || format === 'timestamp' || (stamp && format === 'int64'))
  )
    return {
      type: 'date and time',
      form: format === 'int64' ? 'milliseconds' : 'seconds',
      why: 'its name and its number say that it is a moment',
      sure: 0.5,
    };
  if (types.has('integer')) return { type: 'integer', why: 'it is a whole number', sure: 0.97 };
  if (types.has('number')) return { type: 'number', why: 'it is a number', sure: 0.97 };
  if (DAY_FORMS.has(format))
    return { type: 'date', form: format as ValueForm, why: `days are written as ${format}`, sure: 0.8 };
  const said = FORMATS[format];
  if (said) return { type: said, why: `its format is ${format}`, sure: 0.98 };
  const word = plain(name);
  if (/e-?mail(?:address)?$/.test(word)) return { type: 'email', why: 'its name says so', sure: 0.8 };
  if (/(?:phone|mobile|telephone|fax)(?:number)?$/.test(word))
    return { type: 'phone', why: 'its name says so', sure: 0.8 };
  if (/(?:website|homepage|webaddress)$/.test(word)) return { type: 'web address', why: 'its name says so', sure: 0.7 };
  const long = (shape.maxLength ?? 0) > 500 || /^(?:notes?|description|comments?|body|message|text)$/.test(word);
  return {
    type: long ? 'long text' : 'text',
    why: types.has('string') ? 'it is a text' : 'nothing is said of its type',
    sure: types.has('string') ? 0.95 : 0.4,
  };
}

/** A limit in bytes, as descriptions state it. */
const bytesIn = (description = ''): number | undefined => {
  const said = /(\d{1,6})[ -]?bytes?\b/i.exec(description.slice(0, 2_000))?.[1];
  return said === undefined || Number(said) === 0 ? undefined : Number(said);
};

export interface FieldGuess extends Guess<FieldAdapter> {
  leaf: Leaf;
}

/**
 * The fields of a record.
 * @param record what reading shows, @param create and @param update what may be written, where that is said
 * @param listed what a list shows of it
 * @param constants places of what is the same in all records and says what kind of thing they are
 */
export function fieldsOf(
  record: Shape,
  create: Shape | undefined,
  update: Shape | undefined,
  constants: ReadonlySet<string> = new Set(),
  listed?: Shape,
): FieldGuess[] {
  const made = create && leavesByName(create);
  const changed = update && leavesByName(update);
  const shown = leavesByName(record);
  // Many tell more of a field than one alone, where nothing but samples does.
  for (const [name, { shape }] of listed ? leavesByName(listed) : []) {
    const leaf = shown.get(name);
    if (leaf && leaf.shape.options === undefined && shape.options !== undefined)
      shown.set(name, { ...leaf, shape: { ...leaf.shape, options: shape.options } });
  }
  // What may be written and isn't shown is a field as well, unless it never comes back.
  for (const [name, leaf] of made ?? []) if (!shown.has(name) && !leaf.shape.writeOnly) shown.set(name, leaf);
  return [...shown].flatMap(([name, leaf]): FieldGuess[] => {
    // Where a record is, and what kind of thing it is, are no values of it.
    const said = LINKS.has(leaf.at[0]!) || isConstant(leaf) || constants.has(pointerOf(...leaf.at));
    if (leaf.shape.writeOnly || said) return [];
    const inCreate = made?.get(name);
    const inUpdate = changed?.get(name);
    const shape = inCreate ? merged(leaf.shape, inCreate.shape) : leaf.shape;
    const { type, form, why, sure } = typeOf(shape, name);
    const known = made !== undefined || changed !== undefined;
    const readOnly = leaf.shape.readOnly || (known && !inCreate && !inUpdate);
    const element = shape.types.has('array') ? shapeOf(shape.items) : shape;
    const maxBytes = bytesIn(shape.description);
    const label = (shape.title ?? labelOf(name)).slice(0, 255);
    const options = type === 'option' || type === 'options' ? element.options?.slice(0, 10_000) : undefined;
    const scale =
      shape.multipleOf !== undefined && shape.multipleOf > 0 && shape.multipleOf < 1
        ? Math.round(-Math.log10(shape.multipleOf))
        : undefined;
    return [
      {
        leaf,
        why,
        sure,
        value: {
          name,
          label,
          type,
          at: pointerOf(...leaf.at),
          ...(form === undefined ? {} : { form }),
          ...(inCreate?.required && !readOnly && !inCreate.shape.hasDefault ? { required: true } : {}),
          ...(readOnly ? { readOnly } : {}),
          ...(!readOnly && made !== undefined && changed !== undefined && inCreate && !inUpdate
            ? { onCreate: true }
            : {}),
          ...(shape.hasDefault ? { defaulted: true } : {}),
          ...(shape.maxLength === undefined || maxBytes !== undefined ? {} : { maxLength: shape.maxLength }),
          ...(maxBytes === undefined ? {} : { maxBytes }),
          ...(scale === undefined ? {} : { scale }),
          ...(options === undefined ? {} : { options: options.map((value) => ({ value, label: value })) }),
        },
      },
    ];
  });
}

const leavesByName = (shape: Shape): Map<string, Leaf> =>
  new Map(leavesOf(shape).map((leaf) => [nameOf(leaf.at), leaf]));

/** What writing asks for is the stricter; what reading shows may say more of what it is. */
const merged = (shown: Shape, written: Shape): Shape => ({
  ...shown,
  ...written,
  types: shown.types.size > 0 ? shown.types : written.types,
  ...(written.title === undefined && shown.title !== undefined ? { title: shown.title } : {}),
  ...(written.options === undefined && shown.options !== undefined ? { options: shown.options } : {}),
});
