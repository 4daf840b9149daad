import { typeOf } from '../forms/index.ts';
import { fold } from '../values/index.ts';
import {
  AUTOFILL,
  meaningAlone,
  meaningsOf,
  nearness,
  qualifiersOf,
  withoutCompounds,
  type Meaning,
} from './lexicon.ts';
import { assign, type Candidate as Assignable } from './assign.ts';
import { likeness, tellingWords } from './words.ts';

/**
 * Suggesting lines: every pair of a form's field and a record's field gets a weight of evidence (log-odds, as in
 * logistic regression); the best one-to-one assignment over all entities at once is taken (Kuhn 1955, Munkres
 * 1957), each line with a confidence and the reasons for it. A wrong line that is set costs more than a missing one.
 */
export interface SourceField {
  name: string;
  label: string;
  type: string;
  required?: boolean;
  hidden?: boolean;
  multiple?: boolean;
  autocomplete?: string;
  options?: readonly (string | { value: string; label: string })[];
  /** Some of what was sent under its name; its shape tells what a bare text is. */
  samples?: readonly string[];
}

/** What specialists made of fields like this one before, in this workspace. */
export interface Learned {
  /** `learnedKey` of the form's field. */
  from: string;
  entity: string;
  field: string;
  accepted: number;
  rejected: number;
}

export interface TargetEntity {
  name: string;
  label: string;
  fields: readonly {
    name: string;
    label: string;
    type: string;
    required?: boolean;
    options?: readonly (string | { value: string; label: string })[];
  }[];
}

export interface SuggestedLine {
  from: string[];
  entity: string;
  field: string;
  /** Probability that the line is right, from 0 to 1. */
  confidence: number;
  /** `set` is put in place at once, `offered` waits for a yes. */
  standing: 'set' | 'offered';
  reasons: string[];
  /** Only this part of what comes in goes there: one field on the form, two in the record. */
  part?: 'given' | 'family' | 'street' | 'number';
}

export const SET_FROM = 0.85;
export const OFFERED_FROM = 0.5;

/** The words by which a field is known again on another form. */
export function learnedKey({ name, label }: Pick<SourceField, 'name' | 'label'>): string {
  return (tellingWords(label).join(' ') || tellingWords(name).join(' ') || fold(name)).slice(0, 200);
}

/**
 * Suggests lines for all fields of a form towards all fields of some entities, assigned over all entities at once.
 * @param learned counts with what the words say: a pair accepted before gains, one rejected before loses
 */
export function suggestLines(
  sources: readonly SourceField[],
  entities: readonly TargetEntity[],
  learned: readonly Learned[] = [],
): SuggestedLine[] {
  const from = sources.map((field) => prepare(field.name, field.label, field, ''));
  tellNamesApart(from);
  const to = entities.flatMap((entity) =>
    entity.fields.map((field) => ({ entity, field, side: prepare(field.name, field.label, field, entity.label) })),
  );
  const around = surroundingsOf(
    from,
    to.map(({ side }) => side),
  );
  const candidates: Candidate[] = [];
  const known = new Map(learned.map((each) => [`${each.from}\n${each.entity}\n${each.field}`, each]));
  from.forEach((source, row) => {
    const key = known.size === 0 ? '' : learnedKey(sources[row]!);
    to.forEach((target, column) => {
      const past = known.get(`${key}\n${target.entity.name}\n${target.field.name}`);
      const evidence = weigh(source, target.side, around, past);
      if (evidence.confidence >= OFFERED_FROM) candidates.push({ row, column, ...evidence });
    });
  });
  const joined = [...joinedNames(from, to, sources), ...splitFields(from, to, sources)];
  const taken = new Set(joined.flatMap((line) => line.from));
  const lines = assign(candidates.filter(({ row }) => !taken.has(sources[row]!.name))).map(
    ({ row, column, confidence, reasons }): SuggestedLine => ({
      from: [sources[row]!.name],
      entity: to[column]!.entity.name,
      field: to[column]!.field.name,
      confidence,
      standing: confidence >= SET_FROM ? 'set' : 'offered',
      reasons,
    }),
  );
  const filled = new Set(joined.map((line) => `${line.entity}.${line.field}`));
  return [...joined, ...lines.filter((line) => !filled.has(`${line.entity}.${line.field}`))];
}

