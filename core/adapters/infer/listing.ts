import { pointerOf } from '../pointer.ts';
import type { AdapterPaging, AdapterVersion, ChangesOperation, FieldAdapter, Finder } from '../document.ts';
import type { Reason } from '../trial.ts';
import { plain } from './names.ts';
import type { Described, Parameter } from './operations.ts';
import { shapeOf, type Shape } from './shape.ts';

/** Something inferred, with the reason. */
export interface Guess<T> extends Reason {
  value: T;
}

const LISTS = [
  'items',
  'data',
  'results',
  'records',
  'value',
  'values',
  'entries',
  'rows',
  'content',
  'objects',
  'list',
  'elements',
  'docs',
  'resources',
];
const isRecord = (shape: Shape): boolean => shape.properties.size > 0;
/** How deep within an answer its list of records is looked for. */
const DEEPEST = 3;
/** Places of an answer that are looked at. */
const MOST_PLACES = 5_000;

/** Where the records stand in a list's answer, and what one is. @param called the path's own word for them */
export function recordsIn(
  answer: Shape,
  called: string,
): (Guess<{ at: string; byId: boolean }> & { record: Shape }) | undefined {
  if (answer.types.has('array')) {
    const record = shapeOf(answer.items);
    return isRecord(record)
      ? { value: { at: '', byId: false }, record, why: 'its answer is a list', sure: 0.98 }
      : undefined;
  }
  const found: { at: string[]; record: Shape; byId: boolean }[] = [];
  let places = 0;
  const look = (within: Shape, at: string[]): void => {
    for (const [name, schema] of within.properties) {
      places += 1;
      if (places > MOST_PLACES) return;
      const inside = shapeOf(schema);
      const element = inside.types.has('array') ? shapeOf(inside.items) : undefined;
      if (element && isRecord(element)) found.push({ at: [...at, name], record: element, byId: false });
      else if (inside.properties.size > 0 && at.length + 1 < DEEPEST) look(inside, [...at, name]);
      else if (isRecord(shapeOf(inside.additional)))
        found.push({ at: [...at, name], record: shapeOf(inside.additional), byId: true });
    }
  };
  look(answer, []);
  const rank = ({ at, byId }: (typeof found)[number]): number => {
    const name = plain(at.at(-1)!);
    const known = LISTS.indexOf(name);
    const named = name === plain(called) ? 20 : known >= 0 ? 15 - known / 10 : 0;
    return named - at.length * 2 - (byId ? 8 : 0);
  };
  const [best, ...others] = [...found].sort((a, b) => rank(b) - rank(a));
  if (best) {
    const only = others.length === 0;
    return {
      value: { at: pointerOf(...best.at), byId: best.byId },
      record: best.record,
      why: only
        ? `it is the only ${best.byId ? 'object of records' : 'list of objects'} in its answer`
        : 'it is what lists are mostly called, of several in its answer',
      sure: only ? 0.95 : 0.7,
    };
  }
  const keyed = shapeOf(answer.additional);
  return isRecord(keyed)
    ? { value: { at: '', byId: true }, record: keyed, why: 'its answer holds records by their ids', sure: 0.8 }
    : undefined;
}

const SIZE = new Set([
  'limit',
  'perpage',
  'pagesize',
  'size',
  'count',
  'maxresults',
  'max',
  'top',
  'pagelimit',
  'take',
  'rows',
  'itemsperpage',
  'first',
  '$limit',
  'numperpage',
  'batchsize',
  'resultsperpage',
]);
const PAGE = new Set(['page', 'pagenumber', 'pageno', 'pageindex', 'currentpage', 'pagenum']);
const OFFSET = new Set(['offset', 'skip', 'start', 'startat', 'startindex', 'from', 'pageoffset']);
const CURSOR = new Set([
  'cursor',
  'pagetoken',
  'after',
  'continuationtoken',
  'continuation',
  'nexttoken',
  'next',
  'marker',
  'pagecursor',
  'pageafter',
  'scroll',
  'scrollid',
  'nextpagetoken',
  'bookmark',
  'token',
  'nextcursor',
  'startkey',
  'exclusivestartkey',
  'paginationtoken',
]);
const LAST = new Set(['startingafter', 'afterid', 'sinceid', 'lastid', 'startafter']);
const NEXT =
  /^(?:next|nextcursor|nextpage|nextpagetoken|nexttoken|cursor|nextlink|nexturl|nexthref|continuationtoken|continuation|endcursor|after|nextpageurl|marker|nextmarker|bookmark|paginationtoken|scrollid)$/;
