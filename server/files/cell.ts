import type { CellValue } from 'exceljs';
import { format as shownAs, getFormatDateInfo, getFormatInfo } from 'numfmt';

/** A workbook's cell as a submission would send it. */
export interface ReadCell {
  text: string;
  /** What is worth telling about it. */
  odd?: string;
  /** A date or a time: how dates come out is told once a column. */
  dated?: boolean;
  /** Why nobody can say what it holds. */
  bad?: string;
}

/**
 * Reads a cell as a person sees it: numbers with the digits that are shown, leading zeros and masks among them, times
 * of day without a day, lengths of time beyond a day. Dates and times come in ISO 8601, without a zone: a workbook has
 * none.
 * @param numFmt the cell's number format (ECMA-376, 18.8.30)
 */
export function readCell(value: CellValue, numFmt: string | undefined): ReadCell {
  if (value === null || value === undefined) return { text: '' };
  if (value instanceof Date) return { text: dateText(value, numFmt), dated: true };
  if (typeof value === 'number') return numberText(value, numFmt);
  if (typeof value !== 'object') return typeof value === 'string' ? textCell(value) : { text: String(value) };
  if ('error' in value) return { text: '', bad: `holds the error ${value.error}` };
  if ('richText' in value) return { text: value.richText.map(({ text }) => text).join('') };
  if ('hyperlink' in value)
    return typeof value.text === 'string' ? { text: value.text } : readCell(value.text as CellValue, numFmt);
  if ('formula' in value || 'sharedFormula' in value) {
    if (value.result === undefined)
      return { text: '', bad: 'holds a formula whose result isn’t stored; save the file once more' };
    const result = readCell(value.result as CellValue, numFmt);
    return result.bad === undefined ? { odd: 'holds a formula; its stored result is taken', ...result } : result;
  }
  return { text: '' };
}

/** Dates that stand in the file as ISO 8601 (ECMA-376, 18.18.11, `d`) come as text. */
function textCell(text: string): ReadCell {
  const moment = /^(\d{4}-\d{2}-\d{2})T(\d{2}:\d{2})(:\d{2})?(?:\.\d{1,9})?Z?$/.exec(text);
  if (!moment) return { text };
  const [, day, time, seconds = ':00'] = moment;
  return {
    text: time === '00:00' && seconds === ':00' ? day! : `${day}T${time}${seconds === ':00' ? '' : seconds}`,
    dated: true,
  };
}

/** Days are counted from here (ECMA-376, 18.17.4.1). */
const DAY_NOUGHT = Date.UTC(1899, 11, 30);

/** The parts of a date that the format shows. */
function dateText(value: Date, numFmt = ''): string {
  const { year, month, day, hours, minutes, seconds } = getFormatDateInfo(numFmt);
  const iso = value.toISOString();
  const date = iso.slice(0, 10);
  const time = iso.slice(11, iso.slice(17, 19) === '00' ? 16 : 19);
  const showsDay = year || month || day;
  const showsTime = hours || minutes || seconds;
  if (/\[(?:h+|m+|s+)\]/i.test(numFmt)) return String(shownAs(numFmt, (value.getTime() - DAY_NOUGHT) / 86_400_000));
  if (showsTime && !showsDay) return time;
  // A moment whose format shows its day only is seen as that day.
  return time === '00:00' || (showsDay && !showsTime) ? date : `${date}T${time}`;
}

function numberText(value: number, numFmt = 'General'): ReadCell {
  // Beyond 15 digits a workbook's number is only an approximation, and no person sees them.
  const precise = plain(Number(value.toPrecision(15)));
  const info = getFormatInfo(numFmt);
  if (info.isPercent) return { text: precise, odd: `shows ${shownAs(numFmt, value)} and holds ${precise}` };
  if (info.type !== 'number' && info.type !== 'grouped' && info.type !== 'currency') return { text: precise };
  if (info.isText || info.scale !== 1) return { text: precise };
  const shown = String(shownAs(numFmt, value)).trim();
  // Zeros in front and masks (00000, 000-0000) make a number a text: a postcode, a telephone number.
  if (/^0\d/.test(shown) || /^\d+[-/ ()]+\d[\d\-/ ()]*$/.test(shown)) return { text: shown };
  const decimals = Math.min(15, info.maxDecimals);
  const digits = /\d+(?:\.\d+)?/.exec(shown.replace(/,(?=\d{3})/g, ''))?.[0];
  if (digits === undefined) return { text: precise };
  const rounded = plain(Number(`${value < 0 ? '-' : ''}${digits}`));
  return { text: Math.abs(Number(rounded) - value) <= 10 ** -decimals ? rounded : precise };
}

/** A number without an exponent. */
const plain = (value: number): string =>
  Number.isInteger(value) && Math.abs(value) < 1e21 ? BigInt(value).toString() : String(value);
