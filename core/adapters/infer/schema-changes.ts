import type { FieldType } from '../../schema/index.ts';
import { fold } from '../../values/index.ts';
import type { AdapterSchemaChanges, AddFieldOperation, AddOptionOperation, NamedKind } from '../document.ts';
import { pointerOf } from '../pointer.ts';
import type { Guess } from './listing.ts';
import type { Described } from './operations.ts';
import { shapeOf, type Shape } from './shape.ts';

/** What APIs call the kinds of fields, folded. */
const KINDS: [FieldType, string[]][] = [
  ['text', ['text', 'string', 'short text', 'varchar', 'line']],
  ['long text', ['long text', 'textarea', 'multiline', 'paragraph', 'memo']],
  ['integer', ['integer', 'int', 'whole number']],
  ['number', ['number', 'decimal', 'float', 'double', 'numeric']],
  ['yes/no', ['yes no', 'boolean', 'bool', 'checkbox', 'flag']],
  ['date', ['date', 'day']],
  ['date and time', ['date and time', 'datetime', 'date time', 'timestamp']],
  ['option', ['choice', 'option', 'enum', 'select', 'single choice', 'dropdown', 'radio']],
  ['options', ['choices', 'options', 'multi select', 'multiple choice', 'multiselect', 'checkboxes', 'set']],
  ['email', ['email', 'e mail']],
  ['phone', ['phone', 'telephone', 'tel']],
];

const folded = (name: string): string => fold(name.replaceAll(/([a-z])([A-Z])/g, '$1 $2').replaceAll('_', ' '));

function propertyOf({ properties }: Shape, names: readonly string[]): [at: string, shape: Shape] | undefined {
  for (const wanted of names)
    for (const [name, schema] of properties) if (folded(name) === wanted) return [pointerOf(name), shapeOf(schema)];
  return undefined;
}

const LIMITS = ['max bytes', 'max length', 'maximum length', 'length', 'size'];

/** How a field is added: what takes a name, a kind of which we know some, and maybe options. */
function addFieldIn(operations: readonly Described[]): AddFieldOperation | undefined {
  for (const { method, path, body } of operations) {
    if (method !== 'post' || !body || !/\/(?:custom[-_]?)?(?:fields|properties|attributes)$/i.test(path)) continue;
    const name = propertyOf(body, ['name', 'key', 'id']);
    const kind = propertyOf(body, ['kind', 'type', 'field type', 'data type']);
    const entity = propertyOf(body, ['entity', 'object', 'resource', 'collection']);
    const inPath = /\{[^{}]+\}\/[^/]+$/.exec(path);
    if (!name || !kind || (!entity && !inPath)) continue;
    const kinds = (kind[1].options ?? []).flatMap((value): NamedKind[] => {
      const type = KINDS.find(([, names]) => names.includes(folded(value)))?.[0];
      return type ? [{ type, value }] : [];
    });
    if (kinds.length === 0) continue;
    const label = propertyOf(body, ['label', 'title', 'display name']);
    const options = propertyOf(body, ['options', 'choices', 'values', 'enum']);
    const limit = propertyOf(body, LIMITS);
    const most = limit?.[1].source['maximum'];
    return {
      method: 'POST',
      path: entity ? path : path.replace(/\{[^{}]+\}(?=\/[^/]+$)/, '{entity}'),
      ...(entity ? { entity: entity[0] } : {}),
      name: name[0],
      ...(label ? { label: label[0] } : {}),
      kind: kind[0],
      ...(options ? { options: options[0] } : {}),
      ...(limit ? { limit: limit[0] } : {}),
      ...(typeof most === 'number' && Number.isInteger(most) && most > 0 ? { mostLimit: most } : {}),
      ...(limit && /bytes/i.test(limit[0]) ? { inBytes: true } : {}),
      kinds,
    };
  }
  return undefined;
}

/** How an option is added: under a field, by its value. */
function addOptionIn(operations: readonly Described[]): AddOptionOperation | undefined {
  for (const { method, path, body } of operations) {
    // The entity and its field, in this order, and nothing else that would have to be known.
    const under = /^([^{}]*)\{[^{}]+\}([^{}]*)\{[^{}]+\}(\/(?:options|choices|values))$/i.exec(path);
    if (method !== 'post' || !body || !under) continue;
    const value = propertyOf(body, ['option', 'value', 'name', 'choice', 'key']);
    if (!value) continue;
    const label = propertyOf(body, ['label', 'title']);
    return {
      method: 'POST',
      path: `${under[1]}{entity}${under[2]}{field}${under[3]}`,
      value: value[0],
      ...(label ? { label: label[0] } : {}),
    };
  }
  return undefined;
}

/** What of a system's schema can be changed from outside, as its operations show; undefined: nothing is seen. */
export function schemaChangesOf(operations: readonly Described[]): Guess<AdapterSchemaChanges> | undefined {
  const addField = addFieldIn(operations);
  const addOption = addOptionIn(operations);
  if (!addField && !addOption) return undefined;
  const said = [addField && `POST ${addField.path} takes fields`, addOption && `POST ${addOption.path} takes options`];
  return {
    value: { ...(addOption ? { addOption } : {}), ...(addField ? { addField } : {}) },
    why: said.filter(Boolean).join(', '),
    sure: 0.8,
  };
}
