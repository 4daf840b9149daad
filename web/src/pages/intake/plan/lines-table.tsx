import { useVirtualizer } from '@tanstack/react-virtual';
import type { Line } from '@zusammen/core/mapping';
import { useEffect, useRef, type ReactNode } from 'react';
import { cx } from '../../../parts/cx.ts';
import { Room } from '../../../parts/in-sight.tsx';
import { TH, TH_WRAPS } from '../../../parts/sheet.tsx';
import { Empty } from '../../../parts/states.tsx';

interface Props {
  lines: readonly Line[];
  current: Line | undefined;
  /** The id of the line that is being edited. */
  open: string | undefined;
  /** The step has no line at all, whatever is shown of them. */
  none: boolean;
  /** What stands over the column of the sample. */
  head: ReactNode;
  row: (line: Line) => ReactNode;
  editor: (line: Line) => ReactNode;
}

const ROW = 33;

/** The table of lines: those in sight are drawn, and scrolling draws nothing else of the page again. */
export function LinesTable({ lines, current, open, none, head, row, editor }: Props) {
  const scroller = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    getItemKey: (index) => lines[index]!.id,
    overscan: 6,
  });
  const at = current ? lines.indexOf(current) : -1;
  useEffect(() => {
    if (at >= 0) rows.scrollToIndex(at);
  }, [at, rows]);
  useEffect(() => {
    const index = lines.findIndex(({ id }) => id === open);
    if (index >= 0) requestAnimationFrame(() => rows.scrollToIndex(index, { align: 'start' }));
    // Where it stands matters when it is opened, not when lines move.
  }, [open]);
  const virtual = rows.getVirtualItems();
  const above = virtual[0]?.start ?? 0;
  const below = rows.getTotalSize() - (virtual.at(-1)?.end ?? 0);
  return (
    <div
      ref={scroller}
      tabIndex={0}
      aria-label="Lines"
      className={cx('min-h-[210px] overflow-auto', open ? 'max-h-[calc(100vh-345px)]' : 'max-h-[calc(100vh-430px)]')}
    >
      <table className="w-full min-w-[720px] table-fixed">
        <thead className="sticky top-0 z-10 bg-sheet">
          <tr>
            <th className={cx(TH, 'w-[16%] pl-4')}>Comes from</th>
            <th className={cx(TH_WRAPS, 'w-[15%] pr-0')}>{head}</th>
            <th className={cx(TH, 'w-[16%]')}>Treatment</th>
            <th className={cx(TH, 'w-[14%]')}>Goes in as</th>
            <th className={cx(TH, 'w-[16%]')}>Field</th>
            <th className={cx(TH_WRAPS, 'w-[15%]')}>In the system now</th>
            <th className={TH}>If both</th>
          </tr>
        </thead>
        <Room columns={COLUMNS} height={above} />
        {virtual.map(({ index, key }) => {
          const line = lines[index]!;
          return (
            <tbody key={key} data-index={index} ref={rows.measureElement}>
              {row(line)}
              {open === line.id && (
                <tr>
                  <td colSpan={COLUMNS} className="border-t border-hair bg-wash p-0">
                    {editor(line)}
                  </td>
                </tr>
              )}
            </tbody>
          );
        })}
        <Room columns={COLUMNS} height={below} />
      </table>
      {none ? (
        <Empty title="No lines yet">Press S to have them suggested, or choose a field below.</Empty>
      ) : (
        lines.length === 0 && <Empty title="No line is in this state" />
      )}
    </div>
  );
}

const COLUMNS = 7;
