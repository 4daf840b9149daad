/** What a form tells the page that shows it in a frame. The page's origin stands in the address; nobody else hears it. */
interface Told {
  height?: number;
  sent?: true;
  done?: unknown[];
}

function tell(told: Told): void {
  const around = new URLSearchParams(window.location.search).get('in') ?? window.sessionStorage.getItem('in');
  if (window.parent === window || around === null || !URL.canParse(around)) return;
  // The page that thanks has no such address, and stands in the same frame.
  window.sessionStorage.setItem('in', around);
  window.parent.postMessage(told, new URL(around).origin);
}

/** Tells the page around whenever the form's height changes. */
export function tellHeight(): void {
  if (window.parent === window) return;
  const height = (): void => quietly(() => tell({ height: document.documentElement.getBoundingClientRect().height }));
  new ResizeObserver(height).observe(document.documentElement);
  height();
}

export const tellSent = (): void => quietly(() => tell({ sent: true }));

/** Tells which records came of a panel, where its page says so. */
export function tellDone(): void {
  const said = document.getElementById('done')?.dataset['records'];
  if (said !== undefined) quietly(() => tell({ done: JSON.parse(said) as unknown[] }));
}

/** A browser may keep nothing for a page in a frame; then it says nothing either. */
function quietly(work: () => void): void {
  try {
    work();
  } catch {
    // The form works all the same.
  }
}
