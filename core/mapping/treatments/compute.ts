import { EvaluationTrouble, readExpression } from '../../expressions/index.ts';
import { read, unreadable } from '../../values/index.ts';
import type { TreatmentDefinition } from './model.ts';

/** Reads `expression`: CEL over all fields of the submission, and over the value so far. */
export const compute: TreatmentDefinition = {
  group: 'Meaning',
  name: 'compute (CEL)',
  settings: [
    {
      control: 'expression',
      name: 'expression',
      label: 'Computed in CEL; fields are form.name, the value so far is value',
    },
  ],
  fresh: () => ({ expression: 'value' }),
  describe: ({ expression = '' }) => (expression === '' ? 'compute' : `= ${expression}`),
  treat: (value, { expression = '' }, _field, { values, fields }) => {
    const compiled = readExpression(expression, fields);
    if (!compiled.ok) return unreadable(`the computed value: ${compiled.reason}`);
    try {
      return read(compiled.evaluate(values, value));
    } catch (error) {
      if (error instanceof EvaluationTrouble) return unreadable(`the computed value: ${error.message}`);
      throw error;
    }
  },
};
