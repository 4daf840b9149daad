import { work } from '../work.ts';

/** In tests there are no threads; what one would compute is computed here, and comes a moment later as from a thread. */
export const worker = () =>
  Object.fromEntries(
    Object.entries(work).map(([name, each]) => [
      name,
      async (...said: unknown[]) => (each as (...said: unknown[]) => unknown)(...said),
    ]),
  );
