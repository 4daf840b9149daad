/**
 * Waits for a condition that comes true in its own time; tests wait for nothing else.
 * @param what said when it never comes true @param patienceMs milliseconds, generous, as a machine may be slow, and
 * less than a test may take: then it is said what was waited for
 */
export async function until(what: string, holds: () => boolean | Promise<boolean>, patienceMs = 50_000): Promise<void> {
  const end = Date.now() + patienceMs;
  while (!(await holds())) {
    if (Date.now() > end) throw new Error(`never: ${what}`);
    await new Promise((resolve) => setTimeout(resolve, 25));
  }
}
