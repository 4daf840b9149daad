import { comesOutOtherwise, INTAKE_FORMAT, type IntakeDocument } from './index.ts';
import type { Line } from '../mapping/index.ts';
import type { Step } from '../plans/index.ts';
import { makeField, makeLine } from '../testing/world.ts';

const step = (lines: Line[], more: Partial<Step> = {}): Step => ({
  ...{ id: 's', system: 'crm', entity: 'People', recognise: [], whenNone: 'create' as const },
  ...{ whenOne: 'update' as const, whenSeveral: 'ask' as const, lines },
  ...more,
});
const document = (lines: Line[], more: Partial<Step> = {}): IntakeDocument => ({
  ...{ format: INTAKE_FORMAT, name: 'Visit', source: { kind: 'page' as const }, settings: { perMinute: 60 } },
  fields: ['phone', 'hive[0][kind]', 'hive[1][kind]'].map((name) => ({
    ...{ name, label: name, type: 'text' as const, required: false },
  })),
  plan: { steps: [step(lines, more)] },
});
const phone = makeField('phone', { type: 'phone' });
const line = (treatments: Line['treatments'], more: Partial<Line> = {}): Line => ({
  ...makeLine('phone', 'phone'),
  treatments,
  ...more,
});
const samples = [{ phone: ' 030 23125 1 ' }, { phone: '+49302312502' }, { phone: '' }];
const compared = (live: Line[], draft: Line, more: Partial<Step> = {}, values = samples as Record<string, string>[]) =>
  comesOutOtherwise(
    { live: document(live, more), draft: document([draft], more) },
    step([draft], more),
    draft,
    phone,
    values,
  );

describe('a line changed since it went live', () => {
  const trimmed = line([{ kind: 'trim' }]);
  const upper = line([{ kind: 'trim' }, { kind: 'case', case: 'upper' }]);

  it('is told with how many samples come out otherwise, and the first of them', () => {
    const found = compared([line([])], line([{ kind: 'phone', country: 'DE' }]))!;
    expect(found).toMatchObject({ of: 3, differing: 1 });
    expect([found.example!.live.sent, found.example!.draft.sent]).toEqual([' 030 23125 1 ', '+4930231251']);
  });

  it('that comes to the same says so', () => {
    expect(compared([trimmed], upper)).toEqual({ of: 3, differing: 0 });
  });

  it('that is new writes what was not written', () => {
    expect(compared([], trimmed)).toMatchObject({ of: 3, differing: 2 });
  });

  it('says nothing where it is as it was, only suggested, or filled by an earlier step', () => {
    expect(compared([trimmed], { ...trimmed, ifBoth: 'fill only' })).toBeUndefined();
    expect(compared([line([])], { ...trimmed, origin: 'suggested' })).toBeUndefined();
    expect(compared([line([])], { ...trimmed, from: [], fromStep: { step: 'other' } })).toBeUndefined();
  });

  it('counts rows, not samples, where its step is done once per row', () => {
    const kind = makeLine('hive[0][kind]', 'phone');
    const loud: Line = { ...kind, treatments: [{ kind: 'case', case: 'upper' }] };
    const values = [{ 'hive[0][kind]': 'straw', 'hive[1][kind]': 'BOX' }];
    expect(compared([kind], loud, { repeat: 'hive' }, values)).toMatchObject({ of: 2, differing: 1 });
  });
});
