import { connect } from 'node:net';
import { awkwardTexts } from '../../core/testing/awkward.ts';
import { PERSON, together, type Attack } from './arena.ts';
import { many } from './many.ts';

/** What a stranger can send to where submissions are taken in. */
export const AT_THE_DOOR: Attack[] = [
  {
    name: 'digits without end in a number',
    run: ({ post, size }) =>
      together(6, (at) =>
        post(
          '/in/pollination-enquiry',
          new URLSearchParams({ ...PERSON, hectares: `${'1'.repeat(600_000 * size)}x`, n: String(at) }),
        ),
      ),
  },
  {
    name: 'awkward texts under every name of the form',
    run: async ({ post, size }) => {
      const names = [
        'contact_first',
        'contact_last',
        'contact_email',
        'contact_phone',
        'hectares',
        'blossom',
        'crops',
        'message',
        'plz',
        'town',
        'street',
        'house_no',
      ];
      const statuses: number[] = [];
      for (const [, text] of awkwardTexts(90_000 * size))
        for (const name of names.slice(0, Math.ceil(names.length * size)))
          statuses.push(await post('/in/pollination-enquiry', new URLSearchParams({ ...PERSON, [name]: text })));
      return statuses;
    },
  },
  {
    name: 'texts just short enough to be read',
    run: ({ post }) =>
      Promise.all(
        awkwardTexts(400).flatMap(([, text]) =>
          ['hectares', 'contact_email', 'contact_phone', 'contact_last', 'street'].map((name) =>
            post('/in/pollination-enquiry', new URLSearchParams({ ...PERSON, [name]: text.slice(0, 290) })),
          ),
        ),
      ),
  },
  {
    name: 'JSON that is deep, wide, repeated, or half a character',
    run: ({ post }) =>
      Promise.all(
        [
          `${'{"a":'.repeat(100_000)}1${'}'.repeat(100_000)}`,
          `[${'['.repeat(200_000)}`,
          `{${many(80_000, (at) => `"k${at}":1,`)}"z":1}`,
          `{"a":[${many(200_000, () => '1,')}1]}`,
          '{"a":1,"a":2}',
          '{"__proto__":{"x":1},"constructor":{"prototype":{"y":1}}}',
          '{"a":"\\ud800"}',
          `{"a":${'9'.repeat(500_000)}}`,
          `{"a":1e${'9'.repeat(1000)}}`,
          `{"${'n'.repeat(500_000)}":1}`,
          '\u0000\u0001',
        ].map((body) => post('/in/pollination-enquiry', body, { 'Content-Type': 'application/json' })),
      ),
  },
  {
    name: 'forms of many parts, many rows, many files, and broken ones',
    run: ({ post }) => {
      const parts = new FormData();
      for (let at = 0; at < 3000; at += 1) parts.append(`f${at}`, 'x');
      const files = new FormData();
      for (let at = 0; at < 50; at += 1) files.append('photo', new Blob(['x']), `${at}.jpg`);
      const rows = new URLSearchParams(
        Array.from({ length: 900 }, (_, at): [string, string] => [`attendees[${at}][first]`, `A${at}`]),
      );
      const broken = { 'Content-Type': 'multipart/form-data; boundary=x' };
      return Promise.all([
        post('/in/pollination-enquiry', parts),
        post('/in/swarm-report', files),
        post('/in/beginners-course', rows),
        post(
          '/in/beginners-course',
          new URLSearchParams(
            Array.from({ length: 900 }, (_, at): [string, string] => [`x[${10 ** 12 + at}][y]`, '1']),
          ),
        ),
        post('/in/pollination-enquiry', '--x\r\nContent-Disposition: form-data; name="a"\r\n\r\n', broken),
        post('/in/pollination-enquiry', `--x\r\n${'A: b\r\n'.repeat(100_000)}`, broken),
        post('/in/pollination-enquiry', 'a=%E0%A4%A', { 'Content-Type': 'application/x-www-form-urlencoded' }),
        post('/in/pollination-enquiry', '&'.repeat(900_000), { 'Content-Type': 'application/x-www-form-urlencoded' }),
        post('/in/pollination-enquiry', `a=${'%41'.repeat(300_000)}`, {
          'Content-Type': 'application/x-www-form-urlencoded',
        }),
        // In an old page's encoding, to the limit: letters, references by number, and half of a name.
        post('/in/pollination-enquiry', `a=${'%fc%26%23322;'.repeat(70_000)}`, {
          'Content-Type': 'application/x-www-form-urlencoded',
        }),
        post('/in/pollination-enquiry', `_charset_=${'x'.repeat(900_000)}&a=%ff`, {
          'Content-Type': 'application/x-www-form-urlencoded',
        }),
        post(
          '/in/pollination-enquiry',
          new Uint8Array(
            Buffer.from(
              `--x\r\nContent-Disposition: form-data; name="\xfc"\r\n\r\n${'\xfc'.repeat(900_000)}\r\n--x--\r\n`,
              'latin1',
            ),
          ),
          broken,
        ),
      ]);
    },
  },
  {
    name: 'a flood of posts about one person and about many',
    run: async ({ post, size }) => {
      const statuses: number[] = [];
      let at = 0;
      await together(24, async () => {
        while ((at += 1) < 3000 * size) {
          const email = at % 2 === 0 ? PERSON.contact_email : `flood${at}@biene.example`;
          statuses.push(
            await post(
              '/in/pollination-enquiry',
              new URLSearchParams({ ...PERSON, contact_email: email, message: String(at) }),
            ),
          );
        }
      });
      return statuses;
    },
  },
  {
    name: 'connections that say nothing, or a byte at a time',
    run: async ({ address, size }) => {
      const { hostname, port } = new URL(address);
      const sockets = Array.from({ length: Math.ceil(400 * size) }, (_, at) => {
        const socket = connect(Number(port), hostname);
        socket.on('error', () => undefined);
        if (at % 2 === 0)
          socket.write('POST /in/pollination-enquiry HTTP/1.1\r\nHost: x\r\nContent-Length: 100000\r\n\r\n');
        return socket;
      });
      for (let beat = 0; beat < 20; beat += 1) {
        for (const socket of sockets) if (socket.writable) socket.write('a');
        await new Promise((resolve) => setTimeout(resolve, 50));
      }
      for (const socket of sockets) socket.destroy();
      return [];
    },
  },
];
