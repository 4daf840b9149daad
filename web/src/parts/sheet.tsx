import type { ReactNode } from 'react';
import { cx } from './cx.ts';

/** A white sheet with a heading line. */
export function Sheet({
  title,
  aside,
  children,
  className,
}: {
  title?: ReactNode;
  aside?: ReactNode;
  children: ReactNode;
  className?: string;
}) {
  return (
    <section className={cx('sheet min-w-0 overflow-hidden', className)}>
      {title !== undefined && (
        <header className="flex min-h-[42px] flex-wrap items-center justify-between gap-x-4 gap-y-1 border-b border-hair px-4 py-1.5">
          <h2 className="flex min-w-0 items-center gap-2 font-semibold">{title}</h2>
          {aside !== undefined && <div className="flex flex-wrap items-center gap-2 text-small text-soft">{aside}</div>}
        </header>
      )}
      <div className="max-[900px]:overflow-x-auto">{children}</div>
    </section>
  );
}

/** The line at the head of a page: where one is, its state, and what can be done. */
export function Heading({
  crumbs,
  title,
  children,
  actions,
}: {
  crumbs?: ReactNode;
  title: ReactNode;
  children?: ReactNode;
  actions?: ReactNode;
}) {
  return (
    <div className="flex min-h-[56px] flex-wrap items-center justify-between gap-x-4 gap-y-2 py-2">
      <div className="flex min-w-0 flex-wrap items-center gap-x-3 gap-y-1">
        {crumbs && (
          <nav aria-label="Where you are" className="text-soft whitespace-nowrap">
            {crumbs}
          </nav>
        )}
        <h1 className="truncate text-title font-bold">{title}</h1>
        {children}
      </div>
      <div className="ml-auto flex flex-wrap items-center gap-2.5">{actions}</div>
    </div>
  );
}

/** A column's heading that may take two lines. */
export const TH_WRAPS = 'px-3 py-2 text-left text-small font-semibold text-soft';
export const TH = `${TH_WRAPS} whitespace-nowrap`;
export const TD = 'px-3 py-[5px] align-middle border-t border-hair';
