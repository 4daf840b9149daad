import { fork, type ChildProcess } from 'node:child_process';
import { join } from 'node:path';

/** What was waited for longest since it was asked last, in milliseconds. */
export interface Waits {
  /** For `/api/health`. */
  health: number;
  /** For a bare server that nobody attacks, over the same time on the same machine: what is its noise and not ours. */
  bare: number;
  /** Answers other than 200, or none. */
  wrong: number;
}

/** Asks for `/api/health` again and again, from a process of its own that the attacks don't slow down. */
export class HealthWatch {
  private readonly child: ChildProcess;

  constructor(address: string) {
    this.child = fork(join(import.meta.dirname ?? 'scripts/hostile', 'watcher.mjs'), [address], { stdio: 'inherit' });
  }

  /** Resolves when it watches. */
  async ready(): Promise<void> {
    await this.waits();
  }

  waits(): Promise<Waits> {
    return new Promise((resolve) => {
      this.child.once('message', (waits) => resolve(waits as Waits));
      this.child.send('tell');
    });
  }

  stop(): void {
    this.child.kill();
  }
}
