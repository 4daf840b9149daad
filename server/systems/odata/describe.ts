import type { Capabilities } from '../../store/index.ts';
import type { HttpResponse } from '../http.ts';
import { NotUnderstood, SystemUnavailable, type Description } from '../system.ts';
import type { Ask } from './client.ts';
import { readCsdl } from './csdl.ts';
import { capabilitiesOf, schemaOf } from './schema.ts';
import { refusalOf } from './refusal.ts';

/** What a metadata document says, with the other documents it refers to. */
export interface MetadataRead extends Pick<Description, 'schema' | 'capabilities'> {
  references: string[];
}

/** Reads a metadata document, with others of the same service that it refers to. @throws NotUnderstood */
export type MetadataReader = (text: string, more?: readonly string[]) => Promise<MetadataRead>;

/** Reads metadata where it arrives. */
export const readMetadata: MetadataReader = async (text, more) => understood(text, more);

/** @throws NotUnderstood */
export function understood(text: string, more: readonly string[] = []): MetadataRead {
  const csdl = readCsdl(text, more);
  return { schema: schemaOf(csdl), capabilities: capabilitiesOf(csdl), references: csdl.references };
}

/** Documents that one may refer to; what a service splits itself into is less. */
const MOST_REFERENCES = 8;

/** How a service may want to be asked, the richest way first (Protocol 4.01, 8.2.7: a service may know 4.0 only). */
const WAYS: { maxVersion: '4.01' | '4.0'; Accept: string }[] = [
  { maxVersion: '4.01', Accept: 'application/json, application/xml;q=0.9' },
  { maxVersion: '4.0', Accept: 'application/json, application/xml;q=0.9' },
  { maxVersion: '4.0', Accept: 'application/xml' },
];

/** Reads what a service says of itself. @throws as {@link System} says */
export async function describeBy(
  request: (ask: Ask) => Promise<HttpResponse>,
  base: string,
  read: MetadataReader = readMetadata,
): Promise<Description> {
  const { response, maxVersion, Accept } = await metadataOf(request);
  let found = await read(response.text);
  const more = await documentsOf(found.references, base, (path) =>
    request({ method: 'GET', path, headers: { Accept, 'OData-MaxVersion': maxVersion } }),
  );
  if (more.length > 0) found = await read(response.text, more);
  if (found.schema.entities.length === 0)
    throw new NotUnderstood(
      found.schema.unusable
        ? `None of its entities can be worked with. ${found.schema.unusable[0]!.name}: ${found.schema.unusable[0]!.why}`
        : 'Its metadata names no entities that this token may see.',
    );
  const { schemaAt: said, ...able } = found.capabilities;
  const schemaAt = placeOfChanges(said, base);
  const capabilities: Capabilities = {
    ...able,
    ...(maxVersion === '4.0' ? { maxVersion } : {}),
    ...(schemaAt === undefined ? {} : { schemaAt }),
  };
  const description: Description = { schema: found.schema, capabilities };
  const page = recordPage(response.headers['link-template'], base);
  if (page) description.recordPage = page;
  return description;
}

async function metadataOf(request: (ask: Ask) => Promise<HttpResponse>) {
  let first: Error | undefined;
  for (const { maxVersion, Accept } of WAYS) {
    const headers = { Accept, 'OData-MaxVersion': maxVersion };
    try {
      const response = await request({ method: 'GET', path: '$metadata', headers });
      if (response.status < 300) return { response, maxVersion, Accept };
      first ??= new NotUnderstood(
        `It answers ${response.status} where its metadata should be: ${refusalOf(response).words}`,
      );
      // No other way of asking changes whether it is there, or may be seen.
      if ([403, 404, 410].includes(response.status)) break;
    } catch (error) {
      first ??= error as Error;
      // Some fail over a version they don't know; where nothing answered, asking otherwise is of no use.
      if (!(error instanceof SystemUnavailable) || error.status === undefined) break;
    }
  }
  throw first!;
}

/** Further documents of the same service; those of others, such as the standard's vocabularies, aren't fetched. */
async function documentsOf(
  references: readonly string[],
  base: string,
  get: (path: string) => Promise<HttpResponse>,
): Promise<string[]> {
  const own = references.flatMap((uri) => {
    try {
      const { href } = new URL(uri, base);
      return href.startsWith(base) ? [href] : [];
    } catch {
      return [];
    }
  });
  const documents: string[] = [];
  for (const href of [...new Set(own)].slice(0, MOST_REFERENCES)) {
    const response = await get(href);
    if (response.status >= 300)
      throw new NotUnderstood(`It refers to ${href.slice(base.length)}, and answers ${response.status} there.`);
    documents.push(response.text);
  }
  return documents;
}

/** Where its schema is changed, in full; our token goes nowhere but to where the service itself is. */
function placeOfChanges(said: string | undefined, base: string): string | undefined {
  if (said === undefined || !URL.canParse(said, base)) return undefined;
  const place = new URL(said, base);
  return place.origin === new URL(base).origin ? place.href : undefined;
}

/** Characters of a template that is kept. */
const MOST_IN_TEMPLATE = 400;

/** A record's page out of a Link-Template header (RFC 9652), absolute. */
function recordPage(header: string | undefined, base: string): string | undefined {
  const link = header?.split(/,(?=\s*<)/).find((each) => /rel="?alternate"?/.test(each));
  const template = link && /<([^<>]+)>/.exec(link)?.[1];
  if (!template || template.length > MOST_IN_TEMPLATE) return undefined;
  const page = template.startsWith('/') ? `${new URL(base).origin}${template}` : template;
  // People follow it: nothing but a web address will do.
  return /^https?:\/\//i.test(page) ? page : undefined;
}
