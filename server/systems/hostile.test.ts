import { createServer, type RequestListener, type Server } from 'node:http';
import { createServer as createTcpServer, type AddressInfo } from 'node:net';
import { makeEntity, makeField } from '../../core/testing/world.ts';
import { isPublic, NotUnderstood, outwards, overHttp, SystemUnavailable, withCircuit, withoutSecret } from './index.ts';
import { ODataSystem } from './odata/client.ts';
import { readMetadata } from './odata/describe.ts';
import type { HttpRequest } from './http.ts';

/** A system as nobody wishes for one; each test says how it answers. */
let answer: RequestListener = (_request, response) => response.end();
let server: Server;
let address: string;
const anywhere = outwards('any');
beforeAll(async () => {
  server = createServer((request, response) => answer(request, response));
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  address = `http://127.0.0.1:${(server.address() as AddressInfo).port}/`;
});
afterAll(async () => {
  server.closeAllConnections();
  await new Promise((resolve) => server.close(resolve));
  await anywhere.close();
});

const get = (path = ''): HttpRequest => ({ method: 'GET', url: `${address}${path}`, headers: {}, repeatable: true });
const MIB = 1024 * 1024;

describe('an answer', () => {
  it('is taken up to a size, however it is sent, and no further', async () => {
    let sent = 0;
    answer = (_request, response) => {
      // In pieces, without saying how many there will be.
      const more = (): void => {
        while (!response.destroyed && sent < 400 * MIB) {
          sent += MIB;
          if (!response.write(Buffer.alloc(MIB, 'a'))) return void response.once('drain', more);
        }
        response.end();
      };
      more();
    };
    await expect(overHttp(20_000, anywhere, 4 * MIB)(get())).rejects.toThrow('larger than 4 MiB');
    expect(sent).toBeLessThan(100 * MIB);
  });

  it('that drips a byte at a time is waited for no longer than any other', async () => {
    let dripping: NodeJS.Timeout | undefined;
    answer = (_request, response) => {
      response.writeHead(200);
      dripping = setInterval(() => response.write('.'), 50);
      response.once('close', () => clearInterval(dripping));
    };
    await expect(overHttp(400, anywhere)(get())).rejects.toThrow(/No whole answer within 0.6 s/);
  });

  it('that never begins is given up', async () => {
    answer = () => undefined;
    await expect(overHttp(300, anywhere)(get())).rejects.toBeInstanceOf(SystemUnavailable);
  });

  it('that echoes our request, in its words or its headers, tells nobody our token', async () => {
    answer = (request, response) => {
      const said = String(request.headers.authorization);
      const body = {
        error: {
          message: `not with ${said}`,
          details: [{ target: 'x', message: Buffer.from(said.slice(7)).toString('base64') }],
        },
      };
      response.writeHead(400, { 'Content-Type': 'application/json', Location: `/?${said}` });
      response.end(JSON.stringify(body));
    };
    const token = 'token-nobody-else-knows';
    const nothing = { repeatability: false, batch: false, delta: false, etags: false };
    const system = new ODataSystem(address, token, nothing, withoutSecret(overHttp(5_000, anywhere), token));
    const people = makeEntity('People', [makeField('id', { type: 'id' }), makeField('name')]);
    const refused = await system.create(people, { name: 'Ada' }, { requestId: 'r', firstSent: new Date() });
    expect(refused.kind).toBe('refused');
    expect(JSON.stringify(refused)).toContain('•••');
    for (const form of [token, Buffer.from(token).toString('base64')])
      expect(JSON.stringify(refused)).not.toContain(form);
  });

  it('keeps all digits of its numbers', async () => {
    answer = (_request, response) =>
      response.end('{"value":[{"id":12345678901234567890,"amount":0.1,"big":9007199254740993,"small":1}]}');
    const system = new ODataSystem(
      address,
      't',
      { repeatability: false, batch: false, delta: false, etags: false },
      overHttp(5_000, anywhere),
    );
    const entity = makeEntity('Things', [
      makeField('id', { type: 'id' }),
      ...['amount', 'big', 'small'].map((name) => makeField(name, { type: 'number' })),
    ]);
    const [found] = await system.find(entity, [], 1);
    expect(found).toMatchObject({
      id: '12345678901234567890',
      values: { amount: 0.1, big: '9007199254740993', small: 1 },
    });
  });
});

