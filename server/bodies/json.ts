import { visit } from 'jsonc-parser';
import { parseJsonExactly } from '@zusammen/core/values';

/** Why a body can't be read: the field it is about ('' for the whole), and the reason. */
export class UnreadableBody extends Error {
  constructor(
    readonly field: string,
    readonly reason: string,
    readonly status: 400 | 422 = 400,
  ) {
    super(field === '' ? `The body ${reason}.` : `${field} ${reason}.`);
  }
}

/** Names that would reach an object's prototype. */
export const NEVER_NAMES: ReadonlySet<string> = new Set(['__proto__']);

export interface JsonLimits {
  depth: number;
  /** Values and names in all; what has more is given up as soon as that is seen. */
  values: number;
}

/** What a person's configuration needs, several times over. */
const USUAL: JsonLimits = { depth: 32, values: 400_000 };

const strict = new TextDecoder('utf-8', { fatal: true });

/** @throws UnreadableBody for bytes that are no UTF-8 */
export function utf8(bytes: Uint8Array): string {
  try {
    return strict.decode(bytes);
  } catch {
    throw new UnreadableBody('', 'is not valid UTF-8');
  }
}

const HALF = 'holds half a character (a lone surrogate)';

/** Why a text can be kept by no database and sent to no system. */
export const unfitText = (text: string): string | undefined =>
  text.includes('\u0000') ? 'holds a null character' : text.isWellFormed() ? undefined : HALF;

/** A name as an answer may repeat it. */
export const shownName = (name: string): string => name.slice(0, 40).toWellFormed().replaceAll('\u0000', '␀');

/**
 * Parses JSON strictly: what `JSON.parse` lets pass in silence (keys that come twice, `__proto__`, endless nesting,
 * half characters, digits lost) is a problem that names the key, or kept.
 * @throws UnreadableBody
 */
export function parseJson(bytes: Uint8Array, { depth, values }: JsonLimits = USUAL): unknown {
  const text = utf8(bytes);
  const open: Set<string>[] = [];
  let nested = 0;
  let seen = 0;
  let last = '';
  const one = (): void => {
    seen += 1;
    if (seen > values) throw new UnreadableBody('', `holds more than ${values} values`, 422);
  };
  const deeper = (): void => {
    one();
    nested += 1;
    if (nested > depth) throw new UnreadableBody('', `is nested deeper than ${depth} levels`);
  };
  visit(text, {
    onObjectBegin: () => {
      deeper();
      open.push(new Set());
    },
    onObjectProperty: (name) => {
      one();
      const keys = open.at(-1);
      const unfit = unfitText(name);
      if (unfit !== undefined) throw new UnreadableBody(shownName(name), unfit);
      last = name;
      if (NEVER_NAMES.has(name)) throw new UnreadableBody(name, 'is not a name a field can have');
      if (keys?.has(name)) throw new UnreadableBody(shownName(name), 'comes twice');
      keys?.add(name);
    },
    onObjectEnd: () => {
      nested -= 1;
      open.pop();
    },
    onArrayBegin: deeper,
    onArrayEnd: () => void (nested -= 1),
    onLiteralValue: (value: unknown) => {
      one();
      if (typeof value === 'string' && !value.isWellFormed()) throw new UnreadableBody(shownName(last), HALF);
    },
  });
  try {
    return parseJsonExactly(text);
  } catch (error) {
    throw new UnreadableBody('', `is not valid JSON: ${(error as Error).message.replace(/, ".*$/s, '')}`);
  }
}
