import type { Complaint } from '../documents/index.ts';
import type { AdapterDocument, EntityAdapter } from './document.ts';

/** What is wrong with an adapter beyond its shape: names that lead nowhere, parts that need others. */
export function troubleWithAdapter(adapter: AdapterDocument): Complaint[] {
  const complaints: Complaint[] = [];
  const names = new Set<string>();
  const entities = new Set(adapter.entities.map(({ name }) => name));
  const { signIn } = adapter;
  if ((signIn.kind === 'header' || signIn.kind === 'query') && signIn.name === undefined)
    complaints.push({
      field: 'signIn.name',
      reason: `must say which ${signIn.kind === 'header' ? 'header' : 'parameter'} carries the key`,
    });
  if (/credentials|code/.test(signIn.kind) && signIn.tokenAddress === undefined)
    complaints.push({ field: 'signIn.tokenAddress', reason: 'must say where tokens are fetched' });
  if (signIn.kind === 'authorization code' && signIn.authorizeAddress === undefined)
    complaints.push({ field: 'signIn.authorizeAddress', reason: 'must say where people sign in' });
  const { addOption } = adapter.schemaChanges ?? {};
  if (addOption && !addOption.path.includes('{field}'))
    complaints.push({ field: 'schemaChanges.addOption.path', reason: 'must have {field} in it' });
  for (const [at, entity] of adapter.entities.entries()) {
    const say = (where: string, reason: string): void => {
      complaints.push({ field: `entities.${at}.${where}`, reason });
    };
    if (names.has(entity.name)) say('name', 'comes twice');
    names.add(entity.name);
    entityTrouble(entity, entities, say);
  }
  return complaints;
}

function entityTrouble(
  entity: EntityAdapter,
  entities: ReadonlySet<string>,
  say: (where: string, reason: string) => void,
): void {
  const { fields, key, list, find, read, create, update, remove, changes, version, repeat } = entity;
  const known = new Set<string>();
  for (const [at, field] of fields.entries()) {
    if (known.has(field.name)) say(`fields.${at}.name`, 'comes twice');
    known.add(field.name);
    if (field.relation !== undefined && !entities.has(field.relation))
      say(`fields.${at}.relation`, `there is no entity ${field.relation}`);
  }
  const needs = (where: string, name: string | undefined): void => {
    if (name === undefined || !known.has(name)) say(where, `there is no field ${name ?? 'named'}`);
  };
  for (const [at, name] of key.entries()) needs(`key.${at}`, name);
  for (const [at, { field }] of find.entries()) needs(`find.${at}.field`, field);
  if (!list && !read && !create) say('list', 'or a way to read or create records must be there');
  if (find.length > 0 && !list) say('find', 'needs a list to be asked');
  if (changes) needs('changes.field', changes.field);
  if (changes && !list) say('changes', 'needs a list to be asked');
  if (version?.by === 'field') needs('version.field', version.field);
  if (version?.sent === 'query' && version.parameter === undefined) say('version.parameter', 'must be named');
  if (version?.sent === 'body' && version.by === 'ETag') say('version.sent', 'an ETag goes into If-Match');
  if (repeat.by === 'key' && repeat.header === undefined) say('repeat.header', 'must be named');
  if (repeat.by === 'marker') needs('repeat.field', repeat.field);
  for (const [where, operation] of Object.entries({ read, update, remove }))
    if (operation && !/\{[^{}]+\}/.test(operation.path)) say(`${where}.path`, 'must have {id} in it');
  if (update && !read) say('update', 'needs a way to read the record first');
  if (list) {
    const { kind, at, parameter } = list.paging;
    if ((kind === 'next link' || kind === 'cursor') && at === undefined)
      say('list.paging.at', 'must say where it stands');
    if (['cursor', 'last record', 'page', 'offset'].includes(kind) && parameter === undefined)
      say('list.paging.parameter', 'must be named');
  }
}
