import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { randomUUID } from 'node:crypto';
import { isLosslessNumber, LosslessNumber, parse, stringify } from 'lossless-json';
import {
  ADDRESS,
  annotationsXml,
  keysOf,
  metadataJson,
  metadataXml,
  propertiesOf,
  type Property,
} from './strict-metadata.ts';
import { heldOf, isBodyValue, isLiteralOf } from './strict-types.ts';

/** How the strict service behaves; what isn't said is the plainest that OData 4.0 allows. */
export interface Variant {
  key: 'text' | 'Int32' | 'Int64' | 'Guid' | 'given' | 'composite';
  /** A property holds the id, or there is only a link. */
  relation?: 'property' | 'link';
  email?: 'marked' | 'named' | 'odd name';
  annotations?: 'here' | 'aliased' | 'elsewhere' | 'external';
  metadata?: 'xml' | 'json';
  /** Knows nothing of 4.01: refuses the header, or stumbles over it. */
  version?: 'both' | '4.0, refuses' | '4.0, stumbles';
  etags?: 'none' | 'offered' | 'required';
  creates?: '201' | '201 empty' | '204' | '201 in part';
  location?: 'relative' | 'absolute' | 'OData-EntityId' | 'none';
  updates?: '200' | '204' | '204 idle';
  filter?: 'yes' | '501' | '400' | 'ignored';
  folding?: 'yes' | '501';
  order?: 'yes' | '501';
  select?: 'yes' | '400';
  expand?: 'yes' | '501';
  lists?: 'whole' | 'in part';
  /** Says it takes batches, and takes those in multipart only. */
  batch?: 'none' | 'declared, multipart only';
}

type Row = Record<string, unknown>;

export interface StrictService {
  address: string;
  people: Row[];
  companies: Row[];
  /** Every request as it came in: method and path. */
  asked: string[];
  /** The next write is done and its answer lost; or lost before it is done. */
  cut: 'after' | 'before' | undefined;
  variant: Variant;
  close(): Promise<void>;
}

class Refused extends Error {
  constructor(
    readonly status: number,
    message: string,
  ) {
    super(message);
  }
}

