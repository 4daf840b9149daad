import { useEffect, useRef } from 'react';

/**
 * Single keys that act while nothing is being typed: `{ j: down, Enter: edit }`. Keys with Ctrl or Alt are left alone,
 * but for those named with `ctrl+` or `alt+`.
 */
export function useKeys(keys: Record<string, (event: KeyboardEvent) => void>, enabled = true): void {
  const latest = useRef(keys);
  latest.current = keys;
  useEffect(() => {
    if (!enabled) return;
    const hear = (event: KeyboardEvent): void => {
      const target = event.target as HTMLElement;
      const typing = target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName);
      const inOverlay = target.closest('[data-radix-popper-content-wrapper], [role="dialog"]') !== null;
      const name = (event.ctrlKey || event.metaKey ? 'ctrl+' : '') + (event.altKey ? 'alt+' : '') + event.key;
      const act = latest.current[name] ?? latest.current[name.toLowerCase()];
      if (!act || event.defaultPrevented) return;
      if (!name.startsWith('ctrl+') && (typing || inOverlay)) return;
      // Enter and Space on a focused button belong to the button.
      if ((event.key === 'Enter' || event.key === ' ') && target.closest('button, a, [role="option"]')) return;
      event.preventDefault();
      act(event);
    };
    window.addEventListener('keydown', hear);
    return () => window.removeEventListener('keydown', hear);
  }, [enabled]);
}

/** J/K and the arrows over a list. */
export function listKeys(length: number, at: number, go: (to: number) => void): Record<string, () => void> {
  const down = (): void => go(Math.min(length - 1, at + 1));
  const up = (): void => go(Math.max(0, at - 1));
  return { j: down, ArrowDown: down, k: up, ArrowUp: up, Home: () => go(0), End: () => go(length - 1) };
}
