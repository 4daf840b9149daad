/**
 * Waits for a condition that comes true in its own time; tests wait for nothing else.
 * @param what said when it never comes true @param patienceMs milliseconds, generous: a machine may be slow
 */
export async function until(what: string, holds: () => boolean | Promise<boolean>, patienceMs = 60_000): Promise<void> {
  const end = Date.now() + patienceMs;
  while (!(await holds())) {
    if (Date.now() > end) throw new Error(`never: ${what}`);
    await new Promise((resolve) => setTimeout(resolve, 25));
  }
}
