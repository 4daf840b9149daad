import { useEffect, useMemo, useState } from 'react';

/** What somebody may choose: what their system wants, or always one of the two. */
export const THEMES = ['as the system', 'light', 'dark'] as const;
export type Theme = (typeof THEMES)[number];

const KEPT_AS = 'zusammen theme';
const CHANGED = 'zusammen-theme';

/** What was chosen in this browser. */
export function themeChosen(): Theme {
  try {
    return THEMES.find((each) => each === localStorage.getItem(KEPT_AS)) ?? 'as the system';
  } catch {
    // Storage may be forbidden; then nothing is kept.
    return 'as the system';
  }
}

/** Chooses a theme for this browser, at once and from now on. */
export function chooseTheme(theme: Theme): void {
  try {
    localStorage.setItem(KEPT_AS, theme);
  } catch {
    // It holds until the page is left.
  }
  showTheme(theme);
}

/** Shows the page in a theme. */
export function showTheme(theme: Theme): void {
  if (theme === 'as the system') delete document.documentElement.dataset['theme'];
  else document.documentElement.dataset['theme'] = theme;
  window.dispatchEvent(new Event(CHANGED));
}

/** A theme token's present colour, for what is drawn on a canvas. */
export function token(name: string): string {
  const probe = document.body.appendChild(document.createElement('span'));
  probe.style.color = `var(--color-${name})`;
  const { color } = getComputedStyle(probe);
  probe.remove();
  return color;
}

/** Whether the page is dark now: as chosen, else as the viewer's system wants; follows both. */
export function useDark(): boolean {
  const query = useMemo(() => window.matchMedia('(prefers-color-scheme: dark)'), []);
  const now = (): boolean => {
    const chosen = document.documentElement.dataset['theme'];
    return chosen === undefined ? query.matches : chosen === 'dark';
  };
  const [dark, setDark] = useState(now);
  useEffect(() => {
    const hear = (): void => setDark(now());
    query.addEventListener('change', hear);
    window.addEventListener(CHANGED, hear);
    return () => {
      query.removeEventListener('change', hear);
      window.removeEventListener(CHANGED, hear);
    };
    // What is asked is where it stands, not how it is asked.
  }, [query]);
  return dark;
}
