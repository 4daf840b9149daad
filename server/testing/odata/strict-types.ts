import { isLosslessNumber, LosslessNumber } from 'lossless-json';

/** The types of the strict service's properties, and what its filters and bodies take for a value of each. */
export type Edm =
  | 'Edm.String'
  | 'Edm.Boolean'
  | 'Edm.Int32'
  | 'Edm.Int64'
  | 'Edm.Decimal'
  | 'Edm.Double'
  | 'Edm.Guid'
  | 'Edm.Date'
  | 'Edm.DateTimeOffset'
  | 'Edm.TimeOfDay'
  | 'Edm.Duration'
  | 'odd.Colour'
  | 'odd.Likes'
  | 'odd.Code'
  | 'odd.Address';

/** How a literal of each type is written in an address (OData ABNF 4.01), told apart as strictly as the standard allows. */
const LITERALS: Record<string, RegExp> = {
  'Edm.String': /^'(?:[^']|'')*'$/,
  'odd.Code': /^'(?:[^']|'')*'$/,
  'Edm.Boolean': /^(?:true|false)$/,
  'Edm.Int32': /^-?\d{1,10}$/,
  'Edm.Int64': /^-?\d{1,19}$/,
  'Edm.Decimal': /^-?\d+(?:\.\d+)?$/,
  'Edm.Double': /^-?\d+(?:\.\d+)?(?:[eE][+-]?\d+)?$/,
  'Edm.Guid': /^[\da-fA-F]{8}(?:-[\da-fA-F]{4}){3}-[\da-fA-F]{12}$/,
  'Edm.Date': /^\d{4}-\d{2}-\d{2}$/,
  'Edm.DateTimeOffset': /^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}(?::\d{2}(?:\.\d{1,12})?)?(?:Z|[+-]\d{2}:\d{2})$/,
  'Edm.TimeOfDay': /^\d{2}:\d{2}(?::\d{2}(?:\.\d{1,12})?)?$/,
  'Edm.Duration': /^duration'-?P[\dDTHMS.]+'$/,
  'odd.Colour': /^odd\.Colour'(?:Red|Green|Blue)'$/,
  'odd.Likes': /^odd\.Likes'(?:Pears|Plums|Quinces)(?:,(?:Pears|Plums|Quinces))*'$/,
};

export const isLiteralOf = (type: Edm, literal: string): boolean => LITERALS[type]?.test(literal) === true;

/** What a literal says, as a record holds it. */
export function heldOf(type: Edm, literal: string): unknown {
  if (/'$/.test(literal)) return literal.slice(literal.indexOf("'") + 1, -1).replace(/''/g, "'");
  if (type === 'Edm.Boolean') return literal === 'true';
  return NUMERIC.has(type) ? new LosslessNumber(literal) : literal;
}

const NUMERIC = new Set<Edm>(['Edm.Int32', 'Edm.Int64', 'Edm.Decimal', 'Edm.Double']);

/** Whether a value in a body is one of the type (JSON Format 4.01, 7.1). Numbers arrive as their digits. */
export function isBodyValue(type: Edm, value: unknown): boolean {
  if (value === null) return true;
  const digits = isLosslessNumber(value) ? value.value : undefined;
  switch (type) {
    case 'Edm.Int32':
    case 'Edm.Int64':
    case 'Edm.Decimal':
    case 'Edm.Double':
      return digits !== undefined && isLiteralOf(type, digits);
    case 'Edm.Boolean':
      return typeof value === 'boolean';
    case 'odd.Colour':
    case 'odd.Likes':
      return typeof value === 'string' && isLiteralOf(type, `${type}'${value}'`);
    case 'Edm.Duration':
      return typeof value === 'string' && isLiteralOf(type, `duration'${value}'`);
    case 'Edm.String':
    case 'odd.Code':
      return typeof value === 'string' && (type !== 'odd.Code' || value.length <= 10);
    default:
      return typeof value === 'string' && isLiteralOf(type, value);
  }
}
