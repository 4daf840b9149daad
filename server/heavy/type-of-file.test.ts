import { readFileSync } from 'node:fs';
import { zipSync } from 'fflate';
import { join } from 'node:path';
import { PROGRAMS } from '../../scripts/testing/setup.ts';
import { Heavy } from './index.ts';

/** What a file is, by what is in it; and that a stranger's file isn't looked at for long. */
const heavy = new Heavy(join(process.cwd(), PROGRAMS, 'heavy-thread.mjs'), { fileType: 5 });
afterAll(() => heavy.close());
const typeOfFile = (bytes: Uint8Array): Promise<string | undefined> => heavy.run('fileType', { bytes }, { by: 'test' });
const MEBIBYTE = 1024 * 1024;
const latin = (text: string): Buffer => Buffer.from(text, 'latin1');
const filled = (piece: Buffer): Buffer => Buffer.alloc(9 * MEBIBYTE, piece);
const WORD = 'application/vnd.openxmlformats-officedocument.wordprocessingml.document';
const ODT = 'application/vnd.oasis.opendocument.text';
const typed = (type: string): Uint8Array =>
  zipSync({
    'word/document.xml': new Uint8Array(10),
    '[Content_Types].xml': Buffer.from(
      `<Types><Override PartName="/word/document.xml" ContentType="${type}"/></Types>`,
    ),
  });

it.each<[string, Uint8Array, string | undefined]>([
  ['a picture', readFileSync('docs/screenshots/today.png'), 'image/png'],
  ['a text document', typed(`${WORD}.main+xml`), WORD],
  ['one with macros', typed('application/vnd.ms-word.document.macroEnabled.main+xml'), undefined],
  ['an open document', zipSync({ mimetype: [Buffer.from(ODT), { level: 0 }] }), ODT],
  ['a package of anything', zipSync({ 'a.txt': Buffer.from('a') }), undefined],
  ['a package cut off', typed(`${WORD}.main+xml`).subarray(0, 60), undefined],
  ['a table of texts', Buffer.from('name;hives\nŻuraw;3\n'), 'text/plain'],
  ['a page', Buffer.from('  <!DOCTYPE html><p>'), undefined],
  ['nothing of any kind', latin('\u00ff\u0000\u0001'), undefined],
])('%s', async (_, bytes, type) => {
  expect(await typeOfFile(bytes)).toBe(type);
});

it.each<[string, Buffer]>([
  [
    'sound whose marks lead to marks',
    Buffer.concat([latin('ID3\u0003\0\0\0\0\0\n'), filled(latin('ID3\u0003\0\0\0\0\0\0'))]),
  ],
  ['a package without a directory', Buffer.concat([latin('PK\u0003\u0004'), filled(latin('PK\u0005\u0006'))])],
  ['a package that blows up', Buffer.from(zipSync({ '[Content_Types].xml': new Uint8Array(100 * MEBIBYTE) }))],
])('%s is none, and isn’t gone through to see that', async (_, bytes) => {
  // What takes longer than the thread is given is ended, and told as too heavy.
  await expect(typeOfFile(bytes)).resolves.toBeUndefined();
});
