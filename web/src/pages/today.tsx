import { Link, useSearchParams } from 'react-router';
import { useIntakes, useSystems, useToday } from '../api/hooks.ts';
import { usePairings } from '../api/pairings.ts';
import type { IntakeLine, Range, Today as Figures } from '@zusammen/core/api';
import { cx } from '../parts/cx.ts';
import { Radios } from '../parts/radios.tsx';
import { Heading, Sheet, TD, TH } from '../parts/sheet.tsx';
import { SystemStateTag } from '../parts/state.tsx';
import { Empty, Fetched } from '../parts/states.tsx';
import { count, Moment, span } from '../parts/time.tsx';
import { ArrivalsChart } from './arrivals-chart.tsx';
import { IntakeFigures } from './intake-figures.tsx';
import { StateTag } from './pairing/state-tag.tsx';

const RANGES: [Range, name: string, before: string, by: string][] = [
  ['24h', '24 hours', 'the day before', 'hour'],
  ['7d', '7 days', 'the week before', 'six hours'],
  ['30d', '30 days', 'the month before', 'day'],
];
/** So many intakes are shown; all of them have a page of their own. */
const BUSIEST = 12;
const day = new Intl.DateTimeFormat(undefined, { weekday: 'long', day: 'numeric', month: 'long' });

export function Today() {
  const [params, setParams] = useSearchParams();
  const chosen = RANGES.find(([range]) => range === params.get('range')) ?? RANGES[0]!;
  const today = useToday(chosen[0]);
  const intakes = useIntakes();
  const systems = useSystems();
  const inUse = (intakes.data ?? []).filter(({ putAwayAt }) => putAwayAt === null);
  return (
    <>
      <Heading
        title="Today"
        actions={
          <Radios
            label="Range"
            className="text-small"
            chosen={chosen[0]}
            choose={(range) => setParams({ range }, { replace: true })}
            options={RANGES.map(([value, label]) => ({ value, label }))}
          />
        }
      >
        <span className="text-soft">{day.format(new Date())}</span>
      </Heading>
      <div className="grid grid-cols-[minmax(0,1fr)_410px] items-start gap-3.5 max-[1100px]:grid-cols-[minmax(0,1fr)_340px] max-[900px]:grid-cols-1">
        <div className="space-y-3.5">
          <Fetched query={today} rows={3}>
            {(figures) => (
              <>
                <FigureRow figures={figures} before={chosen[2]} />
                <Sheet title={`What came of it, by ${chosen[3]}`} aside={<Legend />}>
                  {figures.arrived === 0 ? (
                    <Empty title="Nothing arrived in this time">Open an intake and put its address on a form.</Empty>
                  ) : (
                    <ArrivalsChart figures={figures} range={chosen[0]} />
                  )}
                </Sheet>
              </>
            )}
          </Fetched>
          <Sheet
            title="Intakes"
            aside={
              inUse.length > BUSIEST && (
                <Link to="/intakes" className="font-semibold text-plum hover:underline">
                  all {count(inUse.length)}
                </Link>
              )
            }
          >
            <Fetched query={intakes}>{() => <IntakeTable intakes={busiest(inUse)} />}</Fetched>
          </Sheet>
          <PairingsNow />
        </div>
        <div className="space-y-3.5">
          <Sheet title="Needs somebody">
            <Fetched query={today} rows={3}>
              {({ needs, withoutKey }) => <Needs needs={needs} withoutKey={withoutKey} intakes={intakes.data ?? []} />}
            </Fetched>
          </Sheet>
          <Sheet title="Systems">
            <Fetched query={systems} rows={2}>
              {(list) =>
                list.length === 0 ? (
                  <Empty title="No system is connected">
                    <Link to="/systems?connect=1" className="text-plum underline">
                      Connect one
                    </Link>
                  </Empty>
                ) : (
                  <table className="w-full">
                    <tbody>
                      {list.map((system) => (
                        <tr key={system.id}>
                          <td className={cx(TD, 'pl-4')}>
                            <Link to={`/systems?system=${system.id}`} className="hover:underline">
                              {system.name}
                            </Link>
                          </td>
                          <td className={cx(TD, 'text-right font-mono')}>
                            {system.latencyMs === null ? '–' : span(system.latencyMs)}
                          </td>
                          <td className={cx(TD, 'pr-4 text-right')}>
                            <SystemStateTag state={system.state} />
                          </td>
                        </tr>
                      ))}
                    </tbody>
                  </table>
                )
              }
            </Fetched>
          </Sheet>
        </div>
      </div>
    </>
  );
}

