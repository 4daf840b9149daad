/* eslint-disable regexp/no-super-linear-move, regexp/no-super-linear-backtracking -- pages of pinned packages, read by a benchmark */
/** Words of a language by the keys that a page names them by. */
export type Words = ReadonlyMap<string, string>;

/** A template of Angular, as the generator of packages writes it, with the words of one language in it. */
export function withJsonWords(template: string, words: Words): string {
  const said = (key: string): string => words.get(key) ?? '';
  return template
    .replace(/<%[\s\S]*?%>/g, '')
    .replace(/__jhiTranslate(?:Tag|Pipe)__\('((?:[^'\\]|\\.)*)'[^)]*\)/g, (_, key: string) =>
      said(key.replace(/\\/g, '')).replace(/<[^>]*>/g, ''),
    )
    .replace(/^\s*(?:@(?:if|for|let|else|switch|case)\b.*|\}.*)$/gm, '');
}

/** The words of a file of translations, with keys joined by dots. */
export function jsonWords(text: string): Map<string, string> {
  const words = new Map<string, string>();
  const plain = text.replace(/<%[\s\S]*?%>/g, '').replace(/,(\s*[}\]])/g, '$1');
  if (plain.trim() === '') return words;
  const gather = (value: unknown, path: string): void => {
    if (typeof value === 'string') words.set(path, value);
    else if (value && typeof value === 'object')
      for (const [key, each] of Object.entries(value)) gather(each, path ? `${path}.${key}` : key);
  };
  try {
    gather(JSON.parse(plain), '');
  } catch {
    // A template of translations is no JSON where parts of it are left out; what forms share is told in plain lines.
    for (const [, key, said] of plain.matchAll(
      /"(email|email\.placeholder|username|username\.placeholder)":\s*"([^"]*)"/g,
    ))
      words.set(`global.form.${key!}`, said!);
  }
  return words;
}

/** Words of a file in Fluent's syntax: `key = text`, and attributes below it as `key.attribute`. */
export function fluentWords(text: string): Map<string, string> {
  const words = new Map<string, string>();
  let key = '';
  for (const line of text.split('\n')) {
    const message = /^([a-z][\w-]*)\s*=\s*(.*)$/i.exec(line);
    const attribute = /^\s+\.([a-z-]+)\s*=\s*(.*)$/i.exec(line);
    if (message) {
      key = message[1]!;
      if (message[2]) words.set(key, message[2].trim());
    } else if (attribute && key) words.set(`${key}.${attribute[1]}`, attribute[2]!.trim());
  }
  return words;
}

/** A page that marks its words by `data-l10n-id`, with the words of one language in it, as HTML. */
export function withFluentWords(page: string, words: Words): string {
  return page
    .replace(/<(\/?)html:/g, '<$1')
    .replace(/<(\w+)((?:\s[^<>]*?)?)\s*\/>/g, (whole, tag: string, rest: string) =>
      /^(?:input|br|hr|img)$/.test(tag) ? whole : `<${tag}${rest}></${tag}>`,
    )
    .replace(
      /<(\w+)([^<>]*?)\sdata-l10n-id="([\w-]+)"([^<>]*)>/g,
      (_, tag: string, a: string, key: string, b: string) => {
        const attributes = ['placeholder', 'title', 'label', 'aria-label']
          .flatMap((name) =>
            words.has(`${key}.${name}`) ? ` ${name}="${words.get(`${key}.${name}`)!.replace(/"/g, '&quot;')}"` : [],
          )
          .join('');
        return `<${tag}${a}${b}${attributes}>${words.get(key) ?? ''}`;
      },
    );
}
