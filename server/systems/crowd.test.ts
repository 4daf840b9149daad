import { Crowd } from './crowd.ts';

/** Holds so many requests under way. @returns what ends them */
function busy(crowd: Crowd, count: number): () => void {
  const ends: (() => void)[] = [];
  for (let at = 0; at < count; at += 1) void crowd.with(() => new Promise<void>((resolve) => ends.push(resolve)));
  return () => ends.forEach((end) => end());
}

it('lets each go by itself until many are under way, and again when they have ended', async () => {
  const crowd = new Crowd();
  const end = busy(crowd, 5);
  expect(crowd.together).toBe(1);
  const last = busy(crowd, 1);
  expect(crowd.together).toBeGreaterThan(1);
  end();
  last();
  await new Promise(setImmediate);
  expect(crowd.together).toBe(1);
});

it('counts what fails as ended', async () => {
  const crowd = new Crowd();
  busy(crowd, 5);
  await expect(crowd.with(() => Promise.reject(new Error('no')))).rejects.toThrow('no');
  expect(crowd.together).toBe(1);
});

it('sends a few more together each time that goes well, up to a bound, and half as many where it doesn’t', () => {
  const crowd = new Crowd(() => 0);
  busy(crowd, 6);
  const first = crowd.together;
  crowd.went({ failed: false, ms: 20 });
  expect(crowd.together).toBe(first + 2);
  for (let at = 0; at < 100; at += 1) crowd.went({ failed: false, ms: 20 });
  const most = crowd.together;
  crowd.went({ failed: true, ms: 20 });
  expect(crowd.together).toBe(most / 2);
  crowd.went({ failed: false, ms: 5_000 });
  expect(crowd.together).toBe(most / 4);
});

it('sends nothing together for a while where not even two went well', () => {
  let now = 0;
  const crowd = new Crowd(() => now);
  busy(crowd, 6);
  for (let at = 0; at < 20 && crowd.together > 1; at += 1) crowd.went({ failed: true, ms: 1 });
  expect(crowd.together).toBe(1);
  now += 29_000;
  expect(crowd.together).toBe(1);
  now += 1_000;
  expect(crowd.together).toBe(2);
});
