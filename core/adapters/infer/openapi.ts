import {
  ADAPTER_FORMAT,
  type AdapterDocument,
  type EntityAdapter,
  type FieldAdapter,
  type WriteOperation,
} from '../document.ts';
import { isObject, pointerOf, type Json } from '../pointer.ts';
import type { AdapterReasons, Reason } from '../trial.ts';
import { addressOf, refusalOf, signInOf } from './around.ts';
import { collectionsOf, labelsOf, lastSegment, namesOf, type Collection } from './collections.ts';
import { fieldsOf, isConstant, type FieldGuess } from './fields.ts';
import { changedField, changesOf, findersOf, pagingOf, recordsIn, versionOf, type Guess } from './listing.ts';
import { labelOf, plain, singular } from './names.ts';
import { operationsOf, type Described } from './operations.ts';
import { schemaChangesOf } from './schema-changes.ts';
import { leavesOf, shapeOf, type Leaf, type Shape } from './shape.ts';

/** What was inferred of an API: how it is spoken to, and why. */
export interface Inferred {
  adapter: AdapterDocument;
  reasons: AdapterReasons;
  /** Paths that nothing is made of, and why. */
  unused: { path: string; why: string }[];
}

/** Requests with a system at once where nothing is known of what it takes. */
const PARALLEL = 8;
const MOST_ENTITIES = 300;

/**
 * Infers how an API is spoken to from its description (OpenAPI 3.0 and 3.1).
 * @param document with its references resolved; they may lead round in circles
 * @returns what it isn't possible from, in words
 */
export function inferFromOpenApi(document: unknown, describedAt?: string): Inferred | { words: string } {
  if (!isObject(document) || typeof document['openapi'] !== 'string' || !/^3\.[01]\./.test(document['openapi'])) {
    const swagger = isObject(document) && document['swagger'] !== undefined;
    return {
      words: swagger
        ? 'It is described by an older standard than OpenAPI 3.0, which isn’t read here.'
        : 'It is no OpenAPI 3.0 or 3.1 document.',
    };
  }
  const operations = operationsOf(document);
  if (operations.length === 0) return { words: 'The document describes no paths.' };
  const address = addressOf(document, describedAt);
  if (!address)
    return {
      words: 'The document doesn’t say at which address the API is; read it from where it stands, or give the address.',
    };
  const signIn = signInOf(document, describedAt);
  const refusal = refusalOf(operations);
  const { collections, unused } = collectionsOf(operations);
  const names = namesOf(collections.map(({ path }) => path));
  const labels = labelsOf(document);
  const reasons: AdapterReasons = { address: bare(address), 'sign-in': bare(signIn), refusal: bare(refusal) };
  const changes = schemaChangesOf(operations);
  if (changes) reasons['schema changes'] = bare(changes);
  const entities: EntityAdapter[] = [];
  for (const collection of collections.slice(0, MOST_ENTITIES)) {
    const name = names.get(collection.path)!;
    const found = entityFrom(collection, name, labels);
    if ('why' in found) unused.push({ path: collection.path, why: found.why });
    else {
      entities.push(found.entity);
      for (const [part, reason] of found.reasons) reasons[`${name}/${part}`] = reason;
    }
  }
  if (entities.length === 0)
    return {
      words:
        `None of its ${new Set(operations.map(({ path }) => path)).size} paths lists or makes records. ${unused[0] ? `${unused[0].path}: ${unused[0].why}.` : ''}`.trim(),
    };
  relate(entities, reasons);
  const info = isObject(document['info']) ? document['info'] : {};
  const title =
    typeof info['title'] === 'string' && info['title'].trim() !== ''
      ? info['title'].trim().slice(0, 120)
      : new URL(address.value).hostname;
  return {
    adapter: {
      format: ADAPTER_FORMAT,
      name: title,
      address: address.value,
      ...(describedAt === undefined ? {} : { describedAt }),
      signIn: signIn.value,
      headers: headersOf(document),
      refusal: refusal.value,
      parallel: PARALLEL,
      ...(changes ? { schemaChanges: changes.value } : {}),
      entities,
    },
    reasons,
    unused,
  };
}

/** JSON:API has a media type of its own, and insists on it. */
function headersOf(document: Json): AdapterDocument['headers'] {
  const seen = document['x-seen'];
  if (!isObject(seen) || seen['jsonapi'] !== true) return [];
  return ['Accept', 'Content-Type'].map((name) => ({ name, value: 'application/vnd.api+json' }));
}

const bare = ({ why, sure }: Reason): Reason => ({ why, sure });

