import type { ReviewCause } from '@zusammen/core/api';
import { useSearchParams } from 'react-router';
import { useIntakes, useSystems, type ReviewSearch } from '../../api/hooks.ts';
import { useAddress } from '../../parts/address.ts';
import { SearchBox } from '../../parts/search-box.tsx';
import { Radios } from '../../parts/radios.tsx';

const SHOWN = {
  all: { name: 'All', states: ['in review', 'refused', 'failed'] },
  decide: { name: 'To decide', states: ['in review'] },
  mend: { name: 'To put right', states: ['refused', 'failed'] },
} as const;
type Shown = keyof typeof SHOWN;

/** How long something has waited at least, in days. */
const AGES = [
  ['', 'of any age'],
  ['1', 'older than a day'],
  ['7', 'older than a week'],
  ['30', 'older than a month'],
] as const;
const DAY_MS = 86_400_000;
const HOUR_MS = 3_600_000;

const shownIn = (params: URLSearchParams): Shown =>
  Object.hasOwn(SHOWN, params.get('show') ?? '') ? (params.get('show') as Shown) : 'all';

/** What the page's address asks for. */
export function useReviewSearch(): ReviewSearch & { narrowed: boolean } {
  const [params] = useSearchParams();
  const given = (name: string): string | undefined => params.get(name) || undefined;
  const [text, intake, system, days] = [given('text'), given('intake'), given('system'), Number(given('days') ?? 0)];
  // By the hour, so that the question stays the same from one moment to the next.
  const to = days > 0 ? new Date(Math.floor(Date.now() / HOUR_MS) * HOUR_MS - days * DAY_MS).toISOString() : undefined;
  const states = SHOWN[shownIn(params)].states;
  return {
    ...{ text, intake, system, to },
    state: states.join(','),
    narrowed: [text, intake, system, to].some((each) => each !== undefined),
  };
}

/** Search, intake, system, age, and whether something is to be decided or to be put right. */
export function Filters({ counts }: { counts: { causes: readonly ReviewCause[] } | undefined }) {
  const [params, change] = useAddress();
  const intakes = useIntakes();
  const systems = useSystems();
  const shown = shownIn(params);
  // Another question begins at the head of its answer.
  const set = (name: string, value: string): void => change({ cause: undefined, submission: undefined, [name]: value });
  const choice = (name: string, label: string, options: readonly (readonly [string, string])[]) => (
    <select
      aria-label={label}
      value={params.get(name) ?? ''}
      onChange={({ target }) => set(name, target.value)}
      className="h-[32px] max-w-[150px] rounded-[7px] border border-line bg-sheet px-2 text-small"
    >
      {options.map(([value, said]) => (
        <option key={value} value={value}>
          {said}
        </option>
      ))}
    </select>
  );
  const total = counts?.causes.reduce((sum, each) => sum + each.count, 0);
  return (
    <div className="flex flex-wrap items-center justify-end gap-2">
      <SearchBox
        label="Search what waits"
        placeholder="A name, an address, any value"
        text={params.get('text') ?? ''}
        change={(text) => set('text', text)}
        width="w-[190px] text-small"
      />
      {choice('intake', 'Intake', [
        ['', 'all intakes'],
        ...(intakes.data ?? [])
          .filter(({ putAwayAt }) => putAwayAt === null)
          .map(({ id, name }) => [id, name] as const),
      ])}
      {(systems.data?.length ?? 0) > 1 &&
        choice('system', 'System', [['', 'all systems'], ...systems.data!.map(({ id, name }) => [id, name] as const)])}
      {choice('days', 'Age', AGES)}
      <Radios
        label="What is shown"
        chosen={shown}
        choose={(next) => set('show', next === 'all' ? '' : next)}
        className="text-small"
        options={(Object.keys(SHOWN) as Shown[]).map((each) => ({
          value: each,
          label: (
            <>
              {SHOWN[each].name}
              {each === shown && total !== undefined && <span className="ml-1 font-mono">{total}</span>}
            </>
          ),
        }))}
      />
    </div>
  );
}