const LINKISH = /link|url|href/;

interface Place {
  at: string[];
  shape: Shape;
}

/** Places in an answer that may lead to the next page. */
function nextPlaces(answer: Shape, records: string): Place[] {
  const places: Place[] = [];
  let looked = 0;
  const look = (within: Shape, at: string[]): void => {
    for (const [name, schema] of within.properties) {
      looked += 1;
      if (looked > MOST_PLACES) return;
      const inside = shapeOf(schema);
      const here = [...at, name];
      if (pointerOf(...here) === records || inside.types.has('array')) continue;
      if (NEXT.test(plain(name)) && (inside.properties.size === 0 || inside.properties.has('href')))
        places.push({ at: here, shape: inside });
      else if (inside.properties.size > 0 && here.length < DEEPEST) look(inside, here);
    }
  };
  look(answer, []);
  return places;
}

/** How pages follow one another. */
export function pagingOf({ query, answered, answer }: Described, records: string): Guess<AdapterPaging> {
  const named = (names: ReadonlySet<string>): Parameter | undefined =>
    query.find(({ name }) => names.has(plain(name)) || names.has(name));
  const size = named(SIZE);
  const places = answer ? nextPlaces(answer, records) : [];
  const sized = {
    ...(size === undefined ? {} : { sizeParameter: size.name }),
    ...(size === undefined ? {} : { size: sizeOf(size) }),
  };
  const cursor = named(CURSOR) ?? query.find(({ name }) => /cursor|page.?token/i.test(name));
  const place = places.find(({ shape }) => !isLink(shape)) ?? places[0];
  const linked = places.find(
    ({ at, shape }) => isLink(shape) || LINKISH.test(plain(at.join(''))) || at.some((each) => /^_?links?$/i.test(each)),
  );
  if (cursor && place && place !== linked)
    return {
      value: { kind: 'cursor', at: pointerOf(...place.at), parameter: cursor.name, ...sized },
      why: `there is a parameter ${cursor.name}, and ${place.at.join('.')} in its answer`,
      sure: 0.93,
    };
  if (linked)
    return {
      value: { kind: 'next link', at: pointerOf(...linked.at), ...sized },
      why: `${linked.at.join('.')} in its answer is a link`,
      sure: 0.9,
    };
  if (answered.includes('link'))
    return { value: { kind: 'link header', ...sized }, why: 'its answer has a Link header', sure: 0.9 };
  const last = named(LAST);
  if (last)
    return {
      value: { kind: 'last record', parameter: last.name, ...sized },
      why: `there is a parameter ${last.name}`,
      sure: 0.75,
    };
  const page = named(PAGE);
  if (page) {
    const first = firstPageOf(page);
    return {
      value: { kind: 'page', parameter: page.name, first, ...sized },
      why: `there is a parameter ${page.name}`,
      sure: 0.85,
    };
  }
  const offset = named(OFFSET);
  if (offset)
    return {
      value: { kind: 'offset', parameter: offset.name, ...sized },
      why: `there is a parameter ${offset.name}`,
      sure: 0.88,
    };
  if (place && !cursor)
    return {
      value: { kind: 'next link', at: pointerOf(...place.at), ...sized },
      why: `${place.at.join('.')} in its answer may be a link`,
      sure: 0.4,
    };
  return {
    value: { kind: 'none' },
    why: 'nothing is said of pages: all records are taken to come at once',
    sure: size ? 0.3 : 0.5,
  };
}

const isLink = ({ format, properties }: Shape): boolean =>
  /^(?:uri|url|uri-reference)$/.test(format ?? '') || properties.has('href');

/** As many at once as it takes, up to a few hundred: fewer requests, and no answer too large. */
function sizeOf({ shape: { source } }: Parameter): number {
  const { maximum, default: usual } = source;
  const most = typeof maximum === 'number' && maximum >= 1 ? Math.floor(maximum) : undefined;
  if (most !== undefined) return Math.min(most, 500);
  return typeof usual === 'number' && usual >= 1 ? Math.min(Math.max(Math.floor(usual), 100), 500) : 100;
}

