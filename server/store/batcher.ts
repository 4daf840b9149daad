interface Waiting<In, Out> {
  item: In;
  done: (result: Out) => void;
  failed: (error: unknown) => void;
}

/** More is waiting than can be kept: whoever hands something in is told to come again. */
export class Overloaded extends Error {}

/**
 * Group commit: what is handed in while a transaction is on its way to the disk goes into the next one together, so
 * that durability costs one flush for many. A promise resolves only after its item is committed.
 */
export class Batcher<In, Out> {
  private waiting: Waiting<In, Out>[] = [];
  private running = false;

  /**
   * @param commit commits items together; one result an item, in order. It is called for one alone where many fail.
   * @param gatherMs milliseconds waited for more before a transaction is begun
   */
  constructor(
    private readonly commit: (items: In[]) => Promise<Out[]>,
    private readonly gatherMs = 0,
    private readonly most = 100,
    private readonly mostWaiting = Infinity,
  ) {}

  /** @throws Overloaded */
  add(item: In): Promise<Out> {
    if (this.waiting.length >= this.mostWaiting) return Promise.reject(new Overloaded());
    return new Promise((done, failed) => {
      this.waiting.push({ item, done, failed });
      this.next();
    });
  }

  private next(): void {
    if (this.running || this.waiting.length === 0) return;
    this.running = true;
    void this.gathered()
      .then(() => this.commitAll(this.waiting.splice(0, this.most)))
      .finally(() => {
        this.running = false;
        this.next();
      });
  }

  private gathered(): Promise<unknown> {
    return this.gatherMs === 0 ? Promise.resolve() : new Promise((resolve) => setTimeout(resolve, this.gatherMs));
  }

  private async commitAll(batch: Waiting<In, Out>[]): Promise<void> {
    try {
      const results = await this.commit(batch.map(({ item }) => item));
      batch.forEach(({ done }, at) => done(results[at]!));
    } catch (error) {
      // One item that can't be stored must not take the others with it.
      if (batch.length === 1) batch[0]!.failed(error);
      else for (const each of batch) await this.commitAll([each]);
    }
  }
}
