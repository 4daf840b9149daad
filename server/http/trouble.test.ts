import { NotUnderstood, SystemUnavailable, TokenRefused } from '../systems/index.ts';
import { orTrouble } from './trouble.ts';

it.each([
  [new SystemUnavailable('It does not answer.'), 503],
  [new TokenRefused('It does not accept this token.'), 503],
  [new NotUnderstood('Its answer is not JSON.'), 502],
])('what a system is in trouble over (%s) is told in its words, as a problem of its own', async (error, status) => {
  await expect(orTrouble(Promise.reject(error), 'Later.')).rejects.toMatchObject({
    status,
    detail: `${error.message} Later.`,
  });
});

it('what is our own fault stays so', async () => {
  await expect(orTrouble(Promise.reject(new TypeError('ours')))).rejects.toBeInstanceOf(TypeError);
});
