import type { IntakeLine } from '@zusammen/core/api';
import { cx } from '../parts/cx.ts';
import { TD } from '../parts/sheet.tsx';
import { Sparkline } from '../parts/sparkline.tsx';
import { count, Moment } from '../parts/time.tsx';

/** How an intake goes, as cells of a table: two weeks, today, who was recognised, what waits, what was refused, the last one. */
export function IntakeFigures({ figures, waiting }: Pick<IntakeLine, 'figures'> & { waiting: boolean }) {
  const marked = (many: number, tone: string) => (
    <td className={cx(TD, 'font-mono', many > 0 && tone)}>{count(many)}</td>
  );
  return (
    <>
      <td className={TD}>
        {figures && (
          <Sparkline
            values={figures.perDay}
            label={`Submissions a day, the last two weeks: ${figures.perDay.join(', ')}`}
          />
        )}
      </td>
      <td className={cx(TD, 'font-mono')}>{count(figures?.today ?? 0)}</td>
      <td className={cx(TD, 'font-mono')}>
        {figures && figures.applied > 0 ? `${Math.round((figures.recognised / figures.applied) * 100)} %` : '–'}
      </td>
      {waiting && marked(figures?.inReview ?? 0, 'text-saffron')}
      {marked(figures?.refused ?? 0, 'text-brick')}
      <td className={cx(TD, 'text-small text-soft')}>
        <Moment at={figures?.last} />
      </td>
    </>
  );
}
