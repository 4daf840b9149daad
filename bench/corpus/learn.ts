import { writeFileSync } from 'node:fs';
import { suggestLines } from '@zusammen/core/mapping';
import { readBy, type Reader } from '../../core/mapping/reading/index.ts';
import { packWeights, type Weights } from '../../core/mapping/reading/softmax.ts';
import { sidesOfForm } from '../../core/mapping/sides.ts';
import { homesIn } from '../../core/mapping/suggest.ts';
import { evidenceOf, EXPECTED, surroundingsOf, type Judgement } from '../../core/mapping/weigh.ts';
import { FORMS } from '../labelled-forms.ts';
import { asMeaning, asWhose, everythingLearned } from './examples.ts';
import { fit, fitOdds, risingCurve, type Odds } from './fit.ts';
import { realForms, type RealForm } from './labelled.ts';
import { fills, isRight } from './right.ts';
import { WORLDS, type KnownEntity } from './worlds.ts';

/** Large weights cost so much; chosen by cross-validation on the training half. */
const AGAINST = 1.5;
/** Weights nearer to nothing are left out of the file. */
const LEAST = 0.06;
/** Parts of the training half that are read, in turns, by what the other parts taught. */
const FOLDS = 4;
/** Of the lines that are set so many are to be right, as measured on forms that weren't learned from. */
const RIGHT_WHEN_SET = 0.98;
/** And none of them may be less sure by itself. */
const LEAST_SURE = 0.85;

const forms = realForms('training');
const worlds = Object.values<KnownEntity[]>(WORLDS);

function fieldsLearned(from: readonly RealForm[]): { meaning: Weights; whose: Weights } {
  const learnt = everythingLearned(from);
  return { meaning: fit(learnt.map(asMeaning), AGAINST, LEAST), whose: fit(learnt.map(asWhose), AGAINST, LEAST) };
}

/** What the parts teach each other: a form is read by weights that never saw it, as a stranger's will be. */
const foldOf = (form: RealForm): number => {
  let sum = 0;
  for (const letter of `${form.package}${form.file}`) sum = (sum * 31 + letter.codePointAt(0)!) >>> 0;
  return sum % FOLDS;
};
const apart = Array.from({ length: FOLDS }, (_, fold): { forms: RealForm[]; read: Reader } => {
  const read = readBy(fieldsLearned(forms.filter((form) => foldOf(form) !== fold)));
  console.log(`part ${fold + 1} of ${FOLDS} is read by what the others teach`);
  return { forms: forms.filter((form) => foldOf(form) === fold), read };
});
const whole = fieldsLearned(forms);

/** Every pair that is worth a look, and whether it is right. */
function pairs(): Odds[] {
  const real = apart.flatMap(({ forms: mine, read }) =>
    mine.flatMap(({ fields }) =>
      worlds.flatMap((entities) => pairsOf(fields, entities, read, (at, holds) => fills(fields[at]!.truth, holds))),
    ),
  );
  const written = FORMS.flatMap(({ fields, targets }) =>
    pairsOf(fields, WORLDS[targets], readBy(whole), (at, _, name) => fields[at]!.truth === name),
  );
  return [...real, ...written];
}

function pairsOf(
  fields: RealForm['fields'] | (typeof FORMS)[number]['fields'],
  entities: readonly KnownEntity[],
  read: Reader,
  right: (at: number, holds: KnownEntity['fields'][number]['holds'], name: string) => boolean,
): Odds[] {
  const from = sidesOfForm(fields, read);
  const to = homesIn(entities, { read, line: [], curve: [] });
  const around = surroundingsOf(
    from,
    to.map(({ side }) => side),
  );
  return from.flatMap((source, at) =>
    to.flatMap((home): Odds[] => {
      const evidence = evidenceOf(source, home.side, around);
      const known = entities.find(({ name }) => name === home.entity.name)!;
      const { holds } = known.fields.find(({ name }) => name === home.field.name)!;
      return evidence ? [{ evidence, right: right(at, holds, `${home.entity.name}.${home.field.name}`) }] : [];
    }),
  );
}

const line = fitOdds(
  pairs(),
  EXPECTED.map(([, weight]) => weight),
);
console.log(EXPECTED.map(([what], at) => `${what}: ${line[at]}`).join('\n'));

/** What is said of the lines that are chosen, and whether they are right: on forms that weren't learned from. */
function chosen(curve: Judgement['curve']): { said: number; line: string; right: boolean; joined: boolean }[] {
  return apart.flatMap(({ forms: mine, read }) =>
    mine.flatMap(({ fields }) =>
      worlds.flatMap((entities) =>
        suggestLines(fields, entities, [], { read, line, curve }).map((each) => ({
          said: each.confidence,
          line: `${each.from.map((name) => `${name} “${fields.find((field) => field.name === name)!.label}”`).join(' + ')} → ${each.entity}.${each.field}`,
          right: isRight(each, fields, entities),
          joined: each.from.length > 1 || each.part !== undefined,
        })),
      ),
    ),
  );
}

const curve = risingCurve(chosen([]).filter(({ joined }) => !joined));
const told = chosen(curve).sort((a, b) => b.said - a.said);
for (const { said, line: what } of told.filter(({ right, said: sure }) => !right && sure > 0.85))
  console.log(`wrong: ${what} ${said}`);
let setFrom = 0.99;
let right = 0;
told.forEach((each, at) => {
  right += each.right ? 1 : 0;
  if (at % 200 === 0) console.log(`${at} lines from ${each.said} up: ${(right / (at + 1)).toFixed(4)} right`);
  if (at >= 100 && right / (at + 1) >= RIGHT_WHEN_SET) setFrom = Math.max(each.said, LEAST_SURE);
});
console.log(`curve ${JSON.stringify(curve)}; set from ${setFrom}`);

const quoted = (text: string): string =>
  `\`${text.replaceAll('\\', '\\\\').replaceAll('`', '\\`').replaceAll('${', '\\${')}\``;
writeFileSync(
  'core/mapping/reading/weights.ts',
  `/**
 * What was learned from ${forms.length} forms of bench/corpus/training.txt, forms and records written here and the lexicon's phrases.
 * Made by \`npm run mapping:learn\` on ${new Date().toISOString().slice(0, 10)}; not to be changed by hand.
 */
/** What each of EXPECTED (weigh.ts) counts, in log-odds. */
export const LINE_WEIGHTS: readonly number[] = ${JSON.stringify(line)};
/** What is said of a line, and how often that is right. */
export const LINE_CURVE: readonly (readonly [number, number])[] = ${JSON.stringify(curve)};
/** From here on lines are put in place by themselves: ${RIGHT_WHEN_SET * 100} % of them are right. */
export const SET_FROM = ${setFrom};
/** What a field means: classes, what speaks for each, and a line a feature. */
export const MEANING_WEIGHTS = ${quoted(packWeights(whole.meaning))};
/** Whose a field is. */
export const WHOSE_WEIGHTS = ${quoted(packWeights(whole.whose))};
`,
);