function entityFrom(
  { path, list, create, itemPath, read, update, remove }: Collection,
  name: string,
  labels: ReadonlyMap<unknown, string>,
): { entity: EntityAdapter; reasons: Map<string, Reason> } | { why: string } {
  const reasons = new Map<string, Reason>();
  const listing = list?.answer && recordsIn(list.answer, lastSegment(path));
  const single = read?.answer && recordAlone(read.answer, listing?.record);
  const made = create?.answer && recordAlone(create.answer, listing?.record ?? single?.record);
  const record = single?.record ?? listing?.record ?? made?.record ?? create?.body;
  if (!record || leavesOf(record).length === 0) return { why: 'nothing is said of what its records hold' };
  const leaves = new Set(leavesOf(record).map(({ at }) => pointerOf(...at)));
  const creating = create && bodyIn(create, leaves);
  const updating = update && bodyIn(update, leaves);
  const constants = [listing?.record, record].flatMap((shape) => (shape ? leavesOf(shape).filter(isConstant) : []));
  const places = new Set(constants.map(({ at }) => pointerOf(...at)));
  const guesses = fieldsOf(record, creating?.record, updating?.record, places, listing?.record);
  const parameters = [...(itemPath ?? '').matchAll(/\{([^{}/]+)\}/g)].map(([, each]) => each!);
  const key = keyOf(guesses, parameters, name);
  if (!key) return { why: 'nothing in its records names one of them' };
  reasons.set('key', bare(key));
  const fields = guesses.map(({ value, why, sure }) => {
    reasons.set(`fields/${value.name}`, { why, sure });
    return key.value.includes(value.name)
      ? { ...value, required: false, ...(creating?.names.has(value.name) ? {} : { readOnly: true }) }
      : value;
  });
  for (const field of fields) if (!field.required) delete (field as Partial<FieldAdapter>).required;

  // Where nothing is said of what is sent, it is taken to be as what is read.
  const alike = single && !creating && !updating ? { ...single, constants } : undefined;
  const label = labelFrom(record, labels, name);
  const entity: EntityAdapter = { name, label, key: key.value, fields, find: [], repeat: { by: 'none' } };
  if (list) {
    const less = single && listing ? leavesOf(single.record).length > leavesOf(listing.record).length : false;
    listInto(entity, reasons, list, path, listing, less);
  }
  if (read && itemPath !== undefined) {
    entity.read = { path: idPath(itemPath, key.value), record: single?.at ?? '' };
    reasons.set('read', { why: `GET ${itemPath} is described`, sure: read.answer ? 0.97 : 0.6 });
  }
  if (create) {
    entity.create = writeFrom(create, path, creating, made ?? alike, alike);
    reasons.set('create', { why: `POST ${path} is described`, sure: creating ? 0.95 : 0.6 });
    repeatInto(entity, reasons, create);
  }
  if (update && itemPath !== undefined && entity.read) {
    const shown = update.answer ? recordAlone(update.answer, record) : alike;
    const write = writeFrom(update, idPath(itemPath, key.value), updating, shown, alike && { ...alike, id: true });
    entity.update = { ...write, ...(write.method === 'PUT' ? { whole: true } : {}) };
    reasons.set('update', { why: `${write.method} ${itemPath} is described`, sure: 0.95 });
    const version = versionOf(update, read, fields, updating?.names ?? new Set());
    if (version) {
      entity.version = version.value;
      reasons.set('version', bare(version));
    }
  }
  if (remove && itemPath !== undefined) {
    entity.remove = { path: idPath(itemPath, key.value) };
    reasons.set('delete', { why: `DELETE ${itemPath} is described`, sure: 0.97 });
  }
  return { entity, reasons };
}

/** How an entity is listed, found and asked for what has changed. @param less a list shows less of a record than reading it */
function listInto(
  entity: EntityAdapter,
  reasons: Map<string, Reason>,
  list: Described,
  path: string,
  listing: ReturnType<typeof recordsIn>,
  less: boolean,
): void {
  const records = listing ?? { value: { at: '', byId: false }, why: 'nothing is said of its answer', sure: 0.2 };
  const paging = pagingOf(list, records.value.at);
  const taken = takenBy(paging.value);
  const needed = list.query.filter(({ required, name }) => required && !taken.has(name));
  const fixed = needed.flatMap(({ name, shape }) => {
    const value = shape.options?.[0] ?? shape.source['default'];
    return value === undefined ? [] : [{ name, value: String(value as string | number) }];
  });
  entity.list = {
    path,
    query: fixed,
    records: records.value.at,
    ...(records.value.byId ? { byId: true } : {}),
    ...(less ? { partial: true } : {}),
    paging: paging.value,
  };
  reasons.set('list', { why: `GET ${path} is described`, sure: list.answer ? 0.97 : 0.4 });
  reasons.set('records', bare(records));
  reasons.set('paging', bare(paging));
  const finders = findersOf(list, entity.fields, taken);
  entity.find = finders.map(({ value }) => value);
  for (const finder of finders) reasons.set(`find/${finder.value.field}`, bare(finder));
  const changes = changesOf(list, entity.fields);
  if (changes) {
    entity.changes = changes.value;
    reasons.set('changes', bare(changes));
  } else if (changedField(entity.fields))
    reasons.set('changes', { why: 'there is no parameter that asks for them', sure: 0.7 });
}

