import { BarController, BarElement, CategoryScale, Chart, LogarithmicScale, Tooltip } from 'chart.js';
import type { RecognitionThresholds, Verdict } from '@zusammen/core/recognition';
import { Slider } from 'radix-ui';
import { useMemo, useState } from 'react';
import { Bar } from 'react-chartjs-2';
import type { Measure } from '@zusammen/core/api';
import { bitsText } from '../../parts/evidence.tsx';
import { token, useDark } from '../../parts/theme.ts';

Chart.register(BarController, BarElement, CategoryScale, LogarithmicScale, Tooltip);

const COLOURS: Record<Verdict, string> = { different: 'line', unsure: 'saffron', same: 'moss' };

/** Pairs that lie so far out tell nothing more; they are counted in the outermost bar. */
const LOWEST = -24;
const HIGHEST = 44;

/** Pairs of known records by weight, and two lines that say what becomes of them; dragged, or moved with the arrows. */
export function Scores({
  measure,
  thresholds,
  change,
  disabled,
}: {
  measure: Measure;
  thresholds: RecognitionThresholds;
  change: (thresholds: RecognitionThresholds) => void;
  disabled: boolean;
}) {
  const dark = useDark();
  const [area, setArea] = useState<{ left: number; right: number; top: number; bottom: number }>();
  const bins = useMemo(() => binned(measure), [measure]);
  const verdictAt = (weight: number): Verdict =>
    weight >= thresholds.same ? 'same' : weight >= thresholds.unsure ? 'unsure' : 'different';
  const counts = { same: 0, unsure: 0, different: 0 };
  bins.counts.forEach((count, at) => (counts[verdictAt(bins.from + at)] += count));
  const colours = bins.counts.map((_, at) => token(COLOURS[verdictAt(bins.from + at)]));
  const to = bins.from + bins.counts.length;
  const share = (weight: number): number => ((weight - bins.from) / (to - bins.from)) * 100;
  return (
    <div className="px-4 pt-3 pb-3">
      <div className="relative h-[188px]">
        <Bar
          key={String(dark)}
          role="img"
          aria-label={`${measure.pairs} pairs: ${counts.same} the same, ${counts.unsure} unsure, ${counts.different} different`}
          data={{
            labels: bins.counts.map((_, at) => bins.from + at),
            datasets: [{ data: bins.counts, backgroundColor: colours, barPercentage: 0.92, categoryPercentage: 1 }],
          }}
          plugins={[
            {
              id: 'area',
              afterLayout: ({ chartArea: { left, right, top, bottom } }) =>
                setArea((held) =>
                  held?.left === left && held.right === right && held.bottom === bottom
                    ? held
                    : { left, right, top, bottom },
                ),
            },
          ]}
          options={{
            responsive: true,
            maintainAspectRatio: false,
            animation: false,
            layout: { padding: { top: 14 } },
            plugins: {
              tooltip: {
                callbacks: {
                  title: ([first]) => {
                    const weight = bins.from + (first?.dataIndex ?? 0);
                    return `${bitsText(weight)} to ${bitsText(weight + 1)} bits`;
                  },
                  label: ({ raw }) => `${Number(raw)} pairs`,
                },
              },
            },
            scales: {
              x: {
                grid: { display: false },
                border: { color: token('hair') },
                ticks: {
                  color: token('soft'),
                  maxRotation: 0,
                  autoSkip: false,
                  callback: (_, at) => ((bins.from + at) % 10 === 0 ? bitsText(bins.from + at) : ''),
                  font: { family: 'Atkinson Hyperlegible Mono Variable', size: 11 },
                },
              },
              y: {
                type: 'logarithmic',
                min: 0.7,
                grid: { color: token('hair') },
                border: { display: false },
                ticks: {
                  color: token('soft'),
                  callback: (value) => (/^1(0*)$/.test(String(value)) ? Number(value).toLocaleString() : ''),
                  font: { family: 'Atkinson Hyperlegible Mono Variable', size: 11 },
                },
              },
            },
          }}
        />
        {area && (
          <Slider.Root
            className="absolute touch-none"
            style={{ left: area.left, width: area.right - area.left, top: 0, height: area.bottom }}
            min={bins.from}
            max={to}
            step={1}
            minStepsBetweenThumbs={0}
            disabled={disabled}
            value={[thresholds.unsure, thresholds.same]}
            onValueChange={([unsure, same]) => change({ unsure: unsure!, same: same! })}
          >
            <Slider.Track className="absolute inset-0" />
            {(['Unsure from', 'The same from'] as const).map((name, at) => (
              <Slider.Thumb
                key={name}
                aria-label={name}
                aria-valuetext={`${bitsText(at === 0 ? thresholds.unsure : thresholds.same)} bits`}
                className="group block h-full w-[18px] cursor-ew-resize rounded-[4px] outline-offset-[-2px]"
                style={{ height: area.bottom }}
              >
                <span className="mx-auto block h-full w-[2px] bg-ink group-focus-visible:w-[4px] group-focus-visible:bg-plum" />
              </Slider.Thumb>
            ))}
          </Slider.Root>
        )}
        {area && (
          <div
            aria-hidden
            className="pointer-events-none absolute text-small font-semibold whitespace-nowrap"
            style={{ left: area.left, width: area.right - area.left, top: 0 }}
          >
            <Caption at={share(thresholds.unsure)} left>
              two below {bitsText(thresholds.unsure)}
            </Caption>
            <Caption at={share(thresholds.same)}>the same from {bitsText(thresholds.same)}</Caption>
          </div>
        )}
      </div>
      <p className="mt-1 flex flex-wrap gap-x-4 text-small text-soft">
        <span>
          <strong className="font-mono text-ink">{counts.same.toLocaleString()}</strong> the same
        </span>
        <span>
          <strong className="font-mono text-ink">{counts.unsure.toLocaleString()}</strong> asked about
        </span>
        <span>
          <strong className="font-mono text-ink">{counts.different.toLocaleString()}</strong> different
        </span>
        <span>
          <strong className="font-mono text-ink">{measure.vetoed.toLocaleString()}</strong> more kept apart by a rule,
          whatever they weigh
        </span>
      </p>
    </div>
  );
}

function Caption({ at, left = false, children }: { at: number; left?: boolean; children: React.ReactNode }) {
  return (
    <span
      className="absolute bg-sheet px-1"
      style={left ? { right: `${100 - at}%`, marginRight: 8 } : { left: `${at}%`, marginLeft: 8 }}
    >
      {children}
    </span>
  );
}

function binned({ bins }: Measure): { from: number; counts: number[] } {
  const counts = new Array<number>(HIGHEST - LOWEST).fill(0);
  bins.counts.forEach((count, at) => {
    const to = Math.min(HIGHEST - 1, Math.max(LOWEST, bins.from + at)) - LOWEST;
    counts[to]! += count;
  });
  return { from: LOWEST, counts };
}
