import { makeFormField } from '../testing/world.ts';
import { sentByScript, valuesApart } from './index.ts';

const field = makeFormField;

describe('values of one name', () => {
  it('of a field whose own name ends like a place stay with it', () => {
    const fields = [field('a'), field('a#2')];
    expect({ ...valuesApart(fields, { a: ['1', '2'], 'a#2': '3' }) }).toEqual({ a: ['1', '2'], 'a#2': '3' });
  });
  it('go to three places in their order, blank or not', () => {
    const fields = [1, 2, 3].map((place) => field(place === 1 ? 'd' : `d#${place}`, { place }));
    expect({ ...valuesApart(fields, { d: ['14', '', '1984'] }) }).toEqual({ d: '14', 'd#2': '', 'd#3': '1984' });
  });
});

it('a form is sent by script only where nothing a visitor sees is sent without one', () => {
  const script = field('x', { byScript: true });
  expect(sentByScript([script, field('h', { hidden: true })])).toEqual({ only: [script], all: true });
  expect(sentByScript([script, field('y')])).toEqual({ only: [script], all: false });
  expect(sentByScript([])).toEqual({ only: [], all: false });
});
