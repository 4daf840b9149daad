import { ODataError } from './errors.ts';

/** Query options by name, percent-decoded. */
export type Options = Record<string, string | undefined>;

/** What the service takes; everything else that begins with `$` is declined, as it isn't done here. */
const TAKEN = new Set('$filter $orderby $top $skip $select $expand $count $format $skiptoken $deltatoken'.split(' '));

/**
 * Reads the options of an address as the standard has them (RFC 3986): a space is `%20`, and a `+` is a plus.
 * @throws ODataError 501 for an option that isn't done here, 400 for one that isn't any
 */
export function optionsIn(address: string): Options {
  const at = address.indexOf('?');
  const options: Options = {};
  for (const pair of at < 0
    ? []
    : address
        .slice(at + 1)
        .split('&')
        .filter(Boolean)) {
    const [name = '', ...rest] = pair.split('=').map(decoded);
    if (name.startsWith('$') && !TAKEN.has(name))
      throw new ODataError(501, 'NotImplemented', `${name} is not done here.`);
    if (options[name] !== undefined) throw new ODataError(400, 'BadOption', `${name} comes twice.`);
    options[name] = rest.join('=');
  }
  return options;
}

function decoded(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    throw new ODataError(400, 'BadOption', 'The address is not well encoded.');
  }
}

/** Options as an address has them. */
export const written = (options: Options): string =>
  Object.entries(options)
    .flatMap(([name, value]) => (value === undefined ? [] : [`${name}=${encodeURIComponent(value)}`]))
    .join('&');

/** Splits at commas that aren't within parentheses. */
export function listed(text: string): string[] {
  const parts: string[] = [];
  let depth = 0;
  let start = 0;
  for (let at = 0; at <= text.length; at += 1) {
    const sign = text[at];
    if (sign === '(') depth += 1;
    if (sign === ')') depth -= 1;
    if (at === text.length || (sign === ',' && depth === 0)) {
      parts.push(text.slice(start, at).trim());
      start = at + 1;
    }
  }
  return parts;
}
