import { risingCurve, fit, fitOdds } from '../bench/corpus/fit.ts';
import { realForms } from '../bench/corpus/labelled.ts';
import { fluentWords, jsonWords, withFluentWords, withJsonWords } from '../bench/corpus/localised.ts';
import { FROM_DEBIAN, FROM_NPM } from '../bench/corpus/packages.ts';
import { becomesOurs } from '../core/asking/index.ts';
import { validated } from '../core/documents/index.ts';
import { HostedForm, troublesOf } from '../core/forms/hosted/index.ts';
import { readForms } from '../core/forms/index.ts';
import type { IntakeDocument } from '../core/intake/index.ts';
import { probabilities } from '../core/mapping/reading/softmax.ts';

describe('the corpus of real forms', () => {
  const [training, heldOut] = [realForms('training'), realForms('held-out')];
  it('has 250 forms and more in eight languages and more, all of them labelled', () => {
    const all = [...training, ...heldOut];
    expect(all.length).toBeGreaterThanOrEqual(250);
    expect(new Set(all.map(({ language }) => language)).size).toBeGreaterThanOrEqual(8);
    expect(
      all.every(({ fields }) => fields.length > 0 && fields.every(({ truth }) => truth.meaning !== undefined)),
    ).toBe(true);
  });
  it('teaches nothing that it is measured on', () => {
    const where = ({ package: name, file, at, language }: (typeof training)[number]): string =>
      JSON.stringify([name, file, at, language]);
    const taught = new Set(training.map(where));
    expect(heldOut.filter((form) => taught.has(where(form)))).toEqual([]);
  });
  it('names each package that it draws on, pinned by its checksum', () => {
    const known = new Set([...FROM_NPM, ...FROM_DEBIAN].map(({ name }) => name));
    expect([...training, ...heldOut].filter(({ package: name }) => !known.has(name))).toEqual([]);
    expect(FROM_NPM.every(({ integrity }) => /^sha512-[\w+/]{86}==$/.test(integrity))).toBe(true);
    expect(FROM_DEBIAN.every(({ sha256 }) => /^[0-9a-f]{64}$/.test(sha256))).toBe(true);
  });
  it('commits short labels only', () => {
    for (const { fields } of [...training, ...heldOut])
      for (const { label, placeholder = '', section = '' } of fields)
        expect([label, placeholder, section].every((text) => text.length <= 80)).toBe(true);
  });
});

it('each of them can become a form of ours that can be shown', () => {
  const real = [...realForms('training'), ...realForms('held-out')];
  for (const { fields, file } of real) {
    // The corpus keeps labels of options only.
    const sent = fields.map((field) => ({
      ...field,
      ...(field.options
        ? { options: field.options.map((label) => ({ value: String(label), label: String(label) })) }
        : {}),
    }));
    const page = {
      format: 1,
      name: 'A page',
      source: { kind: 'page' },
      fields: sent,
      plan: { steps: [] },
      settings: { perMinute: 60 },
    };
    let made = 0;
    const { form } = becomesOurs(page as unknown as IntakeDocument, () => `n${(made += 1)}`).document;
    const result = validated(HostedForm, JSON.parse(JSON.stringify(form)));
    expect([file, result.ok || result]).toEqual([file, true]);
    expect([file, troublesOf(form!)]).toEqual([file, []]);
  }
});

describe('pages that come in several languages', () => {
  it('get their words by keys of translations', () => {
    const words = jsonWords('{"form": {"first": "Imię", "first.placeholder": "Twoje imię"}}');
    const page = `<%# a note %><form><label for="a">__jhiTranslateTag__('form.first')</label><input id="a" name="a" placeholder="__jhiTranslatePipe__('form.first.placeholder')" /></form>`;
    expect(readForms(withJsonWords(page, words))[0]!.fields[0]).toMatchObject({
      label: 'Imię',
      placeholder: 'Twoje imię',
    });
  });
  it('get their words from Fluent files', () => {
    const words = fluentWords('name = Nazwisko\n    .accesskey = N\nhint =\n    .placeholder = np. Nowak\n');
    const page = '<html:label for="a" data-l10n-id="name"/><html:input id="a" data-l10n-id="hint"/>';
    expect(readForms(withFluentWords(page, words))[0]!.fields[0]).toMatchObject({
      label: 'Nazwisko',
      placeholder: 'np. Nowak',
    });
  });
});

describe('learning', () => {
  it('finds which feature speaks for which class', () => {
    const examples = Array.from({ length: 40 }, (_, at) => ({
      seen: at % 2 === 0 ? ['mail', 'noise'] : ['phone', 'noise'],
      was: at % 2 === 0 ? 'email' : 'phone',
      counts: 1,
    }));
    const weights = fit(examples, 0.5, 0.01);
    const sure = [...probabilities(weights, ['mail'])][weights.classes.indexOf('email')]!;
    expect(sure).toBeGreaterThan(0.9);
    expect(fit(examples, 0.5, 0.01)).toEqual(weights);
  });
  it('keeps expected weights where nothing is seen, and moves the others', () => {
    const pairs = Array.from({ length: 200 }, (_, at) => ({ evidence: [1, at % 2, 0], right: at % 2 === 1 }));
    const [, seen, unseen] = fitOdds(pairs, [0, 0, 2.5]);
    expect(seen).toBeGreaterThan(1);
    expect(unseen).toBe(2.5);
  });
  it('says how often something was right, never less for what was surer', () => {
    const said = Array.from({ length: 300 }, (_, at) => ({ said: at / 300, right: (at * 7) % 300 < at }));
    const curve = risingCurve(said);
    expect(curve.length).toBeGreaterThan(2);
    expect(curve.every(([x, y], at) => at === 0 || (x > curve[at - 1]![0] && y >= curve[at - 1]![1]))).toBe(true);
  });
});
