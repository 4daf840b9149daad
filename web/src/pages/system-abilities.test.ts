import { abilitiesOf } from './system-abilities.ts';

const PLAIN = { repeatability: false, batch: false, delta: false, etags: false };
const named = (name: string, capabilities: Parameters<typeof abilitiesOf>[0]) =>
  abilitiesOf(capabilities).find((each) => each.name === name);

describe('what a system’s page says that it can do', () => {
  it('tells what was tried, what was declined in its words, and what is done instead', () => {
    const capabilities = {
      ...PLAIN,
      tried: [
        { what: 'filter' as const, able: false, said: 'It answers 501: $filter is not done here.' },
        { what: 'folding' as const, able: null, said: 'There was no record to try it with.' },
        { what: 'order' as const, able: true },
        { what: 'types' as const, able: false, said: 'Edm.Single' },
        { what: 'etags' as const, able: false },
      ],
    };
    expect(named('Search by values', capabilities)).toEqual({
      name: 'Search by values',
      state: 'declined',
      sentence: 'all its records are read and compared here',
      words: 'It answers 501: $filter is not done here.',
    });
    expect(named('Search without regard to case', capabilities)).toMatchObject({
      state: 'untried',
      words: expect.stringMatching(/no record/),
    });
    expect(named('Sorting', capabilities)).toMatchObject({ state: 'tried', sentence: 'sorts' });
    expect(named('Search by numbers, dates and the like', capabilities)?.sentence).toMatch(
      /where a key is of Edm\.Single$/,
    );
    expect(named('Versions of records', capabilities)?.sentence).toMatch(/read once more just before/);
    expect(named('Relations', capabilities)).toBeUndefined();
  });

  it('tells what a system says of itself and can’t be tried without writing', () => {
    expect(named('Repeatable requests', { ...PLAIN, repeatability: true })).toMatchObject({ state: 'said' });
    expect(named('Repeatable requests', PLAIN)?.sentence).toMatch(/Review asks/);
    expect(named('Changes since', { ...PLAIN, delta: true })).toMatchObject({ state: 'said' });
    expect(named('OData 4.01', { ...PLAIN, maxVersion: '4.0' })?.sentence).toBe('4.0 is spoken');
    expect(named('OData 4.01', PLAIN)).toBeUndefined();
  });

  it('one connected before anything was tried is told as it was', () => {
    expect(named('Versions of records', { ...PLAIN, etags: true })).toMatchObject({ state: 'said' });
    expect(named('Batches', { ...PLAIN, batch: true })).toMatchObject({ state: 'said' });
    expect(named('Search by values', PLAIN)).toBeUndefined();
  });
});