function firstPageOf({ shape: { source }, description, name }: Parameter): number {
  if (
    source['minimum'] === 0 ||
    source['default'] === 0 ||
    /zero.?based|starts? (?:at|with|from) 0|0-based/i.test(description)
  )
    return 0;
  return /index/i.test(name) && source['minimum'] !== 1 ? 0 : 1;
}

const SINCE =
  /^(?:(?:changed|updated|modified|lastmodified|lastupdated|lastchanged)(?:at|on|date|time)?(?:after|since|from|gte|gt|min|start)|(?:modified|updated|changed)since|since|changedsince|minupdatedat|startmodified|ifmodifiedsince)$/;
const CHANGED =
  /^(?:changed|updated|modified|lastmodified|lastupdated|lastchanged|datemodified|dateupdated|updatetime|modifytime|mtime|lastupdate|lastupdateddate|modificationdate)(?:at|on|date|time|datetime|timestamp|utc)?$/;

/** The field that holds when a record was last changed. */
export const changedField = (fields: readonly FieldAdapter[]): FieldAdapter | undefined =>
  fields.find(({ name, type }) => (type === 'date and time' || type === 'date') && CHANGED.test(plain(lastOf(name))));

const lastOf = (name: string): string => name.slice(name.lastIndexOf('.') + 1);

/** How what changed since a moment is asked for. */
export function changesOf({ query }: Described, fields: readonly FieldAdapter[]): Guess<ChangesOperation> | undefined {
  const field = changedField(fields);
  const parameter = query.find(({ name }) => SINCE.test(plain(name)));
  if (!field || !parameter) return undefined;
  return {
    value: { parameter: parameter.name, field: field.name },
    why: `there is a parameter ${parameter.name}, and ${field.name} in its records`,
    sure: 0.9,
  };
}

/** Fields by which a list can be asked: parameters that are called as they are. */
export function findersOf(
  { query }: Described,
  fields: readonly FieldAdapter[],
  taken: ReadonlySet<string>,
): Guess<Finder>[] {
  return query.flatMap(({ name, description }): Guess<Finder>[] => {
    if (taken.has(name)) return [];
    const bracketed = /^(?:filter|where|q|query|search)\[([^\]]+)\](?:\[eq\])?$/i.exec(name)?.[1];
    const bare = bracketed ?? name.replace(/(?:\.eq|_eq|__exact|\[eq\])$/i, '');
    const field = fields.find((each) => plain(each.name) === plain(bare) || plain(lastOf(each.name)) === plain(bare));
    if (!field || field.type === 'options' || field.type === 'long text') return [];
    const folds = /case.?insensitive/i.test(description);
    return [
      {
        value: { field: field.name, parameter: name, ...(folds ? { folds } : {}) },
        why: `there is a parameter ${name}`,
        sure: bracketed ? 0.85 : 0.9,
      },
    ];
  });
}

/** How a change by somebody else is noticed. */
export function versionOf(
  update: Described | undefined,
  read: Described | undefined,
  fields: readonly FieldAdapter[],
  body: ReadonlySet<string>,
): Guess<AdapterVersion> | undefined {
  const field = fields.find(
    ({ name, type }) =>
      /^(?:version|revision|rev|etag|lockversion|rowversion|versionnumber|v)$/.test(plain(lastOf(name))) &&
      type !== 'option',
  );
  const match = update?.headers.find(({ name }) => plain(name) === 'ifmatch');
  if (match) {
    const tagged = read?.answered.includes('etag');
    const by = tagged || !field ? 'ETag' : 'field';
    return {
      value: by === 'ETag' ? { by, sent: 'If-Match' } : { by, field: field!.name, sent: 'If-Match' },
      why: 'changing takes If-Match',
      sure: tagged || field ? 0.92 : 0.7,
    };
  }
  if (field && body.has(field.name))
    return {
      value: { by: 'field', field: field.name, sent: 'body' },
      why: `${field.name} is part of what is sent to change a record`,
      sure: 0.9,
    };
  if (read?.answered.includes('etag'))
    return { value: { by: 'ETag', sent: 'If-Match' }, why: 'reading a record answers with an ETag', sure: 0.6 };
  return undefined;
}
