import type { Claimed } from './claim.ts';
import { Hands } from './hands.ts';

let seq = 0;
const of = (intakeId: string): Claimed => ({ seq: (seq += 1), intakeId }) as Claimed;
const many = (count: number, intakeId: string): Claimed[] => Array.from({ length: count }, () => of(intakeId));
/** Begins all that there is a hand for. @returns what ends each */
function begun(hands: Hands): (() => void)[] {
  const done: (() => void)[] = [];
  for (let next = hands.take(); next; next = hands.take()) done.push(next.done);
  return done;
}

it('keeps hands for others where those of one system take all of theirs', () => {
  const hands = new Hands(8);
  for (const intake of ['slow', 'slow too']) hands.learn(intake, 'crm');
  hands.put([...many(6, 'slow'), ...many(6, 'slow too'), ...many(6, 'other')]);
  const at = begun(hands);
  expect(at).toHaveLength(12);
  expect(hands.waiting.map(({ intakeId }) => intakeId)).toEqual([
    ...Array<string>(4).fill('slow too'),
    ...Array<string>(2).fill('other'),
  ]);
  at[0]!();
  expect(hands.take()?.submission.intakeId).toBe('slow too');
});

it('asks for none of an intake while its hands are full and enough wait, and for all again when they run low', () => {
  const hands = new Hands(8);
  hands.learn('a', 'crm');
  hands.put(many(14, 'a'));
  const at = begun(hands);
  expect(hands.served()).toEqual(new Set(['a']));
  expect(hands.runLow('a')).toBe(false);
  for (const done of at.slice(0, 2)) {
    done();
    begun(hands);
  }
  expect(hands.waiting).toHaveLength(4);
  expect(hands.runLow('a')).toBe(true);
  expect(hands.served()).toEqual(new Set());
});

it('has room until half of the hands would find something to do at once', () => {
  const hands = new Hands(8);
  expect(hands.room()).toBe(16);
  hands.put(many(4, 'a'));
  expect(hands.room()).toBe(12);
  hands.put(many(1, 'b'));
  expect(hands.room()).toBe(0);
});
