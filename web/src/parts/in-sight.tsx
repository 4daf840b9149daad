import { useWindowVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useLayoutEffect, useRef, useState, type ReactNode } from 'react';

interface Props<T> {
  of: readonly T[];
  nameOf: (each: T) => string;
  /** How many columns the table has, and about how high a row of it is, in pixels. */
  columns: number;
  height: number;
  /** The name of the one that is to be brought into sight. */
  chosen?: string | null;
  children: (each: T) => ReactNode;
}

/** Up to so many rows are drawn whole: the browser's own search finds them all then. */
const DRAWN_WHOLE = 200;

/** The bodies of a table on a page that scrolls: of many rows those in sight are drawn, with room left for the others. */
export function RowsInSight<T>(props: Props<T>) {
  const { of, nameOf, children } = props;
  if (of.length > DRAWN_WHOLE) return <Some {...props} />;
  return of.map((each) => <tbody key={nameOf(each)}>{children(each)}</tbody>);
}

function Some<T>({ of, nameOf, columns, height, chosen, children }: Props<T>) {
  const start = useRef<HTMLTableSectionElement>(null);
  const [scrollMargin, setScrollMargin] = useState(0);
  useLayoutEffect(() => {
    if (start.current) setScrollMargin(start.current.getBoundingClientRect().top + window.scrollY);
  }, []);
  const rows = useWindowVirtualizer({
    count: of.length,
    estimateSize: () => height,
    getItemKey: (index) => nameOf(of[index]!),
    overscan: 10,
    scrollMargin,
  });
  useEffect(() => {
    const index = of.findIndex((each) => nameOf(each) === chosen);
    if (index >= 0) rows.scrollToIndex(index, { align: 'center' });
    // Where it stands matters when it is chosen, not when rows come and go.
  }, [chosen]);
  const drawn = rows.getVirtualItems();
  const above = (drawn[0]?.start ?? scrollMargin) - scrollMargin;
  const below = rows.getTotalSize() + scrollMargin - (drawn.at(-1)?.end ?? scrollMargin);
  return (
    <>
      <tbody ref={start} />
      <Room columns={columns} height={above} />
      {drawn.map(({ index, key }) => (
        <tbody key={key} data-index={index} ref={rows.measureElement}>
          {children(of[index]!)}
        </tbody>
      ))}
      <Room columns={columns} height={below} />
    </>
  );
}

/** The room in a table that rows take which aren't drawn. */
export function Room({ columns, height }: { columns: number; height: number }) {
  if (height <= 0) return null;
  return (
    <tbody aria-hidden="true">
      <tr>
        <td colSpan={columns} style={{ height }} />
      </tr>
    </tbody>
  );
}