interface Side {
  nameWords: string[];
  labelWords: string[];
  meanings: Map<Meaning, string>;
  qualifiers: Set<string>;
  type: string;
  options: Set<string> | undefined;
  /** What a record of this entity is called; '' for a form's field. */
  about: 'person' | 'organisation' | '';
}

interface Evidence {
  confidence: number;
  reasons: string[];
}
type Candidate = Evidence & Assignable;

const PERSON = new Set('person contact people attendee participant subscriber user customer member'.split(' '));
const ORGANISATION = new Set('organisation organization company account firm business club orchard farm'.split(' '));

function prepare(
  name: string,
  label: string,
  field: SourceField | TargetEntity['fields'][number],
  entity: string,
): Side {
  const nameWords = withoutCompounds(tellingWords(name));
  const labelWords = withoutCompounds(tellingWords(label));
  const meanings = new Map<Meaning, string>();
  const alone = meaningAlone(labelWords);
  if (alone) meanings.set(alone, labelWords[0]!);
  for (const { meaning, phrase } of [...meaningsOf(labelWords), ...meaningsOf(nameWords)]) {
    if (!meanings.has(meaning)) meanings.set(meaning, phrase);
  }
  const token = 'autocomplete' in field ? field.autocomplete?.split(/\s+/).at(-1) : undefined;
  const autofill = token === undefined ? undefined : AUTOFILL[token];
  if (autofill && !meanings.has(autofill)) meanings.set(autofill, token!);
  const said = field.type.toLowerCase();
  // A bare text is what its samples look like.
  const shape = 'samples' in field && field.samples ? typeOf(field.samples.slice(0, 50)) : undefined;
  const type = said === 'text' && shape !== undefined && shape !== 'long text' ? shape : said;
  const byType = ({ email: 'email', phone: 'phone', tel: 'phone', 'web address': 'website', url: 'website' } as const)[
    type
  ];
  if (byType && meanings.size === 0) meanings.set(byType, type);
  dropGeneral(meanings);
  const entityWords = tellingWords(entity);
  const about = entityWords.some((word) => PERSON.has(word))
    ? 'person'
    : entityWords.some((word) => ORGANISATION.has(word))
      ? 'organisation'
      : '';
  // In an entity of organisations a bare "name" is the organisation's.
  if (about === 'organisation' && meanings.has('name')) meanings.set('organisation', meanings.get('name')!);
  if (about === 'person' && meanings.has('name')) meanings.set('full name', meanings.get('name')!);
  return {
    nameWords,
    labelWords,
    meanings,
    qualifiers: qualifiersOf([...nameWords, ...labelWords]),
    type,
    options: field.options
      ? new Set(
          field.options.flatMap((option) =>
            typeof option === 'string' ? [fold(option)] : [fold(option.value), fold(option.label)],
          ),
        )
      : undefined,
    about,
  };
}

/** A general meaning beside a particular one says nothing more: "contact e-mail" is an e-mail, not a contact's name. */
function dropGeneral(meanings: Map<Meaning, string>): void {
  const particular = [...meanings.keys()].filter(
    (each) => each !== 'name' && each !== 'full name' && each !== 'organisation',
  );
  if (particular.length > 0) {
    meanings.delete('name');
    if (
      particular.some((each) =>
        ['given name', 'family name', 'email', 'phone', 'mobile', 'fax', 'job', 'message'].includes(each),
      )
    ) {
      meanings.delete('full name');
    }
    if (
      particular.some((each) =>
        ['email', 'phone', 'mobile', 'website', 'tax number', 'city', 'postcode', 'street'].includes(each),
      )
    ) {
      meanings.delete('organisation');
    }
  }
  if (meanings.has('mobile')) meanings.delete('phone');
  if (meanings.has('email')) meanings.delete('address');
  if (meanings.has('website')) meanings.delete('address');
  if (meanings.has('start') || meanings.has('end') || meanings.has('birth date')) meanings.delete('date');
}