/** What makes it safe to send a create again. */
function repeatInto(entity: EntityAdapter, reasons: Map<string, Reason>, { headers }: Described): void {
  const key = headers.find(({ name }) =>
    /^(?:x)?(?:idempotencykey|idempotencytoken|requestid|clientrequestid)$/.test(plain(name)),
  );
  entity.repeat = key ? { by: 'key', header: key.name } : { by: entity.list ? 'looking' : 'none' };
  reasons.set(
    'repeat',
    key ? { why: `it takes the header ${key.name}`, sure: 0.9 } : { why: 'no header of it is described', sure: 0.8 },
  );
}

/** Parameters that paging makes use of, so that nobody looks by them. */
const takenBy = ({ parameter, sizeParameter }: { parameter?: string; sizeParameter?: string }): ReadonlySet<string> =>
  new Set([parameter, sizeParameter].filter((each) => each !== undefined));

/** A path in which the id stands under the names of the fields that hold it. */
function idPath(path: string, key: readonly string[]): string {
  let at = 0;
  return path.replace(/\{[^{}/]+\}/g, () => `{${key.length === 1 ? 'id' : key[at++]}}`);
}

function labelFrom(record: Shape, labels: ReadonlyMap<unknown, string>, name: string): string {
  const said = labels.get(record.source) ?? record.title;
  const word = said?.replace(
    /(?:Response|Dto|DTO|Model|Read|Out|Output|Resource|Entity|Schema|Object|WithRelations)$/,
    '',
  );
  const usable = word !== undefined && word !== '' && word.length <= 60 ? word : name.split('.').at(-1)!;
  // A schema that is called as its list is still describes one.
  return labelOf(plain(usable) === plain(name.split('.').at(-1)!) ? singular(usable) : usable);
}

/** Where one record stands in an answer: at its root, or in the only object that looks like one. */
function recordAlone(answer: Shape, like: Shape | undefined): { at: string; record: Shape } | undefined {
  const known = new Set(like ? leavesOf(like).map(({ at }) => at.join('.')) : []);
  const alike = (shape: Shape): number => leavesOf(shape).filter(({ at }) => known.has(at.join('.'))).length;
  const options: { at: string; record: Shape }[] = [
    { at: '', record: answer },
    ...[...answer.properties].flatMap(([name, schema]) => {
      const inside = shapeOf(schema);
      return inside.properties.size > 0 ? [{ at: pointerOf(name), record: inside }] : [];
    }),
  ];
  const usable = options.filter(({ record }) => record.properties.size > 0);
  if (known.size > 0) {
    const [best] = usable.map((each) => ({ each, score: alike(each.record) })).sort((a, b) => b.score - a.score);
    return best && best.score > 0 ? best.each : undefined;
  }
  // A single object in an answer that holds little else is its envelope's content.
  const inner = usable.find(({ at }) => /^\/(?:data|result|item|record|payload|response)$/.test(at));
  return inner ?? usable[0];
}

interface BodyFound {
  at: string;
  record: Shape;
  /** Names of the fields in it. */
  names: Set<string>;
  fixed: { at: string; value: string }[];
}

/** Where the record stands in a body that is sent, and what else has to stand there. @param leaves places of a record's values */
function bodyIn({ body }: Described, leaves: ReadonlySet<string>): BodyFound | undefined {
  if (!body || body.properties.size === 0) return undefined;
  const candidates: { at: string; record: Shape }[] = [{ at: '', record: body }];
  for (const [name, schema] of body.properties) {
    const inside = shapeOf(schema);
    if (inside.properties.size > 0) candidates.push({ at: pointerOf(name), record: inside });
  }
  const score = ({ record }: { record: Shape }): number =>
    leavesOf(record).filter(({ at }) => leaves.has(pointerOf(...at))).length;
  const best = candidates.reduce((a, b) => (score(b) > score(a) ? b : a));
  const own = leavesOf(best.record);
  return {
    ...best,
    names: new Set(fieldsOf(best.record, undefined, undefined).map(({ value }) => value.name)),
    fixed: own.flatMap(({ at, shape, required }) =>
      required && shape.options?.length === 1
        ? [{ at: `${best.at}${pointerOf(...at)}`, value: shape.options[0]! }]
        : [],
    ),
  };
}

