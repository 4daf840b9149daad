import { eachLine, placeOf, type Finding, type StepInput } from './finding.ts';

/** K18: what the form writes is brought back by a pairing in which the other side decides. */
export const writtenInVain = (input: StepInput): Finding[] =>
  eachLine(input, (line, field) => {
    const { system, entity } = input.step;
    const by = input.facts?.followed?.[`${system}/${entity}/${field.name}`];
    if (!by) return [];
    const sentence = `${field.label} goes back to what ${by.decides} holds: it decides in the pairing “${by.pairing}”.`;
    return [{ id: 'K18', severity: 'look', place: placeOf(input, line), sentence }];
  });
