import { nextStep, stepInWords, type ChangeStep, type StepOutcome } from './index.ts';

const field = { name: 'a', label: 'A', type: 'option' as const, options: [{ value: 'x', label: 'X' }], required: true };
const steps: ChangeStep[] = [
  { kind: 'field', system: 's', entity: 'People', field },
  { kind: 'options', system: 's', entity: 'People', field: 'a', options: field.options },
  {
    ...{ kind: 'entities', system: 's' },
    entities: [{ name: 'E', label: 'E', plural: 'Es', fields: [field, { ...field, name: 'b' }] }],
  },
];
const at = (direction: 'forth' | 'back', ...states: StepOutcome['state'][]) =>
  nextStep({ title: '', steps, direction, outcomes: states.map((state) => ({ state })) });

it('steps are carried out in order and undone in the other, from wherever it came to rest', () => {
  expect(at('forth')).toBe(0);
  expect(at('forth', 'done', 'refused')).toBe(1);
  expect(at('forth', 'done', 'done', 'done')).toBeUndefined();
  expect(at('back', 'done', 'done', 'waiting')).toBe(1);
  expect(at('back', 'done', 'taken back', 'taken back')).toBe(0);
  expect(at('back', 'taken back', 'refused')).toBeUndefined();
  // Taken back, all of it is to be done again.
  expect(at('forth', 'taken back', 'taken back', 'taken back')).toBe(0);
});

it('steps say what they do', () => {
  expect(steps.map(stepInWords)).toEqual([
    'Make A of People: one of 1 option, required.',
    'Add 1 option to a of People.',
    'Make E with 2 fields.',
  ]);
});
