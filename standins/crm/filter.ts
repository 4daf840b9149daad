import { allProperties, type EntityType, numberOf, type Property } from './definition.ts';
import { ODataError } from './errors.ts';
import type { Caller } from './rights.ts';

/** A condition in SQL with its values. */
export interface Sql {
  text: string;
  values: unknown[];
}

interface Token {
  kind: 'word' | 'text' | 'number' | 'date' | 'moment' | 'mark';
  value: string;
}

const TOKEN = /\s*(?:('(?:[^']|'')*')|(-?\d+(?:\.\d+)?(?![\w-]))|([A-Za-z_][\w/]*)|([(),]))/y;

function tokens(text: string): Token[] {
  const list: Token[] = [];
  let at = 0;
  while (text.slice(at).trim() !== '') {
    // Dates start like numbers; they are looked for first.
    const date = /^\s*(\d{4}-\d{2}-\d{2}(?:T[\d:.]+(?:Z|[+-]\d{2}:\d{2}))?)/.exec(text.slice(at));
    if (date) {
      list.push({ kind: date[1]!.includes('T') ? 'moment' : 'date', value: date[1]! });
      at += date[0].length;
      continue;
    }
    TOKEN.lastIndex = at;
    const match = TOKEN.exec(text);
    if (!match) throw new ODataError(400, 'BadFilter', `The filter can't be read at “${text.slice(at, at + 20)}”.`);
    at = TOKEN.lastIndex;
    if (match[1] !== undefined) list.push({ kind: 'text', value: match[1].slice(1, -1).replace(/''/g, "'") });
    else if (match[2] !== undefined) list.push({ kind: 'number', value: match[2] });
    else if (match[3] !== undefined) list.push({ kind: 'word', value: match[3] });
    else list.push({ kind: 'mark', value: match[4]! });
  }
  return list;
}

/** How a value of each type is written in a filter (OData ABNF 4.01, primitiveLiteral). */
const LITERALS: Record<Property['type'], Token['kind']> = {
  'Edm.String': 'text',
  'Edm.Int32': 'number',
  'Edm.Decimal': 'number',
  'Edm.Boolean': 'word',
  'Edm.Date': 'date',
  'Edm.DateTimeOffset': 'moment',
};

const COMPARISONS: Record<string, string> = { eq: '=', ne: '<>', gt: '>', ge: '>=', lt: '<', le: '<=' };

/** Reads a $filter (OData URL Conventions 4.01, 5.1.1) into SQL over the entity's table. */
export function filterToSql(text: string, entity: EntityType, caller: Caller): Sql {
  const list = tokens(text);
  let at = 0;
  const peek = (): string | undefined => list[at]?.value;
  const take = (): Token => {
    const token = list[at++];
    if (!token) throw new ODataError(400, 'BadFilter', 'The filter ends too early.');
    return token;
  };
  const expect = (value: string): void => {
    const token = take();
    if (token.value !== value)
      throw new ODataError(400, 'BadFilter', `The filter has “${token.value}” where “${value}” belongs.`);
  };

  const either = (depth: number): Sql => {
    if (depth > 50) throw new ODataError(400, 'BadFilter', 'The filter nests too deep.');
    let left = both(depth);
    while (peek() === 'or') {
      take();
      const right = both(depth);
      left = { text: `(${left.text} OR ${right.text})`, values: [...left.values, ...right.values] };
    }
    return left;
  };
  const both = (depth: number): Sql => {
    let left = negated(depth);
    while (peek() === 'and') {
      take();
      const right = negated(depth);
      left = { text: `(${left.text} AND ${right.text})`, values: [...left.values, ...right.values] };
    }
    return left;
  };
  const negated = (depth: number): Sql => {
    if (peek() === 'not') {
      take();
      const inner = negated(depth + 1);
      return { text: `(NOT COALESCE(${inner.text}, FALSE))`, values: inner.values };
    }
    if (peek() === '(') {
      take();
      const inner = either(depth + 1);
      expect(')');
      return inner;
    }
    const word = peek();
    if (word === 'contains' || word === 'startswith' || word === 'endswith') return search(word);
    return comparison();
  };
  const search = (how: string): Sql => {
    take();
    expect('(');
    const operand = column();
    expect(',');
    const value = String(literal(operand.property)).replace(/[\\%_]/g, '\\$&');
    expect(')');
    const pattern = how === 'contains' ? `%${value}%` : how === 'startswith' ? `${value}%` : `%${value}`;
    return { text: `(${operand.sql} LIKE ?${operand.folded ? '' : ' COLLATE utf8mb4_bin'})`, values: [pattern] };
  };
  const column = (): { sql: string; property: Property | 'id'; folded: boolean } => {
    const name = take().value;
    if (name === 'tolower' || name === 'toupper') {
      expect('(');
      const inner = column();
      expect(')');
      return { ...inner, folded: true };
    }
    if (name === 'id') return { sql: 'n', property: 'id', folded: false };
    const property = allProperties(entity).find((each) => each.name === name);
    if (!property || caller.property(entity, name) === 'none') {
      throw new ODataError(400, 'UnknownProperty', `${entity.type} has no property “${name}” that you may see.`);
    }
    return { sql: `\`${name}\``, property, folded: false };
  };
  const literal = (property: Property | 'id'): unknown => {
    const token = take();
    if (token.value === 'null' && token.kind === 'word') return null;
    const type = property === 'id' ? 'Edm.String' : property.type;
    const fits =
      token.kind === LITERALS[type] &&
      (type !== 'Edm.Int32' || /^-?\d+$/.test(token.value)) &&
      (type !== 'Edm.Boolean' || token.value === 'true' || token.value === 'false') &&
      (type !== 'Edm.DateTimeOffset' || /(?:Z|[+-]\d{2}:\d{2})$/.test(token.value));
    if (!fits) {
      const name = property === 'id' ? 'id' : property.name;
      throw new ODataError(400, 'BadFilter', `${name} is ${type}; “${token.value.slice(0, 40)}” isn't written as one.`);
    }
    if (property === 'id') return numberOf(entity, token.value) ?? 0;
    if (type === 'Edm.Boolean') return token.value === 'true' ? 1 : 0;
    if (type === 'Edm.DateTimeOffset') return new Date(token.value);
    return token.kind === 'number' ? Number(token.value) : token.value;
  };
  const comparison = (): Sql => {
    const { sql, property, folded } = column();
    const operator = take().value;
    if (operator === 'in') {
      expect('(');
      const values: unknown[] = [literal(property)];
      while (peek() === ',') {
        take();
        values.push(literal(property));
      }
      expect(')');
      return { text: `(${sql} IN (${values.map(() => '?').join(', ')}))`, values };
    }
    const symbol = COMPARISONS[operator];
    if (!symbol) throw new ODataError(400, 'BadFilter', `“${operator}” is not a comparison.`);
    const value = literal(property);
    if (value === null) return { text: `(${sql} IS ${symbol === '=' ? '' : 'NOT '}NULL)`, values: [] };
    const exact = typeof value === 'string' && !folded && symbol === '=';
    // Columns compare without regard to case, so the index serves; exact comparison is asked for besides.
    return exact
      ? { text: `(${sql} = ? AND ${sql} = ? COLLATE utf8mb4_bin)`, values: [value, value] }
      : { text: `(${sql} ${symbol} ?)`, values: [value] };
  };

  const result = either(0);
  if (at < list.length)
    throw new ODataError(400, 'BadFilter', `The filter goes on with “${list[at]!.value}” after its end.`);
  return result;
}
