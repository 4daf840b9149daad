import type { FilledLine } from '@zusammen/core/forms/hosted';
import { readPdf } from '../testing/read-pdf.ts';
import { filledPdf, type FilledForm } from './index.ts';

const answer = (label: string, value: string, depth = 0): FilledLine => ({ kind: 'answer', label, value, depth });
const paper = async (lines: FilledLine[], more: Partial<FilledForm> = {}) =>
  readPdf(await filledPdf({ title: 'Vertrag ändern', language: 'de', blank: '–', foot: 'Nr. 17', lines, ...more }));

it('is read back by a general reader, letters of Polish, German, Greek and Russian as they were written', async () => {
  const values = [
    'Zażółć gęślą jaźń',
    'Größe, Öl, ẞ',
    'Αγγελική Παπαδοπούλου',
    'Ваня Иванов',
    'Nguyễn Thị',
    'O’Hara & <b>',
  ];
  const { text } = await paper(values.map((value, at) => answer(`Frage ${at}`, value)));
  for (const value of values) expect(text).toContain(value);
});

it('says its title and language, and is tagged so that it is read aloud in order', async () => {
  const { title, language, roles } = await paper([
    { kind: 'page', text: 'Über Sie' },
    answer('Name', 'Immen'),
    { kind: 'heading', text: 'Mehr' },
  ]);
  expect([title, language]).toEqual(['Vertrag ändern', 'de']);
  expect(roles).toEqual(['H1', 'H2', 'P', 'P', 'H2']);
});

it('goes on for as many pages as it needs, each with its number, and not for ever', async () => {
  const { text, pages } = await paper(Array.from({ length: 90 }, (_, at) => answer(`Frage ${at}`, 'Antwort')));
  expect(pages).toBeGreaterThan(3);
  expect(text).toContain(`Nr. 17 ${pages}/${pages}`);
  const endless = await paper(Array.from({ length: 1_000 }, (_, at) => answer(`${at}`, 'x '.repeat(20_000))));
  expect(endless.pages).toBeLessThanOrEqual(62);
});

it('shows a box for what no font has, and what stands for nothing', async () => {
  const { text } = await paper([answer('Biene', 'eine 🐝 fliegt'), answer('Leer', '')]);
  expect(text).toMatch(/eine .* fliegt/);
  expect(text).toContain('–');
});
