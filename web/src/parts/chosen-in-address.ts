import { useEffect, useRef, useState } from 'react';
import { useSearchParams } from 'react-router';

/** The address follows when nothing else has been chosen for so long, in milliseconds. */
const SETTLED_MS = 120;

/**
 * What is chosen, kept in a parameter of the address so that a link leads there. The choice itself counts at once, however
 * fast keys come; the address follows a moment later, and where it is changed otherwise (back, a link) the choice follows it.
 */
export function useChosenInAddress(name: string): [string | undefined, (chosen: string | undefined) => void] {
  const [params, setParams] = useSearchParams();
  const asked = params.get(name) ?? undefined;
  const [chosen, setChosen] = useState(asked);
  const written = useRef(asked);
  const seen = useRef(asked);
  useEffect(() => {
    if (seen.current === asked) return;
    seen.current = asked;
    if (asked === written.current) return;
    written.current = asked;
    setChosen(asked);
  }, [asked]);
  useEffect(() => {
    if (chosen === written.current) return;
    const timer = setTimeout(() => {
      written.current = chosen;
      setParams(
        (held) => {
          const next = new URLSearchParams(held);
          if (chosen === undefined) next.delete(name);
          else next.set(name, chosen);
          return next;
        },
        { replace: true },
      );
    }, SETTLED_MS);
    return () => clearTimeout(timer);
  }, [chosen, name, setParams]);
  return [chosen, setChosen];
}
