import type { DateOrder, DecimalMark } from '../../values/index.ts';

/** What the values of a column may be, the narrowest that fits. */
export const VALUE_KINDS = [
  'yes/no',
  'date',
  'date and time',
  'time',
  'email',
  'web address',
  'phone',
  'whole number',
  'decimal',
  'money',
  'option',
  'options',
  'long text',
  'text',
] as const;
export type ValueKind = (typeof VALUE_KINDS)[number];

/** A value as it stands in a row: by its place from 0, or, of a file, by its line. */
export interface Seen {
  value: string;
  row: number;
}

/** A value with how often it comes. */
export interface Counted {
  value: string;
  count: number;
}

/** Different spellings that are taken for one value: the commonest, and the others. */
export interface Alike {
  value: string;
  others: string[];
  /** Nothing but case, accents, spaces or punctuation differs; else a typing error is likely. */
  sure: boolean;
}

/** What the values of one column say of it: everything that a choice of its kind rests upon, as data. */
export interface ColumnEvidence {
  /** Rows looked at, and how many of them say nothing, or only stand-ins such as “n/a”. */
  of: number;
  blank: number;
  fillers: Counted[];
  kind: ValueKind;
  /** Values that are none of that kind, with some of them. */
  misfits: number;
  misfitting: Seen[];
  /** How many different values there are; null: more than were told apart. A number, and `twice` absent: all differ. */
  distinct: number | null;
  /** A value that comes again, with both rows; absent: no two are alike, or there are too many to be compared. */
  twice?: { value: string; rows: [number, number] };
  /** The longest value, as text. */
  longest: { characters: number; bytes: number; row: number };
  /** The least and the greatest: a number, or a date in ISO 8601. */
  least?: string;
  greatest?: string;
  /** Of dates written with numbers only: in which order, how many rows can only be so, and how many only otherwise. */
  order?: { order: DateOrder; proved: number; against: number; open: number };
  /** Of numbers: how many decimals at most, and how they are marked. */
  decimals?: number;
  mark?: DecimalMark;
  /** Of money: currencies named, ISO 4217. */
  currencies?: string[];
  /** Of options: each with its count, the commonest first, and those that may be one. */
  options?: Counted[];
  alike?: Alike[];
  /** What parts several options in one cell. */
  by?: string;
  /** Whole numbers that would be days of our time, counted as workbooks do. */
  dayNumbers?: true;
}