/** The weights of evidence, in log-odds. Where they come from stands in docs/mapping.md. */
const WEIGHTS = {
  bias: -4.2,
  meaning: 6.0,
  contrary: -3.0,
  words: 5.0,
  sameName: 1.5,
  type: 0.8,
  wrongType: -2.5,
  options: 3.0,
  noOptions: -2.0,
  qualifier: -3.5,
  mildQualifier: -1.2,
  only: 4,
  about: 0.5,
  experience: 5,
  mostExperience: 8,
};

/**
 * A bare "name" beside a family name is the given name (nombre, apellidos), beside a given name the family name
 * (Vorname, Name).
 */
function tellNamesApart(from: readonly Side[]): void {
  const plain = from.filter(({ qualifiers }) => qualifiers.size === 0);
  const having = (meaning: Meaning): Side[] => plain.filter(({ meanings }) => meanings.has(meaning));
  const bare = plain.filter(({ meanings }) => meanings.size === 1 && meanings.has('name'));
  if (bare.length !== 1 || having('full name').length > 0) return;
  const [given, family] = [having('given name').length, having('family name').length];
  const meant = given === 1 && family === 0 ? 'family name' : given === 0 && family === 1 ? 'given name' : undefined;
  if (!meant) return;
  const { meanings } = bare[0]!;
  meanings.set(meant, meanings.get('name')!);
  meanings.delete('name');
}

/** What of all fields bears on one pair: which kinds stand alone on both sides, and which meanings come unqualified. */
interface Surroundings {
  onlyOf: (side: Side) => boolean;
  plainMeanings: ReadonlySet<Meaning>;
}

function surroundingsOf(from: readonly Side[], to: readonly Side[]): Surroundings {
  const count = (sides: readonly Side[], type: string): number => sides.filter((side) => side.type === type).length;
  const only = new Set(['long text', 'date'].filter((type) => count(from, type) === 1 && count(to, type) === 1));
  return {
    onlyOf: ({ type }) => only.has(type),
    plainMeanings: new Set(
      from.filter(({ qualifiers }) => qualifiers.size === 0).flatMap(({ meanings }) => [...meanings.keys()]),
    ),
  };
}

/** Where somebody works or lives is often said of the only address or telephone there is. */
const MILD = new Set(['work', 'home']);

function weigh(source: Side, target: Side, around: Surroundings, past?: Learned): Evidence {
  const reasons: string[] = [];
  let logOdds = WEIGHTS.bias;
  let best = 0;
  let why = '';
  for (const [a, phrase] of source.meanings) {
    for (const b of target.meanings.keys()) {
      const near = nearness(a, b);
      if (near > best) {
        best = near;
        why = near === 1 ? `“${phrase}” means ${a}` : `${a} is close to ${b}`;
      }
    }
  }
  const words = Math.max(
    likeness(source.labelWords, target.labelWords),
    likeness(source.nameWords, target.nameWords),
    likeness(source.labelWords, target.nameWords),
    likeness(source.nameWords, target.labelWords),
  );
  const alone = around.onlyOf(source) && source.type === target.type && source.meanings.size === 0;
  if (best === 0 && words < 0.5 && !past && !alone) return { confidence: 0, reasons };
  if (alone && best === 0) {
    logOdds += WEIGHTS.only;
    reasons.push(`the only ${source.type} on both sides`);
  }
  if (best > 0) {
    logOdds += WEIGHTS.meaning * best;
    reasons.push(why);
  } else if (source.meanings.size > 0 && target.meanings.size > 0) logOdds += WEIGHTS.contrary;
  if (words > 0) {
    logOdds += WEIGHTS.words * words * (best > 0 ? 0.4 : 1);
    if (words === 1) logOdds += WEIGHTS.sameName;
    if (words >= 0.6) reasons.push(words === 1 ? 'same words' : 'similar words');
  }
  logOdds += typeEvidence(source, target, reasons);
  const onlyHere = [...source.qualifiers].filter((each) => !target.qualifiers.has(each));
  const onlyThere = [...target.qualifiers].filter((each) => !source.qualifiers.has(each));
  const others = [...source.meanings.keys()].some((meaning) => around.plainMeanings.has(meaning));
  if (onlyThere.length === 0 && onlyHere.length > 0 && onlyHere.every((each) => MILD.has(each)) && !others)
    logOdds += WEIGHTS.mildQualifier;
  else if (onlyHere.length + onlyThere.length > 0) logOdds += WEIGHTS.qualifier;
  else if (source.qualifiers.size > 0) reasons.push(`both say ${[...source.qualifiers].join(', ')}`);
  if (target.about !== '') logOdds += belongs(source, target.about);
  if (past) logOdds += experience(past, reasons);
  return { confidence: Math.round((1 / (1 + Math.exp(-logOdds))) * 1000) / 1000, reasons };
}

