import { typingErrors } from '../../recognition/index.ts';
import { fold, lengthInBytes, lengthInCharacters, readDate, readMoney, readNumber } from '../../values/index.ts';
import type { DateOrder } from '../../values/index.ts';
import type { Alike, Counted, ColumnEvidence, Seen, ValueKind } from './evidence.ts';
import {
  EVERY_KIND,
  isPlainNumber,
  isStandIn,
  isWord,
  kindBit,
  kindsOf,
  SHAPED,
  type Kinds,
  type ShapedKind,
} from './shapes.ts';

/** So many different values are told apart and counted, and more as long as none has come twice. */
const TOLD_APART = 20_000;
/** Of more it isn't known whether any comes twice. */
const MOST_ALONE = 250_000;
/** A column of repeating values is a choice: at most so many options, each so often on average. */
const MOST_OPTIONS = { few: 12, many: 24 };
/** From so many values on there may be many options. */
const MANY_VALUES = 200;
const OFTEN = 3;
const LEAST_FOR_OPTIONS = 8;
const LONGEST_OPTION = 60;
/** A column with more different values isn't looked through for several options in one. */
const MOST_CHOSEN = 5_000;
/** Longer texts, and those of several lines, are long. */
const LONG_TEXT = 120;
/** A column is of a kind when no more than this share of its values is something else. */
const STRAY = 0.05;
/** Kinds that are given up while a column is looked through: too many values are something else. */
const GIVEN_UP_AFTER = 40;
const MOST_SHOWN = 5;

/**
 * Different values with how often each comes, the first row it stands in, and what it is by its letters. Numbers stand in
 * lists beside the values: two hundred thousand small objects would cost more than all else.
 */
class ToldApart {
  private readonly places = new Map<string, number>();
  readonly counts: number[] = [];
  readonly rows: number[] = [];
  readonly kinds: Kinds[] = [];

  get size(): number {
    return this.counts.length;
  }

  placeOf(value: string): number | undefined {
    return this.places.get(value);
  }

  add(value: string, row: number, kinds: Kinds): void {
    this.places.set(value, this.counts.length);
    this.counts.push(1);
    this.rows.push(row);
    this.kinds.push(kinds);
  }

  /** The commonest first. */
  counted(): Counted[] {
    return [...this.places].map(([value, place]) => ({ value, count: this.counts[place]! })).sort(commonestFirst);
  }
}

/**
 * Looks through the values of one column, as they stand in its rows, and tells what they are. Linear in their letters;
 * memory is bounded by {@link MOST_ALONE}.
 */
export function evidenceOf(values: Iterable<string>): ColumnEvidence {
  const column = new ColumnReader();
  for (const value of values) column.add(value);
  return column.evidence();
}

/** Looks through a column while its rows are gone through; many columns side by side are read fastest row by row. */
export class ColumnReader {
  private of = 0;
  private blank = 0;
  /** Different values with their counts, as they stand in the rows; undefined: there are too many. */
  private told: ToldApart | undefined = new ToldApart();
  private readonly standIns = new Map<string, number>();
  private twice: ColumnEvidence['twice'];
  private longest = { text: '', row: 0 };
  private lines = false;
  /** Kinds that are still likely; of each, how many values are none of it, and some of them. */
  private likely: Kinds = EVERY_KIND;
  private readonly misfits = SHAPED.map(() => ({ count: 0, shown: [] as Seen[] }));
  private readonly range = { dates: new Range(), numbers: new NumberRange() };

  add(raw: string): void {
    const row = this.of;
    this.of += 1;
    const { told } = this;
    const place = told?.placeOf(raw);
    if (told && place !== undefined) {
      told.counts[place]! += 1;
      this.twice ??= { value: raw.trim().slice(0, 200), rows: [told.rows[place]!, row] };
      if (told.size > TOLD_APART) this.told = undefined;
      return this.count(told.kinds[place]!, raw, row);
    }
    const text = raw.trim();
    if (text === '') {
      this.blank += 1;
      return;
    }
    if (isStandIn(text)) {
      this.standIns.set(text, (this.standIns.get(text) ?? 0) + 1);
      return;
    }
    if (text.length > this.longest.text.length) this.longest = { text, row };
    this.lines ||= text.includes('\n');
    const kinds = kindsOf(text, this.likely);
    if (told && told.size < (this.twice ? TOLD_APART : MOST_ALONE)) told.add(raw, row, kinds);
    else this.told = undefined;
    this.measure(kinds, text);
    this.count(kinds, text, row);
  }

