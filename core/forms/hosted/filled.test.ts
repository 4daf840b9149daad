import { formOf, item } from '../../testing/hosted.ts';
import { filledIn, readOptions, writeOptions } from './index.ts';

describe('options as somebody pastes them', () => {
  it('are one a line, with what is sent in front where that is another text, also out of a sheet', () => {
    const read = readOptions('Apple\n pear ; Pear tree\r\n\nplum\tPlum\r', 'en');
    expect(read).toEqual({
      ok: true,
      options: [
        { value: 'Apple', label: { en: 'Apple' } },
        { value: 'pear', label: { en: 'Pear tree' } },
        { value: 'plum', label: { en: 'Plum' } },
      ],
    });
    expect(read.ok && readOptions(writeOptions(read.options, 'en', ['en']), 'en')).toEqual(read);
  });

  it('keep what they are called in other languages', () => {
    const known = [{ value: 'apple', label: { en: 'Apple', de: 'Apfel' } }];
    expect(readOptions('apple;Apples', 'en', known)).toMatchObject({
      options: [{ value: 'apple', label: { en: 'Apples', de: 'Apfel' } }],
    });
  });

  it('are refused with a reason', () => {
    const reason = (text: string): string => {
      const read = readOptions(text, 'en');
      return read.ok ? '' : read.reason;
    };
    expect(reason('')).toMatch(/at least one/);
    expect(reason('a\nb\na')).toBe('“a” is there twice, again in line 3.');
    expect(reason(';only shown')).toMatch(/Line 1 .* not what is sent/);
    expect(reason('x'.repeat(201))).toMatch(/longer than 200/);
    expect(reason(`a;${'x'.repeat(401)}`)).toMatch(/more than 400/);
    expect(reason(Array.from({ length: 1_001 }, (_, at) => `o${at}`).join('\n'))).toMatch(/more than 1000/);
  });
});

describe('a form as it was filled in', () => {
  const form = formOf([
    item('heading', undefined, { label: { en: 'You', de: 'Sie' } }),
    item('one of', 'kind', {
      label: { en: 'Kind' },
      options: [{ value: 'k', label: { en: 'Keeper', de: 'Imkerin' } }],
    }),
    item('text', 'number', { shown: { match: 'all', parts: [{ field: 'kind', test: 'is', value: 'other' }] } }),
    item('date', 'day'),
    item('money', 'fee', { currency: 'EUR' }),
    item('yes/no', 'letters'),
    item('consent', 'agreed'),
    item('hidden', 'source'),
    item('record', 'org', { reads: { system: 's', entity: 'E', shows: ['name'] } }),
    item('group', 'bees', { items: [item('number', 'hives')] }),
    item('text', 'blank'),
  ]);
  const values = {
    ...{ kind: 'k', day: '2027-04-20', fee: '1234.5', letters: 'no', agreed: 'yes', source: 'x', org: 'O-1' },
    ...{ agreed_wording: 'I agree, as it stood', org_shown: 'Obsthof, Weiden', 'bees[0][hives]': '12.5' },
  };
  const said = (language: string): string[] =>
    filledIn(form, values, language).map((line) =>
      line.kind === 'answer' ? `${'>'.repeat(line.depth)}${line.label}: ${line.value}` : `${line.kind} ${line.text}`,
    );

  it('is told in words, as it applied: options by their labels, consents in the wording that was agreed to', () => {
    expect(said('en')).toEqual([
      ...['heading You', 'Kind: Keeper', 'day: April 20, 2027', 'fee: €1,234.50', 'letters: No'],
      ...['I agree, as it stood: Yes', 'org: Obsthof, Weiden'],
      ...['heading bees', expect.stringMatching(/^row /), '>hives: 12.5', 'blank: '],
    ]);
  });

  it('is told in the language that is asked for', () => {
    expect(said('de').slice(0, 5)).toEqual([
      ...['heading Sie', 'Kind: Imkerin', 'day: 20. April 2027', 'fee: 1.234,50\u00a0€', 'letters: Nein'],
    ]);
  });
});