/**
 * Past decisions as log-odds with one made-up decision each way (Laplace). Passing a suggestion over says less than
 * choosing: the plan may just not have needed it.
 */
function experience({ accepted, rejected }: Learned, reasons: string[]): number {
  const odds = Math.log((accepted + 1) / (rejected / 2 + 1)) * WEIGHTS.experience;
  if (odds > 0) reasons.push(accepted === 1 ? 'chosen here before' : `chosen here ${accepted} times before`);
  if (odds < 0) reasons.push('not chosen here before');
  return Math.max(-WEIGHTS.mostExperience, Math.min(WEIGHTS.mostExperience, odds));
}

/** Telephone and e-mail fields that speak of a company belong to it rather than to a person. */
function belongs(source: Side, about: 'person' | 'organisation'): number {
  const words = [...source.labelWords, ...source.nameWords];
  const speaks = words.some((word) => ORGANISATION.has(word))
    ? 'organisation'
    : words.some((word) => PERSON.has(word))
      ? 'person'
      : '';
  if (speaks === '') return 0;
  return speaks === about ? WEIGHTS.about : -WEIGHTS.about * 4;
}

const FAMILIES: Record<string, string> = {
  email: 'email',
  phone: 'phone',
  tel: 'phone',
  'web address': 'web',
  url: 'web',
  number: 'number',
  integer: 'number',
  date: 'date',
  'date and time': 'date',
  time: 'time',
  duration: 'duration',
  datetime: 'date',
  'yes/no': 'yes/no',
  boolean: 'yes/no',
  checkbox: 'yes/no',
  option: 'choice',
  options: 'choice',
  select: 'choice',
  radio: 'choice',
  file: 'file',
  reference: 'reference',
  id: 'reference',
};

function typeEvidence(source: Side, target: Side, reasons: string[]): number {
  if (source.options && target.options) {
    const shared = [...source.options].filter((option) => target.options!.has(option)).length;
    const share = shared / Math.max(1, Math.min(source.options.size, target.options.size));
    if (share === 0) return WEIGHTS.noOptions;
    reasons.push(share >= 0.99 ? 'same options' : 'shares options');
    return WEIGHTS.options * share;
  }
  const a = FAMILIES[source.type] ?? 'text';
  const b = FAMILIES[target.type] ?? 'text';
  if (a === b) {
    if (a !== 'text') reasons.push(`both ${source.type === target.type ? source.type : a}`);
    return WEIGHTS.type;
  }
  if (a === 'text' || b === 'text') {
    // Anything can be typed into a text; a choice or a file in a text field is less likely meant.
    const other = a === 'text' ? b : a;
    return other === 'reference' || other === 'file'
      ? WEIGHTS.wrongType
      : other === 'choice' || other === 'yes/no'
        ? -0.8
        : 0;
  }
  return WEIGHTS.wrongType;
}

/** A text goes in as it is: no reference, no choice. */
const takesText = ({ type }: Side): boolean => (FAMILIES[type] ?? 'text') === 'text';