  private count(kinds: Kinds, text: string, row: number): void {
    let none = this.likely & ~kinds;
    while (none !== 0) {
      const at = 31 - Math.clz32(none);
      none &= ~(1 << at);
      const misfits = this.misfits[at]!;
      misfits.count += 1;
      if (misfits.shown.length < MOST_SHOWN && !misfits.shown.some(({ value }) => value === text))
        misfits.shown.push({ value: text.slice(0, 200), row });
      if (misfits.count > GIVEN_UP_AFTER && misfits.count > (row + 1 - this.blank) / 2) this.likely &= ~(1 << at);
    }
  }

  private measure(kinds: Kinds, text: string): void {
    if ((kinds & DATES) !== 0) this.range.dates.add(text);
    if ((kinds & NUMBERS) !== 0) this.range.numbers.add(text);
    else if ((kinds & MONEY) !== 0) this.range.numbers.addMoney(text);
  }

  evidence(): ColumnEvidence {
    const fillers = [...this.standIns].map(([value, count]) => ({ value, count })).sort(commonestFirst);
    const standing = fillers.reduce((sum, { count }) => sum + count, 0);
    const filled = this.of - this.blank - standing;
    // Nothing but stand-ins: then they are what the column says.
    if (filled === 0 && standing > 0) return this.onlyStandIns(fillers);
    const { text, row } = this.longest;
    const evidence: ColumnEvidence = {
      ...{ of: this.of, blank: this.blank + standing, fillers, kind: 'text', misfits: 0, misfitting: [] },
      distinct: this.told?.size ?? null,
      ...(this.twice ? { twice: this.twice } : {}),
      longest: { characters: lengthInCharacters(text), bytes: lengthInBytes(text), row },
    };
    if (filled === 0) return evidence;
    const shaped = this.shapedKind(filled);
    if (shaped) return this.withShape(evidence, shaped, filled);
    return this.withOptions(evidence, filled);
  }

  private onlyStandIns(fillers: Counted[]): ColumnEvidence {
    const standing = fillers.reduce((sum, { count }) => sum + count, 0);
    const longest = { characters: 0, bytes: 0, row: 0 };
    return {
      ...{ of: this.of, blank: this.blank + standing, fillers, kind: 'text', misfits: 0, misfitting: [] },
      ...{ distinct: 0, longest },
    };
  }

  /** The narrowest kind that all but a few values are of: among those with the fewest strays, the first. */
  private shapedKind(filled: number): ShapedKind | undefined {
    const counts = SHAPED.map((kind, at) => ({
      kind,
      strays: this.likely & (1 << at) ? this.misfits[at]!.count : Infinity,
    }));
    const likely = counts.filter(({ strays }) => strays <= filled * STRAY);
    const least = Math.min(...likely.map(({ strays }) => strays));
    return likely.find(({ strays }) => strays === least)?.kind;
  }

  private withShape(evidence: ColumnEvidence, kind: ShapedKind, filled: number): ColumnEvidence {
    const { count, shown } = this.misfits[SHAPED.indexOf(kind)]!;
    const found: ColumnEvidence = { ...evidence, kind, misfits: count, misfitting: shown };
    if (kind === 'date') Object.assign(found, this.range.dates.found());
    if (kind === 'whole number' || kind === 'decimal' || kind === 'money')
      Object.assign(found, this.range.numbers.found(kind));
    if (kind === 'whole number' && areDayNumbers(found)) found.dayNumbers = true;
    // Few whole numbers may as well be a choice; that is for somebody to say.
    if (kind === 'whole number' && this.told && this.isChoice(this.told.size, filled))
      found.options = this.told.counted();
    return found;
  }

