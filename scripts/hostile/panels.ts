import { atCrm } from '../../server/testing/panels.ts';
import type { Stage } from '../../server/testing/stage.ts';
import { json, together, type Arena, type Attack } from './arena.ts';
import { many } from './many.ts';

const PANEL = '/f/apiary-inspection/panel';
const CONVERSION = '/conversions/enquiry-to-contract';
const CRM = { Authorization: 'Bearer demo-integration', 'Content-Type': 'application/json' };
const part = (value: object | string): string =>
  Buffer.from(typeof value === 'string' ? value : json(value)).toString('base64url');
const unsigned = (header: object | string, claims: object | string): string =>
  `${part(header)}.${part(claims)}.${part('x'.repeat(64))}`;

const inspectorAt = ({ standins, address }: Arena) => atCrm({ standins, address } as Stage, 'inspector');
const aPerson = async ({ standins }: Arena): Promise<string> => {
  const answer = await fetch(`${standins}/crm/odata/People?$top=1&$select=id`, { headers: CRM });
  return ((await answer.json()) as { value: { id: string }[] }).value[0]!.id;
};

/** What a page, or somebody who is no page, can post as the context of a record. */
export const contexts: Attack = {
  name: 'contexts that are none, that are huge, that ask for keys elsewhere, and one good one by fifty at once',
  run: async (arena) => {
    const { post, size, standins, evil } = arena;
    const opened = (body: string | URLSearchParams, headers = {}): Promise<number> =>
      post(PANEL, body, { Origin: standins, ...headers });
    const context = (text: string): URLSearchParams => new URLSearchParams({ context: text });
    const inspector = await inspectorAt(arena);
    const good = await inspector.context('People', await aPerson(arena));
    const [header, claims] = good.split('.') as [string, string];
    const told = JSON.parse(Buffer.from(claims, 'base64url').toString()) as object;
    const signedBy = (more: object): string => unsigned({ alg: 'ES256', ...more }, told);
    const bad = [
      unsigned({ alg: 'none' }, told),
      unsigned({ alg: 'HS256' }, told),
      signedBy({ kid: 'x'.repeat(5000) }),
      signedBy({ jku: `${evil.address}/endless` }),
      signedBy({ jwk: { kty: 'EC', crv: 'P-256', x: 'AA', y: 'AA' } }),
      signedBy({ crit: ['exp'], b64: false }),
      unsigned('['.repeat(3000), told),
      unsigned(`{"alg":"ES256","kid":${'{"a":'.repeat(500)}1${'}'.repeat(500)}}`, told),
      `${header}.${part({ ...told, sub: 'keeper' })}.${good.split('.')[2]!}`,
      good.slice(0, -1),
      many(2000, () => '.'),
      '\u0000\uffff',
    ];
    const statuses = await together(bad.length, (at) => opened(context(bad[at]!)));
    const long = Math.ceil(60_000_000 * size);
    statuses.push(
      await opened(context('x'.repeat(Math.ceil(1_000_000 * size)))),
      await opened(many(long / 8, () => 'context=')),
      await opened(new URLSearchParams(Array.from({ length: 20_000 }, (_, at): [string, string] => [`c${at}`, 'x']))),
      await opened(json({ context: { toString: good } }), { 'Content-Type': 'application/json' }),
      ...(await together(Math.ceil(400 * size), (at) => opened(context(signedBy({ kid: `k${at}` }))))),
      ...(await together(50, () => opened(context(good)))),
    );
    return statuses;
  },
};