describe('metadata', () => {
  const document = (properties: number, chain = 1): string => {
    const types = Array.from(
      { length: chain },
      (_, at) =>
        `<EntityType Name="T${at}" ${at > 0 ? `BaseType="N.T${at - 1}"` : ''}>${at === 0 ? '<Key><PropertyRef Name="p0"/></Key>' : ''}${Array.from({ length: properties }, (_each, p) => `<Property Name="p${at === 0 ? p : `${at}_${p}`}" Type="Edm.String"/>`).join('')}</EntityType>`,
    ).join('');
    return `<edmx:Edmx Version="4.0" xmlns:edmx="http://docs.oasis-open.org/odata/ns/edmx"><edmx:DataServices><Schema Namespace="N" xmlns="http://docs.oasis-open.org/odata/ns/edm">${types}<EntityContainer Name="C"><EntitySet Name="S" EntityType="N.T${chain - 1}"/></EntityContainer></Schema></edmx:DataServices></edmx:Edmx>`;
  };
  it('of twenty thousand properties, or of a long line of ancestors, is read', async () => {
    expect((await readMetadata(document(20_000))).schema.entities[0]!.fields).toHaveLength(20_000);
    expect((await readMetadata(document(2, 5_000))).schema.entities[0]!.fields).toHaveLength(10_000);
  });
  it('of more than any system has is refused in words', async () => {
    await expect(readMetadata(document(100_000))).rejects.toThrow(/names more than the 60000 properties/);
    await expect(readMetadata(document(100_000))).rejects.toBeInstanceOf(NotUnderstood);
  });
  it.each([
    ['that leads to no web page', '<javascript:alert(1)>; rel="alternate"'],
    ['of more characters than are kept', `</${'a'.repeat(5000)}>; rel="alternate"`],
  ])('gives no page of records by a template %s', async (_what, template) => {
    answer = (_request, response) => {
      response.writeHead(200, { 'Link-Template': template });
      response.end(document(2));
    };
    const nothing = { repeatability: false, batch: false, delta: false, etags: false };
    const described = await new ODataSystem(address, 't', nothing, overHttp(5_000, anywhere)).describe();
    expect(described).not.toHaveProperty('recordPage');
  });
});

describe('where requests may go', () => {
  it.each([
    ['192.0.2.1', false],
    ['8.8.8.8', true],
    ['127.0.0.1', false],
    ['0.0.0.0', false],
    ['10.1.2.3', false],
    ['172.16.0.1', false],
    ['192.168.1.1', false],
    ['169.254.169.254', false],
    ['100.64.0.1', false],
    ['224.0.0.1', false],
    ['255.255.255.255', false],
    ['::1', false],
    ['::', false],
    ['::ffff:127.0.0.1', false],
    ['::ffff:10.0.0.1', false],
    ['fe80::1', false],
    ['fc00::1', false],
    ['fd12:3456::1', false],
    ['64:ff9b::7f00:1', false],
    ['2002:7f00:1::', false],
    ['2606:4700::1111', true],
    ['localhost', false],
    ['', false],
  ])('%s is public: %s', (text, expected) => {
    expect(isPublic(text)).toBe(expected);
  });

  it('inside is reached by no name, number, other spelling or redirect, unless the installation says so', async () => {
    answer = (request, response) => {
      if (request.url === '/away') response.writeHead(302, { Location: address }).end();
      else response.end('inside');
    };
    const outside = outwards('public');
    const { port } = new URL(address);
    for (const host of [
      '127.0.0.1',
      'localhost',
      '0.0.0.0',
      '[::ffff:127.0.0.1]',
      '[::1]',
      '127.1',
      '2130706433',
      '0x7f.1',
    ]) {
      const sent = overHttp(2_000, outside)({ ...get(), url: `http://${host}:${port}/` });
      await expect(sent).rejects.toThrow(/not on the public internet/);
    }
    expect((await overHttp(2_000, anywhere)(get())).text).toBe('inside');
    await outside.close();
  });
});

describe('a system in trouble', () => {
  it('is tried by one request after its rest, and the others wait for what comes of it', async () => {
    let now = 0;
    let sent = 0;
    let settle: (error?: Error) => void = () => undefined;
    const send = withCircuit(
      () => {
        sent += 1;
        return new Promise((resolve, reject) => {
          settle = (error) => (error ? reject(error) : resolve({ status: 200, headers: {}, text: '' }));
        });
      },
      { failures: 1, restMs: 1000 },
      () => now,
    );
    const first = send(get());
    settle(new SystemUnavailable('down'));
    await expect(first).rejects.toThrow('down');
    now = 1001;
    const probe = send(get());
    const others = await Promise.allSettled(Array.from({ length: 20 }, () => send(get())));
    expect(others.every(({ status }) => status === 'rejected')).toBe(true);
    expect(sent).toBe(2);
    settle();
    expect((await probe).status).toBe(200);
    const after = send(get());
    settle();
    expect((await after).status).toBe(200);
  });
});

it('what is no HTTP at all is said to be so', async () => {
  const garbage = createTcpServer((socket) => {
    socket.on('error', () => undefined);
    socket.end('\u0000\u0001 garbage \r\n\r\n');
  });
  await new Promise<void>((resolve) => garbage.listen(0, '127.0.0.1', resolve));
  const url = `http://127.0.0.1:${(garbage.address() as AddressInfo).port}/`;
  await expect(overHttp(2_000, anywhere)({ ...get(), url })).rejects.toBeInstanceOf(SystemUnavailable);
  garbage.close();
});
