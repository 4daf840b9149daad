import { supervise, type Supervised } from './supervise.ts';

/** Something that can be killed from outside. */
function mortal() {
  const lives: (() => void)[] = [];
  const start = async (): Promise<Supervised> => {
    let die = (): void => undefined;
    const ended = new Promise<void>((resolve) => (die = resolve));
    lives.push(die);
    return { ended, stop: async () => die() };
  };
  return { lives, start };
}
const until = async (met: () => boolean): Promise<void> => {
  while (!met()) await new Promise((resolve) => setTimeout(resolve, 10));
};

describe('supervision', () => {
  beforeEach(() => jest.spyOn(console, 'error').mockImplementation(() => undefined));
  afterEach(() => jest.restoreAllMocks());

  it('starts again what dies by itself', async () => {
    const { lives, start } = mortal();
    await supervise('it', start, () => lives.length > 2);
    lives[0]!();
    await until(() => lives.length === 2);
    expect(lives).toHaveLength(2);
  });

  it('leaves alone what is stopped', async () => {
    const { lives, start } = mortal();
    let stopping = false;
    const stop = await supervise('it', start, () => stopping);
    stopping = true;
    await stop();
    await new Promise((resolve) => setTimeout(resolve, 500));
    expect(lives).toHaveLength(1);
  });

  it('never gives up on what keeps dying, but takes more and more time', async () => {
    const starts: number[] = [];
    let stopping = false;
    const start = async (): Promise<Supervised> => {
      starts.push(performance.now());
      if (starts.length > 1) throw new Error('no');
      return { ended: Promise.resolve(), stop: async () => undefined };
    };
    await supervise('it', start, () => stopping, { firstMs: 10, longestMs: 160 });
    await until(() => starts.length >= 8);
    stopping = true;
    const waits = starts.slice(1).map((at, before) => at - starts[before]!);
    expect(waits.slice(-2).every((wait) => wait > 150)).toBe(true);
    expect(waits[0]).toBeLessThan(waits.at(-1)!);
  });
});
