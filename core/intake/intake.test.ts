import { validated } from '../documents/index.ts';
import { INTAKE_FORMAT, IntakeDocument, upgraded } from './index.ts';

const first = {
  name: 'Enquiry',
  source: { page: 'https://a.example/form' },
  fields: [{ name: 'mail', label: 'Mail', type: 'email', required: true }],
  plan: { steps: [] },
  settings: { perMinute: 60 },
};

describe('a document of an earlier format', () => {
  it('is brought to the newest, and is valid then', () => {
    const before = structuredClone(first);
    const document = upgraded(first);
    expect(document).toEqual({ ...first, format: INTAKE_FORMAT, source: { ...first.source, kind: 'page' } });
    expect(validated(IntakeDocument, document)).toMatchObject({ ok: true });
    expect(first).toEqual(before);
  });
  it('keeps what it says already', () => {
    const events = { ...first, source: { kind: 'events' } };
    expect(upgraded(events)).toMatchObject({ source: { kind: 'events' } });
  });
  it('is brought there once: again changes nothing', () => {
    const document = upgraded(first);
    expect(upgraded(document)).toEqual(document);
  });
});

describe('what is no document we know', () => {
  it.each([
    ['newer than this version', { ...first, format: 99 }],
    ['of no number', { ...first, format: '1' }],
    ['of a format between', { ...first, format: 0.5 }],
  ])('%s is left as it is, and complained about by its format', (_, document) => {
    expect(upgraded(document)).toEqual(document);
    const read = validated(IntakeDocument, upgraded(document));
    expect(read.ok ? [] : read.complaints.map(({ field }) => field)).toContain('format');
  });
  it.each([[null], [undefined], ['text'], [[first]], [7]])('%j comes back as it is', (plain) => {
    expect(upgraded(plain)).toBe(plain);
  });
  it.each([[null], ['x'], [[]]])('a source of %j is complained about, not guessed', (source) => {
    const read = validated(IntakeDocument, upgraded({ ...first, source }));
    expect(read.ok ? [] : read.complaints.map(({ field }) => field)).toContain('source');
  });
});
