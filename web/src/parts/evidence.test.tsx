/** @jest-environment @happy-dom/jest-environment */
import { READS, type About, type Evidence, type Recognition } from '@zusammen/core/recognition';
import { render } from '@testing-library/react';
import { aboutLabel, Bits, bitsText, countedElsewhere, evidenceAt, VerdictTag } from './evidence.tsx';

const parts = [
  { part: 'last_name', field: 'family' },
  { part: 'first_name', field: 'given' },
  { part: 'street', field: 'street' },
  { part: 'city', field: 'town' },
  { part: 'country', field: 'country' },
] as Recognition['parts'];
const of = (about: About): Evidence => ({ about, level: 'same', bits: 3 });

describe('evidence', () => {
  it('stands beside the first of the fields that were compared, and once', () => {
    const evidence = [of('name'), of('address')];
    expect(evidenceAt('family', { parts }, evidence)?.about).toBe('name');
    expect(evidenceAt('given', { parts }, evidence)).toBeUndefined();
    expect(evidenceAt('street', { parts }, evidence)?.about).toBe('address');
    expect(evidenceAt('town', { parts }, evidence)).toBeUndefined();
    expect(countedElsewhere('town', { parts }, evidence)).toBe(true);
    expect(countedElsewhere('country', { parts }, [])).toBe(true);
  });

  it('of a comparison that is no more is shown nowhere, and breaks nothing', () => {
    const gone = { ...of('name'), about: 'constructor' as About };
    expect(evidenceAt('family', { parts }, [gone])).toBeUndefined();
  });

  it('is called as the field is, and a comparison of several by its own name', () => {
    const labelOf = (field: string): string => ({ given: 'Given name' })[field] ?? field;
    expect(aboutLabel('first name', { parts }, labelOf)).toBe('Given name');
    expect(aboutLabel('address', { parts }, labelOf)).toBe('Address');
    expect(aboutLabel('legal form', { parts }, labelOf)).toBe('Legal form');
  });

  it('of every comparison there is reads parts that there are', () => {
    for (const [about, read] of Object.entries(READS))
      for (const part of read as string[])
        expect(evidenceAt('f', { parts: [{ part, field: 'f' }] as never }, [of(about as About)])?.about).toBe(about);
  });
});

describe('bits', () => {
  it('have their sign, and none when they come to nothing', () => {
    expect([3.14159, -2, 0.01, -0.04].map(bitsText)).toEqual(['+3.1', '−2.0', '0.0', '0.0']);
    expect(render(<Bits bits={undefined} />).container.textContent).toBe('0.0');
    expect(render(<VerdictTag verdict="unsure" weight={1.5} />).container.textContent).toBe('◆ unsure+1.5');
  });
});
