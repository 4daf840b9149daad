import { evaluateLine, pairOptions } from '../mapping/index.ts';
import { isBlank, listed } from '../values/index.ts';
import {
  counted,
  eachLine,
  formField,
  placeOf,
  samplesWhere,
  settled,
  type Finding,
  type StepCheck,
} from './finding.ts';

/** Checks on choices: what a form lets choose, beside the list of the record's field. */

/** K02: an option sent has no counterpart in the target's list. */
export const unpairedOption: StepCheck = (input) =>
  eachLine(input, (line, field) => {
    if (!field.options) return [];
    const fields = input.fields;
    const sent = line.from.flatMap((name) => formField(input, name)?.options ?? []);
    const missing = new Map<string, string>();
    for (const option of sent) {
      const values = Object.fromEntries(line.from.map((name) => [name, option.value]));
      if (settled(evaluateLine(line, values, field, { fields })).problem !== undefined)
        missing.set(option.value, option.label);
    }
    // Without a list on the form, the samples tell what is sent.
    if (sent.length === 0) {
      for (const { problem, came } of input.outcomes(line, field))
        if (problem !== undefined)
          for (const said of came.flat()) if (!isBlank(said)) missing.set(String(said), String(said));
    }
    if (missing.size === 0) return [];
    const which = samplesWhere(input, line, field, (value) =>
      value.came.flat().some((each) => !isBlank(each) && missing.has(String(each))),
    );
    const finding: Finding = {
      id: 'K02',
      severity: 'look',
      place: placeOf(input, line),
      sentence: `${field.label}: ${listed([...missing.values()], { quoted: true })} ${missing.size === 1 ? 'has' : 'have'} no counterpart in the list.`,
      samples: counted(which, input.samples.length),
    };
    const pairs = line.treatments.find(({ kind }) => kind === 'options');
    if (pairs)
      finding.mend = {
        label: 'leave out what has none',
        kind: 'change line',
        step: input.step.id,
        line: line.id,
        set: { treatments: line.treatments.map((each) => (each === pairs ? { ...each, otherwise: '' } : each)) },
      };
    return [finding];
  });

/** K03: options are paired with some that the target's list no longer has. */
export const vanishedOption: StepCheck = (input) =>
  eachLine(input, (line, field) => {
    const treatment = line.treatments.find(({ kind }) => kind === 'options');
    if (!treatment || !field.options) return [];
    const gone = [
      ...new Set(
        [...(treatment.pairs ?? []).map(({ to }) => to), treatment.otherwise].filter(
          (to) => to !== undefined && to !== '' && !field.options!.some(({ value }) => value === to),
        ),
      ),
    ] as string[];
    if (gone.length === 0) return [];
    const sources = line.from.flatMap((name) => formField(input, name)?.options ?? []);
    const guesses = new Map(pairOptions(sources, field.options).map((pair) => [pair.from, pair]));
    const { otherwise, ...rest } = treatment;
    const anew = {
      ...rest,
      ...(otherwise === undefined || gone.includes(otherwise) ? {} : { otherwise }),
      pairs: (treatment.pairs ?? []).map((pair) =>
        pair.to !== undefined && gone.includes(pair.to) ? (guesses.get(pair.from) ?? { from: pair.from }) : pair,
      ),
    };
    return [
      {
        id: 'K03',
        severity: 'look',
        place: placeOf(input, line),
        sentence: `The list of ${field.label} has changed: ${listed(gone, { quoted: true })} ${gone.length === 1 ? 'is' : 'are'} no longer in it.`,
        mend: {
          label: 'pair anew',
          kind: 'change line',
          step: input.step.id,
          line: line.id,
          set: { treatments: line.treatments.map((each) => (each === treatment ? anew : each)) },
        },
      },
    ];
  });