/** What an issuer, its keys and its token endpoint can answer. */
export const issuers: Attack = {
  name: 'issuers whose keys never end, drip, lead round, or are no keys, and that answer nonsense for a token',
  run: async (arena) => {
    const { as, ask, evil, size } = arena;
    const { systems = [] } = (await ask('GET', '/systems')).body;
    const at = `/systems/${systems.find(({ kind }) => kind === 'odata')!.id}/acting`;
    const administrator = (method: string, path: string, body?: object): Promise<number> =>
      as('administrator', method, path, body && json(body));
    const { acting } = (await ask('GET', at)).body;
    if (!acting) throw new Error('Nobody acts as themselves in the CRM.');
    const inspector = await inspectorAt(arena);
    const person = await aPerson(arena);
    const statuses: number[] = [];
    const kinds = ['endless', 'garbage', 'list', 'redirect', 'page', 'entities', 'drip'];
    for (const kind of kinds) {
      const address = `${evil.address}/${kind}/`;
      statuses.push(await administrator('POST', `${at}/find`, { address }));
      for (const changed of [{ keysAddress: address }, { tokenAddress: address }]) {
        statuses.push(await administrator('PUT', at, { ...acting, ...changed }));
        await fetch(`${arena.standins}/crm/withdrawn`, { method: 'DELETE', headers: ADMINISTRATOR });
        const open = Math.max(2, Math.ceil(10 * size));
        statuses.push(
          ...(await together(open, async () => (await inspector.panel('People', person)).status)),
          await administrator('POST', `${at}/try`, { context: await inspector.context('People', person) }),
        );
      }
    }
    statuses.push(
      await administrator('PUT', at, { ...acting, issuer: 'x'.repeat(1_000_000) }),
      await administrator('PUT', at, { ...acting, keysAddress: 'file:///etc/passwd' }),
      await as('specialist', 'PUT', at, json(acting)),
      await administrator('POST', `${at}/try`, { context: many(200_000, () => 'eyJ') }),
      await administrator('PUT', at, acting),
    );
    return statuses;
  },
};
const ADMINISTRATOR = { Authorization: 'Bearer demo-administrator' };

/** What somebody who converts records can ask for. */
export const conversions: Attack = {
  name: 'conversions of thousands of records at once, of records that aren’t there, and by conditions of a thousand parts',
  run: async ({ as, ask, size, standins }) => {
    const specialist = (method: string, path: string, body?: object): Promise<number> =>
      as('specialist', method, path, body && json(body));
    const amount = Math.ceil(10_000 * size);
    let next = 0;
    await together(16, async () => {
      for (let at = next++; at < amount; at = next++) {
        const body = { subject: `Many ${at}`, kind: 'pollination', source: 'flood', hives_wanted: 1 };
        const caller = {
          caller_company: `Flood ${at % 50}`,
          caller_name: 'Jonte Flut',
          caller_email: `f${at}@flut.example`,
        };
        await fetch(`${standins}/crm/odata/Enquiries`, {
          method: 'POST',
          headers: CRM,
          body: json({ ...body, ...caller }),
        });
      }
    });
    const where = [{ field: 'source', test: 'is', value: 'flood' }];
    const statuses = [
      await specialist('POST', CONVERSION, { where }),
      await specialist('POST', CONVERSION, { records: Array.from({ length: amount }, (_, at) => `X-${at}`) }),
      await specialist('POST', CONVERSION, {
        records: Array.from({ length: 50 }, (_, at) => `'${'x'.repeat(200)}${at}`),
      }),
      await specialist('POST', CONVERSION, {
        where: many1000((at) => ({ field: 'source', test: 'is not', value: `v${at}` })),
      }),
      await specialist('POST', CONVERSION, { where: [{ field: '__proto__', test: 'is', value: 'x'.repeat(100_000) }] }),
      await specialist('POST', CONVERSION, {
        where: [{ field: "source eq '' or 1 eq 1", test: 'is', value: "' or 1 eq 1" }],
      }),
      await specialist('POST', CONVERSION, { where, records: ['E-1'] }),
      await as('specialist', 'POST', CONVERSION, '['.repeat(100_000)),
      await as('viewer', 'POST', CONVERSION, json({ where })),
      ...(await together(20, () => specialist('POST', `${CONVERSION}/count`, { where }))),
      ...(await together(20, () => specialist('GET', `${CONVERSION}/records?limit=50`))),
    ];
    for (;;) {
      const { bulks = [] } = (await ask('GET', CONVERSION)).body;
      if (bulks.length > 0 && bulks.every(({ state }) => state !== 'running')) {
        const { ends = {}, total } = bulks.at(-1)!;
        // All of them have come to an end, whatever that is.
        const ended = Object.values(ends).reduce((sum, each) => sum + each, 0);
        if (ended !== total || total !== amount)
          throw new Error(`${ended} of ${total} have come to an end, of ${amount}.`);
        return statuses;
      }
      await new Promise((resolve) => setTimeout(resolve, 500));
    }
  },
};
const many1000 = <T>(of: (at: number) => T): T[] => Array.from({ length: 1000 }, (_, at) => of(at));
