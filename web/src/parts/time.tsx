import { useEffect, useState } from 'react';
import { relative } from './relative.ts';

const exact = new Intl.DateTimeFormat(undefined, { dateStyle: 'long', timeStyle: 'medium' });
const number = new Intl.NumberFormat();

/** A moment, told relative to now; exact on hover. */
export function Moment({ at }: { at: string | null | undefined }) {
  const [, tick] = useState(0);
  useEffect(() => {
    const timer = setInterval(() => tick((count) => count + 1), 15_000);
    return () => clearInterval(timer);
  }, []);
  if (!at) return <span className="text-soft">–</span>;
  const date = new Date(at);
  return (
    <time dateTime={at} title={exact.format(date)} className="whitespace-nowrap">
      {relative(date, Date.now())}
    </time>
  );
}

export const count = (value: number): string => number.format(value);

/** A time span in words, from milliseconds. */
export function span(ms: number): string {
  if (ms < 950) return `${Math.round(ms)} ms`;
  if (ms < 60_000) return `${number.format(Math.round(ms / 100) / 10)} s`;
  return `${number.format(Math.round(ms / 60_000))} min`;
}

/** The start of a day in the viewer's zone, or of the one after, as an exact moment. */
export function dayStart(day: string | null, later: 0 | 1): string | undefined {
  const [year, month, date] = (day ?? '').split('-').map(Number);
  if (!year || !month || !date) return undefined;
  const moment = new Date(year, month - 1, date + later);
  return Number.isNaN(moment.getTime()) ? undefined : moment.toISOString();
}