function writeFrom(
  { method, body }: Described,
  path: string,
  found: BodyFound | undefined,
  shown: { at: string; record: Shape } | undefined,
  alike?: { at: string; constants: readonly Leaf[]; id?: boolean },
): WriteOperation {
  const all = found && body ? [...found.names] : undefined;
  return {
    method: method.toUpperCase() as WriteOperation['method'],
    path,
    body: found?.at ?? alike?.at ?? '',
    fixed: found?.fixed ?? (alike ? constantsOf(alike) : []),
    ...(shown === undefined ? {} : { record: shown.at }),
    ...(all === undefined ? {} : { fields: all }),
  };
}

/** What says what kind of thing is sent, and, where that is said, which: as in what is read. */
function constantsOf({
  at,
  constants,
  id,
}: {
  at: string;
  constants: readonly Leaf[];
  id?: boolean;
}): WriteOperation['fixed'] {
  const places = new Map(constants.map((leaf) => [pointerOf(...leaf.at), leaf]));
  const fixed = [...places.values()].map((leaf) => ({
    at: `${at}${pointerOf(...leaf.at)}`,
    value: leaf.shape.options![0]!,
  }));
  // JSON:API wants the id in the body too.
  return constants.length > 0 && id ? [...fixed, { at: `${at}/id`, value: '{id}' }] : fixed;
}

const KEYS = ['id', '_id', 'uuid', 'guid', 'key', 'code', 'slug', 'number', 'name'];

/** What names a record: the field that the path of a single one is called after, or one that is called as ids are. */
function keyOf(
  fields: readonly FieldGuess[],
  parameters: readonly string[],
  entity: string,
): Guess<string[]> | undefined {
  const find = (wanted: string): string | undefined =>
    fields.find(
      ({ value, leaf }) => leaf.at.length === 1 && plain(value.name) === plain(wanted) && value.type !== 'options',
    )?.value.name;
  if (parameters.length > 1) {
    const names = parameters.map(find);
    return names.every((each) => each !== undefined)
      ? { value: names, why: `the path of a single one has ${parameters.join(' and ')}`, sure: 0.8 }
      : undefined;
  }
  const [parameter] = parameters;
  const exact = parameter === undefined ? undefined : find(parameter);
  if (exact !== undefined) return { value: [exact], why: `the path of a single one has {${parameter}}`, sure: 0.97 };
  const own = singular(entity.split('.').at(-1)!);
  // Without a path of a single one, only what is called an id surely names one.
  const wantedNames = parameter === undefined ? KEYS.slice(0, 4) : KEYS;
  for (const wanted of [...wantedNames.slice(0, 1), `${own}id`, ...wantedNames.slice(1)]) {
    const name = find(wanted);
    const long = wanted === 'name' && parameter !== undefined && !/name/i.test(parameter);
    if (name !== undefined && !long)
      return { value: [name], why: 'its name says so', sure: wanted === 'id' ? 0.92 : 0.6 };
  }
  return undefined;
}

/** Fields that hold the id of a record of another entity, by what they are called. */
function relate(entities: readonly EntityAdapter[], reasons: AdapterReasons): void {
  const named = new Map<string, string>();
  for (const { name, label } of entities)
    for (const word of [label, singular(name.split('.').at(-1)!)])
      if (!named.has(plain(word))) named.set(plain(word), name);
  for (const { name: entity, key, fields } of entities)
    for (const field of fields) {
      if (key.includes(field.name) || !['text', 'integer'].includes(field.type)) continue;
      const stem = /^(.+?)(?:_id|Id|ID|\.id|-id)$/.exec(field.name)?.[1];
      const other = stem === undefined ? undefined : named.get(plain(stem.slice(stem.lastIndexOf('.') + 1)));
      if (other === undefined) continue;
      if (field.type === 'integer') field.form = 'number';
      field.type = 'reference';
      field.relation = other;
      delete field.maxLength;
      reasons[`${entity}/fields/${field.name}`] = { why: `it is called after ${other}`, sure: 0.85 };
    }
}