/** A service as strict as the standard: what isn't written by a property's type is refused, and so is a `+` for a space. */
export async function strictService(variant: Variant): Promise<StrictService> {
  const service: Omit<StrictService, 'address' | 'close'> = {
    ...{ people: [], asked: [], cut: undefined, variant },
    companies: [1, 2].map((id) => ({ Id: new LosslessNumber(String(id)), Title: `Company ${id}` })),
  };
  const server = createServer((request, response) => {
    void bodyOf(request).then((body) => answer(service, request, body, response));
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const address = `http://127.0.0.1:${(server.address() as AddressInfo).port}/strict/`;
  return Object.assign(service, {
    address,
    close: () =>
      new Promise<void>((resolve) => {
        server.closeAllConnections();
        server.close(() => resolve());
      }),
  });
}

async function bodyOf(request: IncomingMessage): Promise<string> {
  const chunks: Buffer[] = [];
  for await (const chunk of request) chunks.push(chunk as Buffer);
  return Buffer.concat(chunks).toString('utf8');
}

type Running = Omit<StrictService, 'address' | 'close'>;

function answer(service: Running, request: IncomingMessage, body: string, response: ServerResponse): void {
  const path = (request.url ?? '').replace(/^\/strict\//, '');
  service.asked.push(`${request.method} ${path}`);
  const send = (status: number, content: unknown, headers: Record<string, string> = {}): void => {
    response.writeHead(status, { 'OData-Version': '4.0', 'Content-Type': 'application/json', ...headers });
    response.end(content === undefined ? undefined : typeof content === 'string' ? content : stringify(content));
  };
  try {
    const { version = 'both' } = service.variant;
    if (version !== 'both' && request.headers['odata-maxversion'] !== '4.0')
      throw new Refused(version === '4.0, refuses' ? 400 : 500, 'OData-MaxVersion 4.01 is not known here.');
    const writes = request.method !== 'GET';
    if (writes && service.cut === 'before') {
      service.cut = undefined;
      return void request.socket.destroy();
    }
    const answered = respond(service, request, path, body);
    if (writes && service.cut === 'after') {
      service.cut = undefined;
      return void request.socket.destroy();
    }
    send(answered.status, answered.content, answered.headers);
  } catch (error) {
    if (!(error instanceof Refused)) return send(500, { error: { code: '500', message: String(error) } });
    send(error.status, { error: { code: String(error.status), message: error.message } });
  }
}

interface Answered {
  status: number;
  content?: unknown;
  headers?: Record<string, string>;
}

function respond(service: Running, request: IncomingMessage, path: string, body: string): Answered {
  const { variant } = service;
  const [resource = '', query = ''] = path.split('?');
  if (resource === '$metadata') return metadata(variant, request);
  if (resource === 'annotations.xml')
    return { status: 200, content: annotationsXml(variant), headers: { 'Content-Type': 'application/xml' } };
  if (resource === '$batch') throw new Refused(415, 'Batches are taken as multipart/mixed only.');
  const [, set = '', key] = /^(\w+)(?:\((.*)\))?$/.exec(decoded(resource)) ?? [];
  const rows = set === 'People' ? service.people : set === 'Companies' ? service.companies : undefined;
  if (!rows) throw new Refused(404, `There is no ${decoded(resource)}.`);
  const options = optionsOf(query);
  if (request.method === 'GET' && key === undefined) return list(service, set, rows, options);
  if (request.method === 'POST' && key === undefined) return create(service, request, body);
  const row = rows.find((each) => isAt(variant, set, each, key ?? ''));
  if (!row) throw new Refused(404, 'There is no such record.');
  if (request.method === 'GET')
    return { status: 200, content: shown(service, row, options['$expand']), headers: tagOf(variant, row) };
  const expected = request.headers['if-match'];
  if (variant.etags === 'required' && expected === undefined) throw new Refused(428, 'If-Match is needed.');
  if (expected !== undefined && (variant.etags ?? 'none') === 'none')
    throw new Refused(400, 'Nothing here has an ETag.');
  if (expected !== undefined && expected !== tagOf(variant, row)['ETag']) throw new Refused(412, 'It has changed.');
  if (request.method === 'DELETE') {
    rows.splice(rows.indexOf(row), 1);
    return { status: 204 };
  }
  if (variant.updates === '204 idle') return { status: 204 };
  change(service, row, checkedBody(service, body, false));
  return variant.updates === '200'
    ? { status: 200, content: shown(service, row), headers: tagOf(variant, row) }
    : { status: 204, headers: tagOf(variant, row) };
}

function metadata(variant: Variant, request: IncomingMessage): Answered {
  const json = variant.metadata === 'json' && /json/.test(request.headers.accept ?? '');
  return json
    ? { status: 200, content: metadataJson(variant) }
    : { status: 200, content: metadataXml(variant), headers: { 'Content-Type': 'application/xml' } };
}

/** An address percent-decoded; here a `+` is a plus, as RFC 3986 has it. */
function decoded(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    throw new Refused(400, 'The address is not well encoded.');
  }
}

const OPTIONS = new Set(['$filter', '$top', '$orderby', '$select', '$expand']);

function optionsOf(query: string): Record<string, string> {
  const options: Record<string, string> = {};
  for (const pair of query.split('&').filter(Boolean)) {
    const at = pair.indexOf('=');
    const name = decoded(pair.slice(0, at));
    if (!OPTIONS.has(name)) throw new Refused(400, `The option ${name} is not known.`);
    options[name] = decoded(pair.slice(at + 1));
  }
  return options;
}

function list(service: Running, set: string, rows: readonly Row[], options: Record<string, string>): Answered {
  const { variant } = service;
  const { $filter, $orderby, $select, $expand, $top = '100' } = options;
  if ($orderby && variant.order === '501') throw new Refused(501, '$orderby is not done here.');
  if ($select && variant.select === '400') throw new Refused(400, '$select is not understood.');
  if (!/^\d+$/.test($top)) throw new Refused(400, '$top takes a number.');
  const found =
    $filter && variant.filter !== 'ignored' ? rows.filter((row) => meets(service, set, row, $filter)) : rows;
  const value = found.slice(0, Number($top)).map((row) => {
    const whole = shown(service, row, $expand);
    if ($select) return Object.fromEntries(Object.entries(whole).filter(([name]) => $select.split(',').includes(name)));
    if (variant.lists === 'in part') delete whole['Born'];
    return whole;
  });
  return { status: 200, content: { '@odata.context': `$metadata#${set}`, value } };
}

/** Evaluates `a eq 1 and tolower(b) eq 'c'`; anything else isn't taken. */
function meets(service: Running, set: string, row: Row, filter: string): boolean {
  const { variant } = service;
  if (variant.filter === '501') throw new Refused(501, '$filter is not done here.');
  if (variant.filter === '400') throw new Refused(400, '$filter can’t be used with this set.');
  const terms = filter.match(/(?:[^' ]|'(?:[^']|'')*'| (?!and ))+/g) ?? [];
  return terms
    .map((term) => term.replace(/^\s*(?:and )?/, '').trim())
    .filter(Boolean)
    .every((term) => {
      const [, folded, path = '', literal = ''] = /^(tolower\()?([\w/]+)\)? (?:eq) (.+)$/.exec(term) ?? [];
      if (folded && variant.folding === '501') throw new Refused(501, 'tolower is not done here.');
      const property = propertyAt(variant, set, path);
      if (!property) throw new Refused(400, `The filter names “${path || term}”, which isn’t known.`);
      if (literal !== 'null' && !isLiteralOf(property.type, literal))
        throw new Refused(400, `${literal} is no ${property.type}.`);
      const held = plain(valueAt(service, row, path));
      const wanted = literal === 'null' ? null : plain(heldOf(property.type, literal));
      return folded ? String(held ?? '').toLowerCase() === wanted : held === wanted;
    });
}

function propertyAt(variant: Variant, set: string, path: string): Property | undefined {
  if (set === 'Companies')
    return path === 'Id'
      ? { name: 'Id', type: 'Edm.Int32' }
      : path === 'Title'
        ? { name: 'Title', type: 'Edm.String' }
        : undefined;
  const [first, second] = path.split('/');
  if (second === undefined) return propertiesOf(variant).find(({ name }) => name === first);
  if (first === 'Company' && second === 'Id') return { name: 'Id', type: 'Edm.Int32' };
  return first === 'Home' ? ADDRESS.find(({ name }) => name === second) : undefined;
}

function valueAt(service: Running, row: Row, path: string): unknown {
  const [first = '', second] = path.split('/');
  if (second === undefined) return row[first];
  if (first === 'Company') return row['@company'] ?? null;
  return (row[first] as Row | null | undefined)?.[second] ?? null;
}

/** A value to be compared; of a number all its digits count. */
const plain = (value: unknown): unknown => (isLosslessNumber(value) ? `#${value.value}` : (value ?? null));

function isAt(variant: Variant, set: string, row: Row, key: string): boolean {
  const keys = set === 'People' ? keysOf(variant.key) : [{ name: 'Id', type: 'Edm.Int32' as const }];
  const parts = keys.length === 1 ? [key.replace(new RegExp(`^${keys[0]!.name}=`), '')] : key.split(',');
  return keys.every(({ name, type }, at) => {
    const literal = keys.length === 1 ? parts[0]! : (parts[at] ?? '').replace(`${name}=`, '');
    if (!isLiteralOf(type, literal)) throw new Refused(400, `${literal} is no key of the type ${type}.`);
    return plain(row[name]) === plain(heldOf(type, literal));
  });
}

function shown(service: Running, row: Row, expand?: string): Row {
  const { variant } = service;
  const { '@company': company, '@version': _, ...whole } = row;
  if (expand !== undefined) {
    if (variant.expand === '501') throw new Refused(501, '$expand is not done here.');
    if (!/^Company\(\$select=Id\)$/.test(expand)) throw new Refused(400, `$expand doesn’t take ${expand}.`);
    whole['Company'] = company === undefined || company === null ? null : { Id: company };
  }
  const tag = tagOf(variant, row)['ETag'];
  return tag === undefined ? whole : { '@odata.etag': tag, ...whole };
}

const tagOf = ({ etags = 'none' }: Variant, row: Row): Record<string, string> =>
  etags === 'none' || row['@version'] === undefined ? {} : { ETag: `W/"${String(row['@version'])}"` };

/** The values of a body, each of the type of its property. @throws Refused */
function checkedBody({ variant, companies }: Running, text: string, creating: boolean): Row {
  const body = parse(text) as Row;
  const values: Row = {};
  for (const [name, value] of Object.entries(body)) {
    if (name === 'Company@odata.bind') {
      const [, id] = /Companies\((\d+)\)$/.exec(String(value)) ?? [];
      if (value !== null && !companies.some((each) => plain(each['Id']) === `#${id}`))
        throw new Refused(400, `${String(value)} is no company.`);
      values['@company'] = value === null ? null : new LosslessNumber(id!);
      continue;
    }
    const property = propertiesOf(variant).find((each) => each.name === name);
    if (!property) throw new Refused(400, `${name} is not known.`);
    if (property.computed) throw new Refused(400, `${name} can’t be written.`);
    if (property.type === 'odd.Address') {
      const bad = Object.entries((value as Row | null) ?? {}).find(
        ([part, each]) => !ADDRESS.some((one) => one.name === part) || !isBodyValue('Edm.String', each),
      );
      if (bad) throw new Refused(400, `Home can’t have ${bad[0]}.`);
    } else if (!isBodyValue(property.type, value))
      throw new Refused(400, `${name} takes ${property.type}, not ${String(stringify(value))}.`);
    values[name] = value;
  }
  if (creating)
    for (const { name, required, computed, hasDefault } of propertiesOf(variant))
      if (required && !computed && !hasDefault && (values[name] ?? null) === null)
        throw new Refused(400, `${name} is missing.`);
  return values;
}

let made = 100;

function create(service: Running, request: IncomingMessage, body: string): Answered {
  const { variant, people } = service;
  const { creates = '201', location = 'relative' } = variant;
  const empty = Object.fromEntries(propertiesOf(variant).map(({ name }) => [name, null]));
  made += 1;
  const key: Row =
    variant.key === 'Guid'
      ? { Id: randomUUID() }
      : variant.key === 'text'
        ? { Id: `P'${made}` }
        : variant.key === 'Int32'
          ? { Id: new LosslessNumber(String(made)) }
          : variant.key === 'Int64'
            ? { Id: new LosslessNumber(`90071992547409${made}`) }
            : {};
  const row: Row = { ...empty, Country: 'DE', ...key, MadeAt: new Date().toISOString() };
  change(service, row, checkedBody(service, body, true));
  people.push(row);
  const address = `People(${keysOf(variant.key)
    .map(({ name, type }) => {
      const value = String(digitsOf(row[name]));
      const literal = type === 'Edm.String' ? `'${value.replace(/'/g, "''")}'` : value;
      return variant.key === 'composite' ? `${name}=${literal}` : literal;
    })
    .join(',')})`;
  const absolute = `http://${request.headers.host}/strict/${encodeURI(address)}`;
  const headers: Record<string, string> = { ...tagOf(variant, row) };
  if (location === 'relative') headers['Location'] = encodeURI(address);
  if (location === 'absolute') headers['Location'] = absolute;
  if (location === 'OData-EntityId') headers['OData-EntityId'] = absolute;
  if (creates === '204') return { status: 204, headers };
  if (creates === '201 empty') return { status: 201, headers };
  const whole = shown(service, row);
  if (creates === '201 in part') for (const name of Object.keys(whole)) if (whole[name] === null) delete whole[name];
  return { status: 201, content: whole, headers };
}

const digitsOf = (value: unknown): unknown => (isLosslessNumber(value) ? value.value : value);

/** Values set into a record; a structure is replaced as a whole, as some services do it. */
function change({ variant }: Running, row: Row, values: Row): void {
  Object.assign(row, values);
  row['Home'] = row['Home'] === null ? null : { Street: null, Town: null, ...(row['Home'] as Row) };
  if (variant.etags !== undefined && variant.etags !== 'none') row['@version'] = Number(row['@version'] ?? 0) + 1;
}
