import {
  FILE_SORT_NAMES,
  MOST_MEBIBYTES,
  USUAL_SORTS,
  type DayLimit,
  type FileSort,
  type Item,
} from '@zusammen/core/forms/hosted';
import type { Editing } from './editing.tsx';
import { BOX, NumberBox, Part } from './part.tsx';

interface Props {
  item: Item;
  edited: boolean;
  editing: Editing;
}

/** What an answer may be: how long, how much, which days. */
export function LimitsPart({ item, edited, editing }: Props) {
  const shown = limitsInWords(item, editing);
  const set = (change: Partial<Item>): void =>
    editing.change(item.id, (held) => {
      const next = { ...held, ...change };
      for (const name of Object.keys(change) as (keyof Item)[]) if (next[name] === undefined) delete next[name];
      return next;
    });
  if (shown === '' && !edited) return null;
  if (!hasLimits(item)) return null;
  return (
    <>
      ,{' '}
      <Part label="Limits" shown={shown || 'without limits'} edited={edited}>
        {() => (
          <div className="w-[270px] space-y-2 p-2">
            {isText(item) && (
              <NumberBox
                label="Characters at most"
                value={item.maxLength}
                least={1}
                most={100_000}
                change={(maxLength) => set({ maxLength })}
              />
            )}
            {item.kind === 'file' && <FileBox item={item} set={set} />}
            {isNumber(item) && (
              <>
                <NumberBox label="At least" step="any" value={item.least} change={(least) => set({ least })} />
                <NumberBox label="At most" step="any" value={item.most} change={(most) => set({ most })} />
              </>
            )}
            {item.kind === 'number' && (
              <NumberBox
                label="Decimals"
                value={item.decimals}
                least={0}
                most={6}
                change={(decimals) => set({ decimals })}
              />
            )}
            {item.kind === 'money' && (
              <label className="flex items-center justify-between gap-3">
                <span className="text-small">Currency (ISO 4217)</span>
                <input
                  className={`${BOX} w-[110px] uppercase`}
                  maxLength={3}
                  defaultValue={item.currency}
                  onChange={({ target }) => {
                    const currency = target.value.toUpperCase();
                    if (/^[A-Z]{3}$/.test(currency)) set({ currency });
                  }}
                />
              </label>
            )}
            {isDay(item) && (
              <>
                <DayBox
                  label="Not before"
                  limit={item.earliest}
                  own={item}
                  editing={editing}
                  change={(earliest) => set({ earliest })}
                />
                <DayBox
                  label="Not after"
                  limit={item.latest}
                  own={item}
                  editing={editing}
                  change={(latest) => set({ latest })}
                />
              </>
            )}
          </div>
        )}
      </Part>
    </>
  );
}

const isText = ({ kind }: Item): boolean => ['text', 'long text', 'email', 'web address'].includes(kind);
const isNumber = ({ kind }: Item): boolean => kind === 'number' || kind === 'money';
const isDay = ({ kind }: Item): boolean => kind === 'date' || kind === 'date and time';
const hasLimits = (item: Item): boolean => isText(item) || isNumber(item) || isDay(item) || item.kind === 'file';

/** Sorts of files in words. */
const SORTS: Record<FileSort, string> = {
  picture: 'pictures',
  pdf: 'PDF',
  document: 'text documents',
  sheet: 'spreadsheets',
  text: 'plain text and CSV',
};

/** Which files are taken, and how large they may be. */
function FileBox({ item, set }: { item: Item; set: (change: Partial<Item>) => void }) {
  const taken = item.accepts ?? USUAL_SORTS;
  return (
    <>
      {FILE_SORT_NAMES.map((sort) => (
        <label key={sort} className="flex items-center gap-2 text-small">
          <input
            type="checkbox"
            checked={taken.includes(sort)}
            disabled={taken.length === 1 && taken[0] === sort}
            onChange={({ target }) =>
              set({
                accepts: FILE_SORT_NAMES.filter((each) => (each === sort ? target.checked : taken.includes(each))),
              })
            }
          />
          {SORTS[sort]}
        </label>
      ))}
      <NumberBox
        label="Megabytes at most"
        value={item.mostMebibytes ?? MOST_MEBIBYTES}
        least={1}
        most={MOST_MEBIBYTES}
        change={(mostMebibytes) => set({ mostMebibytes })}
      />
    </>
  );
}

