import { useEffect, useRef } from 'react';

/**
 * The item of a name; once it is gone, whatever stands in its place: what was decided doesn't lead back to the top.
 * @param wanted '' stands for the first
 */
export function useHeldPlace<T>(list: readonly T[], nameOf: (item: T) => string, wanted: string): T | undefined {
  const place = useRef(0);
  const at = list.findIndex((item) => nameOf(item) === wanted);
  useEffect(() => {
    if (at >= 0) place.current = at;
  }, [at]);
  if (at >= 0) return list[at];
  return list[wanted === '' ? 0 : Math.min(place.current, list.length - 1)];
}
