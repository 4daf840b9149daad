import {
  BarController,
  BarElement,
  CategoryScale,
  Chart,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  Tooltip,
} from 'chart.js';
import { useMemo } from 'react';
import { Chart as ReactChart } from 'react-chartjs-2';
import type { Range, Today } from '@zusammen/core/api';
import { token, useDark } from '../parts/theme.ts';
import { arrivalsData } from './arrivals-data.ts';

Chart.register(
  BarController,
  BarElement,
  CategoryScale,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  Tooltip,
);

const exact = new Intl.DateTimeFormat(undefined, { dateStyle: 'medium', timeStyle: 'short' });

/** What arrived over time: new and known as bars; review and refusals as marks above them, by shape. */
export function ArrivalsChart({ figures, range }: { figures: Today; range: Range }) {
  const dark = useDark();
  const { bars } = figures;
  const label = useMemo(
    () =>
      new Intl.DateTimeFormat(
        undefined,
        range === '24h' ? { hour: '2-digit', minute: '2-digit' } : { day: 'numeric', month: 'short' },
      ),
    [range],
  );
  const data = useMemo(() => {
    const { created, updated, other, review, refused } = arrivalsData(bars);
    return {
      labels: bars.map(({ at }) => label.format(new Date(at))),
      datasets: [
        {
          type: 'bar' as const,
          label: 'new',
          data: created,
          backgroundColor: token('moss'),
          stack: 'a',
          order: 2,
        },
        {
          type: 'bar' as const,
          label: 'known',
          data: updated,
          backgroundColor: token('moss-pale'),
          stack: 'a',
          order: 2,
        },
        {
          type: 'bar' as const,
          label: 'still on their way, set aside',
          data: other,
          backgroundColor: token('sand'),
          stack: 'a',
          order: 2,
        },
        {
          type: 'line' as const,
          label: 'in review',
          data: review,
          stack: 'in review',
          showLine: false,
          pointStyle: 'rectRot' as const,
          pointRadius: 5,
          backgroundColor: token('saffron'),
          borderColor: token('saffron'),
          order: 1,
        },
        {
          type: 'line' as const,
          label: 'refused',
          data: refused,
          stack: 'refused',
          showLine: false,
          pointStyle: 'crossRot' as const,
          pointRadius: 5,
          borderWidth: 2,
          borderColor: token('brick'),
          order: 1,
        },
      ],
    };
    // The tokens differ between the themes.
  }, [bars, label, dark]);
  const said = `${figures.arrived} arrived: ${figures.created} new, ${figures.updated} known`;
  return (
    <div className="h-[172px] px-4 py-3">
      <ReactChart
        type="bar"
        data={data}
        aria-label={said}
        role="img"
        options={{
          responsive: true,
          maintainAspectRatio: false,
          animation: false,
          interaction: { mode: 'index', intersect: false },
          plugins: {
            tooltip: {
              callbacks: {
                title: ([first]) => (first ? exact.format(new Date(bars[first.dataIndex]!.at)) : ''),
                label: ({ dataset, dataIndex, raw }) => {
                  const bar = bars[dataIndex]!;
                  const many =
                    dataset.label === 'in review'
                      ? bar.review
                      : dataset.label === 'refused'
                        ? bar.refused
                        : Number(raw);
                  return many > 0 ? `${many} ${dataset.label}` : '';
                },
              },
            },
          },
          scales: {
            x: {
              stacked: true,
              grid: { display: false },
              border: { color: token('hair') },
              ticks: {
                color: token('soft'),
                maxTicksLimit: 8,
                maxRotation: 0,
                font: { family: 'Atkinson Hyperlegible Mono Variable', size: 11 },
              },
            },
            y: {
              stacked: true,
              beginAtZero: true,
              grace: '12%',
              grid: { color: token('hair') },
              border: { display: false },
              ticks: {
                color: token('soft'),
                maxTicksLimit: 4,
                precision: 0,
                font: { family: 'Atkinson Hyperlegible Mono Variable', size: 11 },
              },
            },
          },
        }}
      />
    </div>
  );
}
