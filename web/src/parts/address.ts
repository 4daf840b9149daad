import { useSearchParams } from 'react-router';

/**
 * What a page keeps in its address, so that links carry it and going back works.
 * @returns the address's values, and how to change some of them in place; '' or undefined takes one away
 */
export function useAddress(): [
  held: URLSearchParams,
  change: (changed: Readonly<Record<string, string | undefined>>) => void,
] {
  const [held, setParams] = useSearchParams();
  const change = (changed: Readonly<Record<string, string | undefined>>): void =>
    setParams(
      (before) => {
        const next = new URLSearchParams(before);
        for (const [name, value] of Object.entries(changed))
          if (value === undefined || value === '') next.delete(name);
          else next.set(name, value);
        return next;
      },
      { replace: true },
    );
  return [held, change];
}