/** Pairings, and how far behind each is; what of them waits for somebody leads there. */
function PairingsNow() {
  const pairings = usePairings();
  const list = pairings.data ?? [];
  if (list.length === 0) return null;
  return (
    <Sheet title="Pairings">
      <table className="w-full">
        <tbody>
          {list.map((pairing) => (
            <tr key={pairing.id}>
              <td className={cx(TD, 'pl-4')}>
                <Link to={`/pairings/${pairing.id}`} className="inline-block min-h-6 hover:underline">
                  {pairing.name}
                </Link>
                {(pairing.states.asked > 0 || pairing.states.refused > 0) && (
                  <span className="block text-small text-soft">
                    {pairing.states.asked > 0 && (
                      <Link to="/review/pairs" className="inline-block min-h-6 text-plum hover:underline">
                        {count(pairing.states.asked)} waiting for an answer
                      </Link>
                    )}
                    {pairing.states.asked > 0 && pairing.states.refused > 0 && ', '}
                    {pairing.states.refused > 0 && `${count(pairing.states.refused)} refused`}
                  </span>
                )}
              </td>
              <td className={cx(TD, 'pr-4 text-right')}>
                <StateTag pairing={pairing} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </Sheet>
  );
}

function FigureRow({ figures, before }: { figures: Figures; before: string }) {
  const known = figures.created + figures.updated;
  const cells: [string, string, string][] = [
    ['Arrived', count(figures.arrived), `${count(figures.arrivedBefore)} ${before}`],
    ['New records', count(figures.created), figures.systems === 1 ? 'in one system' : `in ${figures.systems} systems`],
    [
      'Known already',
      count(figures.updated),
      known === 0 ? 'nobody recognised yet' : `${Math.round((figures.updated / known) * 100)} % recognised`,
    ],
    [
      'Applied within',
      figures.median === null ? '–' : span(figures.median),
      figures.p95 === null ? 'nothing applied yet' : `half of them; 95 % in ${span(figures.p95)}`,
    ],
  ];
  return (
    <dl className="sheet grid grid-cols-4 divide-x max-[900px]:grid-cols-2 divide-hair">
      {cells.map(([name, figure, note]) => (
        <div key={name} className="px-4 py-3">
          <dt className="text-small font-semibold text-soft">{name}</dt>
          <dd className="text-[26px] leading-8 font-bold">{figure}</dd>
          <dd className="text-small text-soft">{note}</dd>
        </div>
      ))}
    </dl>
  );
}

function Legend() {
  return (
    <ul className="flex gap-3.5">
      <li>
        <span aria-hidden="true" className="text-moss">
          ■
        </span>{' '}
        new
      </li>
      <li>
        <span aria-hidden="true" className="text-moss-pale">
          ■
        </span>{' '}
        known
      </li>
      <li>
        <span aria-hidden="true" className="text-saffron">
          ◆
        </span>{' '}
        in review
      </li>
      <li>
        <span aria-hidden="true" className="text-brick">
          ✕
        </span>{' '}
        refused
      </li>
    </ul>
  );
}

const NEEDS: Record<string, [one: string, many: string, action: string]> = {
  'in review': ['submission waits for a decision', 'submissions wait for a decision', 'Decide'],
  refused: ['submission was refused', 'submissions were refused', 'Look'],
  failed: ['submission couldn’t be carried out', 'submissions couldn’t be carried out', 'Look'],
  received: ['submission waits for its system', 'submissions wait for their system', 'Look'],
};

function Needs({ needs, withoutKey, intakes }: Pick<Figures, 'needs' | 'withoutKey'> & { intakes: IntakeLine[] }) {
  if (needs.length + withoutKey.length === 0)
    return <Empty title="Nothing waits">Everything that arrived has been carried out.</Empty>;
  return (
    <ul>
      {withoutKey.map((id) => (
        <li
          key={id}
          className="grid grid-cols-[44px_1fr_auto] items-center border-t border-hair px-4 py-2.5 first:border-t-0"
        >
          <span aria-hidden="true" className="text-[17px] font-bold text-brick">
            ✕
          </span>
          <span className="min-w-0">
            <span className="block">Everything is refused: no key for signed events is good any more</span>
            <span className="block text-small text-soft">{intakes.find((each) => each.id === id)?.name ?? ''}</span>
          </span>
          <Link to={`/intakes/${id}/open`} className="pl-3 font-semibold text-plum hover:underline">
            Look
          </Link>
        </li>
      ))}
      {needs.map(({ state, intakeId, words, count: many, oldest }) => {
        const [one, more, action] = NEEDS[state] ?? ['', '', 'Look'];
        const name = intakes.find(({ id }) => id === intakeId)?.name ?? '';
        const to =
          state === 'received'
            ? `/ledger?state=${state}&intake=${intakeId}`
            : `/review?show=${state === 'in review' ? 'decide' : 'mend'}&intake=${intakeId}`;
        return (
          <li
            key={`${state}${intakeId}${words}`}
            className="grid grid-cols-[44px_1fr_auto] items-center border-t border-hair px-4 py-2.5 first:border-t-0"
          >
            <span className="text-[17px] font-bold">{count(many)}</span>
            <span className="min-w-0">
              <span className="block">
                {many === 1 ? one : more}
                {words && state !== 'in review' ? `: “${words}”` : ''}
              </span>
              <span className="block text-small text-soft">
                {name}, oldest <Moment at={oldest} />
              </span>
            </span>
            <Link to={to} className="pl-3 font-semibold text-plum hover:underline">
              {action}
            </Link>
          </li>
        );
      })}
    </ul>
  );
}

/** Those through which most came lately, in the order they stand in otherwise. */
function busiest(intakes: readonly IntakeLine[]): IntakeLine[] {
  const lately = ({ figures }: IntakeLine): number => figures?.perDay.reduce((sum, each) => sum + each, 0) ?? 0;
  const chosen = new Set([...intakes].sort((a, b) => lately(b) - lately(a)).slice(0, BUSIEST));
  return intakes.filter((each) => chosen.has(each));
}

function IntakeTable({ intakes }: { intakes: IntakeLine[] }) {
  if (intakes.length === 0) {
    return (
      <Empty title="No intake yet">
        <Link to="/intakes/new" className="text-plum underline">
          Make one from a page’s form
        </Link>
      </Empty>
    );
  }
  return (
    <table className="w-full">
      <thead>
        <tr>
          <th className={cx(TH, 'pl-4')}>Intake</th>
          <th className={TH}>Two weeks</th>
          <th className={TH}>Today</th>
          <th className={TH}>Recognised</th>
          <th className={TH}>Refused</th>
          <th className={TH}>Last</th>
        </tr>
      </thead>
      <tbody>
        {intakes.map(({ id, name, key, figures }) => (
          <tr key={id}>
            <td className={cx(TD, 'pl-4')}>
              <Link to={`/intakes/${id}`} className="font-semibold hover:underline">
                {name}
              </Link>{' '}
              <span className="text-small whitespace-nowrap text-soft">{key}</span>
            </td>
            <IntakeFigures figures={figures} waiting={false} />
          </tr>
        ))}
      </tbody>
    </table>
  );
}
