import type { Texts } from './texts.ts';

/** A text in a language; where it has none in it, in the first of the form's that it has. */
export function say(texts: Texts | undefined, language: string, languages: readonly string[]): string {
  if (!texts) return '';
  for (const each of [language, ...languages]) {
    const text = Object.hasOwn(texts, each) ? texts[each]! : '';
    if (text !== '') return text;
  }
  return '';
}

/**
 * The language a form is shown in: the one that is asked for, else the first that the visitor's browser prefers and the
 * form has (`Accept-Language`, RFC 9110 12.5.4; lookup by RFC 4647 3.4), else the form's first.
 */
export function languageFor(languages: readonly string[], asked: string | undefined, accepted: string): string {
  const wanted = accepted
    .slice(0, 500)
    .split(',')
    .map((each) => {
      const [range = '', ...parameters] = each.trim().split(';');
      const quality = parameters
        .map((parameter) => /^\s*q=([01](?:\.\d{0,3})?)\s*$/.exec(parameter)?.[1])
        .find(Boolean);
      return { range: range.trim(), quality: quality === undefined ? 1 : Number(quality) };
    })
    .filter(({ range, quality }) => range !== '' && range !== '*' && quality > 0)
    .sort((a, b) => b.quality - a.quality);
  for (const range of [...(asked === undefined ? [] : [asked]), ...wanted.map((each) => each.range)]) {
    const parts = range.toLowerCase().slice(0, 40).split('-');
    for (; parts.length > 0; parts.pop()) {
      const found = languages.find((each) => each.toLowerCase() === parts.join('-'));
      if (found) return found;
    }
    const wider = languages.find((each) => each.toLowerCase().split('-')[0] === range.toLowerCase().split('-')[0]);
    if (wider) return wider;
  }
  return languages[0]!;
}
