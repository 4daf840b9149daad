import { Worker } from 'node:worker_threads';

/** Seconds a process may be busy with one thing before it counts as stuck. */
const PATIENCE_S = 20;

/**
 * Ends this process when it has been stuck for long: a thread beside it counts the beats of its event loop. What it had
 * claimed is taken up by another, or by the one that is started in its place (engine/claim.ts).
 * Seconds in which the whole machine slept don't count: the thread slept with it.
 * @returns a way to stop watching
 */
export function watchOver(patienceS = PATIENCE_S): () => void {
  const beats = new Int32Array(new SharedArrayBuffer(4));
  const heart = setInterval(() => Atomics.add(beats, 0, 1), 250);
  heart.unref();
  const thread = new Worker(WATCHER, { eval: true, execArgv: [], workerData: { beats, patienceS } });
  thread.unref();
  return () => {
    clearInterval(heart);
    void thread.terminate();
  };
}

/** The thread's program: it uses nothing of ours, and a signal that no handler of a stuck process has to run for. */
const WATCHER = `
const { workerData: { beats, patienceS } } = require('node:worker_threads');
let seen = -1;
let still = 0;
setInterval(() => {
  const now = Atomics.load(beats, 0);
  still = now === seen ? still + 1 : 0;
  seen = now;
  if (still < patienceS) return;
  require('node:fs').writeSync(2, 'stuck for ' + still + ' seconds; this process ends itself\\n');
  process.kill(process.pid, 'SIGKILL');
}, 1000);
`;
