import { awkwardTexts } from '../testing/awkward.ts';
import { tidyLabel } from './html-tree.ts';
import { readForms } from './index.ts';

const many = (count: number, piece: (at: number) => string): string =>
  Array.from({ length: count }, (_, at) => piece(at)).join('');

/** Pages on which work in the square of their size would not come to an end while anybody waits. */
const PAGES: [string, string][] = [
  ['20,000 inputs beside one another', `<form>${many(20_000, (at) => `<input name=f${at}>`)}</form>`],
  ['15,000 checkboxes of one name', `<form>${many(15_000, () => '<input type=checkbox name=all value=1>')}</form>`],
  ['10,000 inputs in one label', `<form><label>${many(20_000, (at) => `<input name=f${at}>`)} words</label></form>`],
  [
    '8,000 cells of one row',
    `<form><table><tr>${many(8_000, (at) => `<td><input name=f${at}></td>`)}</tr></table></form>`,
  ],
  [
    '10,000 rows',
    `<form><table>${many(10_000, (at) => `<tr><td>a</td><td><input name=f${at}></td></tr>`)}</table></form>`,
  ],
  ['3,000 inputs, each deeper than the last', `<form>${many(3000, (at) => `<div><input name=f${at}>`)}</form>`],
  [
    '600 inputs labelled by half a megabyte each',
    `<form>${many(600, (at) => `<input name=f${at} aria-labelledby="${'long '.repeat(30)}">`)}</form><div id=long>${'word '.repeat(100_000)}</div>`,
  ],
  [
    'a text of half a megabyte before each of 500 inputs',
    `<form>${many(500, (at) => `${'<i>x</i>'.repeat(300)}<input name=f${at}>`)}</form>`,
  ],
  [
    'a select of 50,000 options',
    `<form><select name=s>${many(50_000, (at) => `<option>${at}</option>`)}</select></form>`,
  ],
  ['100,000 inputs without names', `<form>${many(100_000, () => '<input placeholder=x>')}</form>`],
  [
    '100,000 inputs without names, called like others that have one',
    `<form>${many(50_000, (at) => `<input name=a-${at + 2}><input id=a>`)}</form>`,
  ],
  [
    '20,000 rows of inputs without names',
    `<form><table>${many(20_000, () => '<tr><td>A</td><td><input></td><td><input></td></tr>')}</table></form>`,
  ],
  ['100,000 inputs of one name', `<form>${many(100_000, (at) => `<label>${at} <input name=f></label>`)}</form>`],
  ['an element of 50,000 attributes', `<form><input name=f ${many(50_000, (at) => `a${at}=1 `)}></form>`],
];

it.each(PAGES)('%s are read', (_what, html) => {
  const forms = readForms(html);
  expect(forms[0]!.fields.length).toBeGreaterThan(0);
  expect(Math.max(...forms[0]!.fields.slice(0, 50_000).map(({ label }) => label.length))).toBeLessThanOrEqual(1000);
});

it('of controls that are left out, as many are named as somebody reads', () => {
  const [form] = readForms(`<form><input name=f>${many(100_000, () => '<input>')}</form>`);
  expect(form!.fields).toHaveLength(1);
  expect(form!.left).toHaveLength(300);
});

it('a label is read from the text around it as before', () => {
  const [form] = readForms(
    '<form><fieldset><legend>Crops:</legend><label><input type=radio name=c value=a> Apples *</label><label><input type=radio name=c value=p> Pears</label></fieldset></form>',
  );
  expect(form!.fields[0]).toMatchObject({ label: 'Crops', options: [{ label: 'Apples' }, { label: 'Pears' }] });
});

it.each(awkwardTexts(1_000_000))('a label of a megabyte of %s is cut', (_what, text) => {
  expect(tidyLabel(text).length).toBeLessThanOrEqual(1000);
});
