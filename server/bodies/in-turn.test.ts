import { inTurn } from './in-turn.ts';

it('others get a round of the event loop between one large body and the next', async () => {
  const order: string[] = [];
  const large = Promise.all([1, 2, 3].map(async (at) => inTurn(900_000).then(() => order.push(`large ${at}`))));
  const others = (async () => {
    for (let at = 1; at <= 3; at += 1) {
      await new Promise((resolve) => setImmediate(resolve));
      order.push(`other ${at}`);
    }
  })();
  await Promise.all([large, others]);
  expect(order.join(', ')).toMatch(/large 1.*other \d.*large 2.*other \d.*large 3/);
});

it('a small body waits for nobody', async () => {
  const order: string[] = [];
  const large = inTurn(900_000).then(() => order.push('large'));
  await inTurn(400).then(() => order.push('small'));
  await large;
  expect(order).toEqual(['small', 'large']);
});