  private withOptions(evidence: ColumnEvidence, filled: number): ColumnEvidence {
    const long = this.lines || evidence.longest.characters > LONG_TEXT;
    if (!this.told || long || this.told.size > MOST_CHOSEN) return { ...evidence, kind: long ? 'long text' : 'text' };
    const counted = this.told.counted();
    const parted = partedBy(counted, filled);
    if (parted) return { ...evidence, kind: 'options', ...parted };
    const alike = alikeAmong(counted);
    const joined = alike.filter(({ sure }) => sure).reduce((sum, { others }) => sum + others.length, 0);
    if (evidence.longest.characters > LONGEST_OPTION || !this.isChoice(this.told.size - joined, filled))
      return evidence;
    return this.withWords({ ...evidence, kind: 'option', options: counted, ...(alike.length === 0 ? {} : { alike }) });
  }

  /** Among options a word such as “none” is one of them. */
  private withWords(evidence: ColumnEvidence): ColumnEvidence {
    const words = evidence.fillers.filter(({ value }) => isWord(value));
    if (words.length === 0) return evidence;
    return {
      ...evidence,
      blank: evidence.blank - words.reduce((sum, { count }) => sum + count, 0),
      fillers: evidence.fillers.filter(({ value }) => !isWord(value)),
      options: [...evidence.options!, ...words].sort(commonestFirst),
    };
  }

  private isChoice(distinct: number, filled: number): boolean {
    const most = filled >= MANY_VALUES ? MOST_OPTIONS.many : MOST_OPTIONS.few;
    return filled >= LEAST_FOR_OPTIONS && distinct <= Math.min(most, filled / OFTEN);
  }
}

const [DATES, NUMBERS, MONEY] = [kindBit('date'), kindBit('decimal') | kindBit('whole number'), kindBit('money')];

const commonestFirst = (a: Counted, b: Counted): number => b.count - a.count || (a.value < b.value ? -1 : 1);

/** The span of dates, and in which order their parts are written where that can be told. */
class Range {
  private least: string | undefined;
  private greatest: string | undefined;
  private readonly parts = { day: 0, month: 0, either: 0 };

  add(text: string): void {
    const parts = /^(\d{1,2})[./-]\s?(\d{1,2})[./-]\s?\d{4}/.exec(text);
    if (parts) {
      const [first, second] = [Number(parts[1]), Number(parts[2])];
      if (first > 12 && second <= 12) this.parts.day += 1;
      else if (second > 12 && first <= 12) this.parts.month += 1;
      else this.parts.either += 1;
    }
    const read = readDate(text);
    if (!read.ok) return;
    if (this.least === undefined || read.value < this.least) this.least = read.value;
    if (this.greatest === undefined || read.value > this.greatest) this.greatest = read.value;
  }

  found(): Pick<ColumnEvidence, 'least' | 'greatest' | 'order'> {
    const { day, month, either } = this.parts;
    const dayFirst = day >= month;
    const order: DateOrder = dayFirst ? 'day first' : 'month first';
    return {
      ...(this.least === undefined ? {} : { least: this.least, greatest: this.greatest! }),
      ...(day + month + either === 0
        ? {}
        : { order: { order, proved: Math.max(day, month), against: Math.min(day, month), open: either } }),
    };
  }
}

class NumberRange {
  private least = Infinity;
  private greatest = -Infinity;
  private decimals = 0;
  private readonly marks = { comma: 0, point: 0 };
  private readonly currencies = new Set<string>();

  add(text: string): void {
    if (isPlainNumber(text)) return this.take(Number(text.replace(',', '.')), text);
    const read = readNumber(text);
    if (read.ok) this.take(read.value, text);
  }

  addMoney(text: string): void {
    const read = readMoney(text);
    if (!read.ok) return;
    this.take(read.value.amount, text);
    if (read.value.currency !== undefined && this.currencies.size < 20) this.currencies.add(read.value.currency);
  }

  private take(value: number, text: string): void {
    this.least = Math.min(this.least, value);
    this.greatest = Math.max(this.greatest, value);
    const fraction = /([.,])(\d{1,15})\D*$/.exec(text);
    if (!fraction || (fraction[2]!.length === 3 && Number.isInteger(value))) return;
    this.decimals = Math.max(this.decimals, fraction[2]!.length);
    // Three digits behind one mark may be thousands; they prove nothing.
    if (fraction[2]!.length !== 3) this.marks[fraction[1] === ',' ? 'comma' : 'point'] += 1;
  }

