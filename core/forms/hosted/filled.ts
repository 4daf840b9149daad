import { drawnName, fileName } from './files.ts';
import { isQuestion } from './kinds.ts';
import { shownName, wordingOf } from './answers.ts';
import type { HostedForm, Item } from './model.ts';
import { placedPages, type Placed } from './placed.ts';
import { say } from './say.ts';
import type { Answers } from './shown.ts';
import { wordsIn, type Words } from './words.ts';

/** A form as somebody has filled it in, line by line: for reading, on paper too. */
export type FilledLine =
  | { kind: 'page' | 'heading' | 'row'; text: string }
  /** Deeper in: a row of a group. */
  | {
      kind: 'answer';
      label: string;
      value: string;
      depth: number;
      /** What was drawn as a signature: where it is to be had; an SVG path once it was fetched. */
      drawn?: string;
    };

/**
 * What was asked and answered, in one language. What wasn't shown for these answers isn't there; what was left blank is,
 * with nothing said. What nobody sees isn't told.
 * @param values as they went on: numbers with a point, days by ISO 8601
 */
export function filledIn(form: HostedForm, values: Answers, language: string): FilledLine[] {
  const words = wordsIn(language);
  const text = (texts: Item['label'] | undefined): string => say(texts, language, form.languages);
  const lines: FilledLine[] = [];
  const add = (placed: Placed, depth: number): void => {
    const { item, name } = placed;
    if (!placed.shown || item.kind === 'words' || item.kind === 'hidden') return;
    if (item.kind === 'heading') return void lines.push({ kind: 'heading', text: text(item.label) });
    if (item.kind === 'group') {
      if ((placed.rows ?? []).some(({ says }) => says)) lines.push({ kind: 'heading', text: text(item.label) });
      (placed.rows ?? [])
        .filter(({ says }) => says)
        .forEach(({ items }, at) => {
          lines.push({ kind: 'row', text: words.row(at + 1) });
          for (const each of items) add(each, depth + 1);
        });
      return;
    }
    if (!isQuestion(item.kind)) return;
    const said = item.kind === 'consent' ? values[wordingOf(name)] : undefined;
    lines.push({
      kind: 'answer',
      label: String(said ?? text(item.label)),
      value: valueOf(item, name, values, words, { language, text }),
      depth,
      ...(item.kind === 'signature' && typeof values[drawnName(name)] === 'string'
        ? { drawn: values[drawnName(name)] as string }
        : {}),
    });
  };
  for (const { page, shown, items } of placedPages(form, values)) {
    if (!shown) continue;
    const title = text(page.title);
    if (title !== '') lines.push({ kind: 'page', text: title });
    for (const each of items) add(each, 0);
  }
  return lines;
}

function valueOf(
  item: Item,
  name: string,
  values: Answers,
  words: Words,
  { language, text }: { language: string; text: (texts: Item['label'] | undefined) => string },
): string {
  const said = [values[name] ?? []].flat();
  if (item.kind === 'file') return [values[fileName(name)] ?? said].flat().join('; ');
  if (item.reads) return [values[shownName(name)] ?? said].flat().join('; ');
  return said
    .map((each) => {
      const option = item.options?.find(({ value }) => value === each);
      if (option) return text(option.label) || each;
      switch (item.kind) {
        case 'yes/no':
        case 'consent':
          return each === 'yes' ? words.yes : each === 'no' ? words.no : each;
        case 'number':
        case 'money':
          return amount(each, language, item.kind === 'money' ? item.currency : undefined);
        case 'date':
          return /^\d{4}-\d{2}-\d{2}$/.test(each)
            ? new Intl.DateTimeFormat(language, { dateStyle: 'long', timeZone: 'UTC' }).format(new Date(each))
            : each;
        default:
          return each;
      }
    })
    .join(', ');
}

function amount(said: string, language: string, currency: string | undefined): string {
  // As a text: a double would round what has many digits.
  if (!/^-?\d{1,15}(?:\.\d+)?$/.test(said)) return said;
  const style = currency === undefined ? {} : ({ style: 'currency', currency } as const);
  return new Intl.NumberFormat(language, { maximumFractionDigits: 6, ...style }).format(Number(said));
}
