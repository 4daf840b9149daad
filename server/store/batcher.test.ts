import { Batcher, Overloaded } from './batcher.ts';

const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

describe('group commit', () => {
  it('puts what comes during a commit into the next one together, in order', async () => {
    const batches: number[][] = [];
    const batcher = new Batcher<number, string>(async (items) => {
      batches.push(items);
      await pause(10);
      return items.map((item) => `n${item}`);
    });
    const results = await Promise.all([1, 2, 3, 4, 5].map((item) => batcher.add(item)));
    expect(results).toEqual(['n1', 'n2', 'n3', 'n4', 'n5']);
    expect(batches.flat()).toEqual([1, 2, 3, 4, 5]);
    expect(batches.length).toBeLessThan(4);
  });

  it('resolves nothing before its commit', async () => {
    let committed = false;
    const batcher = new Batcher<number, number>(async (items) => {
      await pause(20);
      committed = true;
      return items;
    });
    const done = batcher.add(1).then(() => committed);
    expect(committed).toBe(false);
    expect(await done).toBe(true);
  });

  it('fails the one that can’t be stored, and stores the others', async () => {
    const batcher = new Batcher<number, number>(async (items) => {
      if (items.includes(13)) throw new Error('not thirteen');
      return items;
    });
    const results = await Promise.allSettled([1, 13, 2].map((item) => batcher.add(item)));
    expect(results.map(({ status }) => status)).toEqual(['fulfilled', 'rejected', 'fulfilled']);
  });

  it('takes no more than its most at once, and goes on after a failure', async () => {
    const sizes: number[] = [];
    let first = true;
    const batcher = new Batcher<number, number>(
      async (items) => {
        sizes.push(items.length);
        if (first) {
          first = false;
          throw new Error('once');
        }
        return items;
      },
      1,
      3,
    );
    expect(await Promise.all([1, 2, 3, 4, 5, 6, 7].map((item) => batcher.add(item)))).toEqual([1, 2, 3, 4, 5, 6, 7]);
    expect(Math.max(...sizes)).toBe(3);
  });

  it('sends away what comes while too much waits, and keeps what waits', async () => {
    let go = (): void => undefined;
    const gate = new Promise<void>((resolve) => (go = resolve));
    const batcher = new Batcher<number, number>(async (items) => gate.then(() => items), 0, 2, 3);
    const kept = [1, 2].map((item) => batcher.add(item));
    await Promise.resolve();
    const more = [3, 4, 5].map((item) => batcher.add(item));
    await expect(batcher.add(6)).rejects.toBeInstanceOf(Overloaded);
    go();
    expect(await Promise.all([...kept, ...more])).toEqual([1, 2, 3, 4, 5]);
  });
});
