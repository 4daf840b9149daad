import { useEffect, useMemo, useState } from 'react';

/** A theme token's present value, for what is drawn on a canvas. */
export const token = (name: string): string =>
  getComputedStyle(document.documentElement).getPropertyValue(`--color-${name}`).trim();

/** Whether the viewer's system wants dark; follows it. */
export function useDark(): boolean {
  const query = useMemo(() => window.matchMedia('(prefers-color-scheme: dark)'), []);
  const [dark, setDark] = useState(query.matches);
  useEffect(() => {
    const hear = (): void => setDark(query.matches);
    query.addEventListener('change', hear);
    return () => query.removeEventListener('change', hear);
  }, [query]);
  return dark;
}