/** A day that an answer goes by: none, today, a day that is given, or another question's. */
function DayBox({
  label,
  limit,
  own,
  editing,
  change,
}: {
  label: string;
  limit: DayLimit | undefined;
  own: Item;
  editing: Editing;
  change: (limit: DayLimit | undefined) => void;
}) {
  const dates = editing.standings.filter(({ item }) => isDay(item) && item.id !== own.id);
  return (
    <div className="space-y-1">
      <label className="flex items-center justify-between gap-3">
        <span className="text-small">{label}</span>
        <select
          className={`${BOX} w-[150px]`}
          value={limit === undefined ? '' : limit.from === 'answer' ? `answer ${limit.answer}` : limit.from}
          onChange={({ target }) => {
            const { value } = target;
            if (value === '') change(undefined);
            else if (value === 'today') change({ from: 'today', days: 0 });
            else if (value === 'day') change({ from: 'day', day: new Date().toISOString().slice(0, 10) });
            else change({ from: 'answer', answer: value.slice('answer '.length), days: 0 });
          }}
        >
          <option value="">any day</option>
          <option value="today">today</option>
          <option value="day">a day …</option>
          {dates.map(({ item, name }) => (
            <option key={name} value={`answer ${name}`}>
              {item.label[editing.language] ?? name}
            </option>
          ))}
        </select>
      </label>
      {limit?.from === 'day' && (
        <input
          type="date"
          aria-label={`${label}, the day`}
          className={`${BOX} w-full`}
          value={limit.day ?? ''}
          onChange={({ target }) => target.value && change({ ...limit, day: target.value })}
        />
      )}
      {limit && limit.from !== 'day' && (
        <NumberBox
          label="and so many days later"
          value={limit.days}
          least={-36_525}
          most={36_525}
          change={(days = 0) => change({ ...limit, days })}
        />
      )}
    </div>
  );
}

function limitsInWords(item: Item, { standings, language }: Editing): string {
  const { maxLength, least, most, decimals, currency, earliest, latest, kind } = item;
  const day = (limit: DayLimit): string => {
    const label = standings.find(({ name }) => name === limit.answer)?.item.label[language] ?? limit.answer;
    const from = limit.from === 'today' ? 'today' : limit.from === 'day' ? limit.day : label;
    const days = limit.days ?? 0;
    return days === 0 ? `${from}` : `${Math.abs(days)} days ${days > 0 ? 'after' : 'before'} ${from}`;
  };
  return [
    isText(item) && maxLength !== undefined ? `at most ${maxLength} characters` : '',
    isNumber(item) && least !== undefined && most !== undefined ? `${least} to ${most}` : '',
    isNumber(item) && least !== undefined && most === undefined ? `at least ${least}` : '',
    isNumber(item) && least === undefined && most !== undefined ? `at most ${most}` : '',
    kind === 'number' && decimals === 0 ? 'whole' : '',
    kind === 'number' && decimals !== undefined && decimals > 0 ? `${decimals} decimals` : '',
    kind === 'money' ? `in ${currency}` : '',
    isDay(item) && earliest ? `not before ${day(earliest)}` : '',
    isDay(item) && latest ? `not after ${day(latest)}` : '',
    kind === 'file'
      ? `${(item.accepts ?? USUAL_SORTS).map((sort) => SORTS[sort]).join(', ')} of at most ${item.mostMebibytes ?? MOST_MEBIBYTES} MB`
      : '',
  ]
    .filter(Boolean)
    .join(', ');
}