  found(kind: ValueKind): Pick<ColumnEvidence, 'least' | 'greatest' | 'decimals' | 'mark' | 'currencies'> {
    const { comma, point } = this.marks;
    return {
      ...(this.least === Infinity ? {} : { least: String(this.least), greatest: String(this.greatest) }),
      ...(kind === 'whole number' ? {} : { decimals: this.decimals }),
      ...(comma + point === 0 ? {} : { mark: comma >= point ? ('comma' as const) : ('point' as const) }),
      ...(kind === 'money' ? { currencies: [...this.currencies].sort() } : {}),
    };
  }
}

/** Days counted from 30 December 1899 (ECMA-376, 18.17.4.1) that fall between 1970 and 2079. */
const DAY_NUMBERS = { least: 25_569, greatest: 65_745 };
const areDayNumbers = ({ least, greatest }: ColumnEvidence): boolean =>
  Number(least) >= DAY_NUMBERS.least && Number(greatest) <= DAY_NUMBERS.greatest;

const PARTS = [';', '|', '\n', ',', '/'] as const;
/** This share of the values has several parts at least. */
const SEVERAL = 0.1;

/** Several options in one cell: what parts them, where parts repeat as options do. */
function partedBy(
  told: readonly Counted[],
  filled: number,
): Pick<ColumnEvidence, 'by' | 'options' | 'alike'> | undefined {
  for (const by of PARTS) {
    const counts = new Map<string, number>();
    let several = 0;
    let parts = 0;
    for (const { value, count } of told) {
      const each = [
        ...new Set(
          value
            .split(by)
            .map((part) => part.trim())
            .filter((part) => part !== ''),
        ),
      ];
      if (each.length > 1) several += count;
      for (const part of each) counts.set(part, (counts.get(part) ?? 0) + count);
      parts += each.length * count;
      if (counts.size > MOST_OPTIONS.many * 2) break;
    }
    const enough = filled >= LEAST_FOR_OPTIONS && several >= Math.max(2, filled * SEVERAL);
    const options = [...counts].map(([value, count]) => ({ value, count })).sort(commonestFirst);
    const repeat = options.length <= MOST_OPTIONS.many && options.length <= parts / OFTEN;
    if (!enough || !repeat || options.some(({ value }) => value.length > LONGEST_OPTION)) continue;
    const alike = alikeAmong(options);
    return { by, options, ...(alike.length === 0 ? {} : { alike }) };
  }
  return undefined;
}

/** A rare spelling beside one that is so many times as common is likely a typing error. */
const RARER = 4;
/** More options are nobody's misspellings, and comparing all with all would take long. */
const MOST_COMPARED = 200;

/** Options that may be one: the same but for case, accents, spaces and punctuation; or a rare one, mistyped. */
export function alikeAmong(options: readonly Counted[]): Alike[] {
  if (options.length > MOST_COMPARED) return sameFolded(options);
  const sure = sameFolded(options);
  const joined = new Set(sure.flatMap(({ others }) => others));
  const left = options.filter(({ value }) => !joined.has(value));
  const typed = left.flatMap((common): Alike[] => {
    const others = left.filter((rare) => rare.count * RARER <= common.count && isMistyped(rare.value, common.value));
    return others.length === 0 ? [] : [{ value: common.value, others: others.map(({ value }) => value), sure: false }];
  });
  return [...sure, ...typed];
}

function sameFolded(options: readonly Counted[]): Alike[] {
  const byFold = new Map<string, Counted[]>();
  for (const option of options) {
    const key = fold(option.value) || option.value;
    byFold.set(key, [...(byFold.get(key) ?? []), option]);
  }
  return [...byFold.values()].flatMap((same) => {
    const [first, ...others] = [...same].sort((a, b) => b.count - a.count || untidiness(a.value) - untidiness(b.value));
    return others.length === 0 ? [] : [{ value: first!.value, others: others.map(({ value }) => value), sure: true }];
  });
}

const untidiness = (text: string): number => (text === text.trim() ? 0 : 1);

/** One letter more, less, other or swapped, in words long enough for that to be no other word. */
function isMistyped(a: string, b: string): boolean {
  const [left, right] = [fold(a), fold(b)];
  return Math.min(left.length, right.length) >= 5 && !/\d/.test(left + right) && typingErrors(left, right, 1) === 1;
}