/** Parts that are one field on the other side: first + last name → full name, street + house number → street. */
function joinedNames(
  from: Side[],
  to: { entity: TargetEntity; field: TargetEntity['fields'][number]; side: Side }[],
  sources: readonly SourceField[],
): SuggestedLine[] {
  const lines: SuggestedLine[] = [];
  const only = (meaning: Meaning): number => {
    const at = from.flatMap((side, index) => (side.meanings.has(meaning) && side.qualifiers.size === 0 ? [index] : []));
    return at.length === 1 ? at[0]! : -1;
  };
  const target = (meaning: Meaning) =>
    to.filter(({ side }) => side.meanings.has(meaning) && side.qualifiers.size === 0 && takesText(side));
  const join = (parts: [Meaning, Meaning], whole: Meaning[], what: string) => {
    const [a, b] = [only(parts[0]), only(parts[1])];
    const wholes = whole.flatMap((meaning) => target(meaning));
    const apart = target(parts[1]).length > 0;
    if (a < 0 || b < 0 || a === b || apart || wholes.length !== 1) return;
    const [{ entity, field }] = wholes as [(typeof wholes)[0]];
    lines.push({
      from: [sources[a]!.name, sources[b]!.name],
      entity: entity.name,
      field: field.name,
      confidence: 0.9,
      standing: 'set',
      reasons: [what],
    });
  };
  join(['given name', 'family name'], ['full name'], 'first and last name make the full name');
  join(['street', 'house number'], ['street', 'address'], 'street and house number are one field there');
  return lines;
}

/** One field that is two on the other side: a full name → given and family name, an address line → street and number. */
function splitFields(
  from: Side[],
  to: { entity: TargetEntity; field: TargetEntity['fields'][number]; side: Side }[],
  sources: readonly SourceField[],
): SuggestedLine[] {
  const lines: SuggestedLine[] = [];
  const plain = (side: Side): boolean => side.qualifiers.size === 0;
  const sourcesOf = (...meanings: Meaning[]): number[] =>
    from.flatMap((side, at) => (plain(side) && meanings.some((meaning) => side.meanings.has(meaning)) ? [at] : []));
  const split = (
    whole: Meaning[],
    parts: [Meaning, NonNullable<SuggestedLine['part']>][],
    confidence: (side: Side) => number,
    reason: string,
  ): void => {
    const [source, ...others] = sourcesOf(...whole);
    if (
      source === undefined ||
      others.length > 0 ||
      parts.some(([meaning]) => sourcesOf(meaning).some((at) => at !== source))
    )
      return;
    const homes = new Map<string, (typeof to)[number][]>();
    for (const [meaning] of parts) {
      const fitting = to.filter(({ side }) => plain(side) && side.meanings.has(meaning) && takesText(side));
      for (const each of fitting) homes.set(each.entity.name, [...(homes.get(each.entity.name) ?? []), each]);
    }
    const whole1 = new Set(
      to.filter(({ side }) => side.meanings.has('full name') && plain(side)).map(({ entity }) => entity.name),
    );
    const able = [...homes.values()].filter(
      (found) => found.length === parts.length && !(whole.includes('full name') && whole1.has(found[0]!.entity.name)),
    );
    if (able.length !== 1) return;
    const sure = confidence(from[source]!);
    able[0]!.forEach(({ entity, field }, at) => {
      lines.push({
        from: [sources[source]!.name],
        entity: entity.name,
        field: field.name,
        confidence: sure,
        standing: sure >= SET_FROM ? 'set' : 'offered',
        reasons: [reason],
        part: parts[at]![1],
      });
    });
  };
  split(
    ['full name', 'name'],
    [
      ['given name', 'given'],
      ['family name', 'family'],
    ],
    (side) => (side.meanings.has('full name') ? 0.88 : 0.7),
    'a full name makes first and family name',
  );
  split(
    ['street', 'address'],
    [
      ['street', 'street'],
      ['house number', 'number'],
    ],
    () => 0.75,
    'street and house number are two fields there',
  );
  return lines;
}
