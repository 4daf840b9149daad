import { wrap, type Remote } from 'comlink';
import type { Work } from './work.ts';

let remote: Remote<Work> | undefined;

/** The page's one worker, started when it is first needed. */
export function worker(): Remote<Work> {
  remote ??= wrap<Work>(new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' }));
  return remote;
}
