import type { SourceField } from '@zusammen/core/mapping';
import { featuresOf, type Seen } from '../../core/mapping/reading/features.ts';
import { AUTOFILL, QUALIFIERS } from '../../core/mapping/lexicon.ts';
import { PHRASES } from '../../core/mapping/phrases.ts';
import { FORMS } from '../labelled-forms.ts';
import type { Example } from './fit.ts';
import { realForms, truthOf, type RealForm, type Truth } from './labelled.ts';
import { birthdayParts, usualForms } from './usual.ts';
import { WORLDS, type KnownEntity } from './worlds.ts';

/** What is known of one field: for both questions that are asked of it. */
export interface Learnt {
  seen: readonly string[];
  truth: Truth;
  counts: number;
}

/** All that is learned from: real forms, the records of made-up systems, forms written here, and the lexicon's phrases. */
export function everythingLearned(forms: readonly RealForm[] = realForms('training')): Learnt[] {
  return [
    ...forms.flatMap(({ fields }) => fromForm(fields)),
    ...Object.values<KnownEntity[]>(WORLDS).flatMap((entities) => entities.flatMap(fromEntity)),
    ...fromWritten(),
    ...fromPhrases(),
    ...fromQualified(),
    ...fromUsual(),
    ...fromAddresses(),
    ...fromBirthdays(),
    ...fromTokens(),
  ];
}

/** A form as it is, and again without its labels and without its names, so that either alone is understood. */
function fromForm(fields: readonly (SourceField & { truth: Truth })[]): Learnt[] {
  const learnt = (seenAs: readonly Seen[], counts: number): Learnt[] =>
    featuresOf(seenAs).map((seen, at) => ({
      seen,
      truth: fields[at]!.truth,
      counts: fields[at]!.hidden ? counts / 4 : counts,
    }));
  return [
    ...learnt(fields, 1),
    ...learnt(
      fields.map((field, at) => ({ ...field, name: `f${at}` })),
      0.3,
    ),
    ...learnt(
      fields.map(({ section: _, placeholder: __, ...field }) => ({ ...field, label: field.name })),
      0.2,
    ),
  ];
}

const NOTHING = truthOf('-');

function fromEntity({ label, fields }: KnownEntity): Learnt[] {
  return featuresOf(fields.map((field) => ({ ...field, section: label }))).map((seen, at) => ({
    seen,
    truth: fields[at]!.holds ?? NOTHING,
    counts: 1,
  }));
}

/** Forms that were written beside the lexicon; what they leave out isn't said to mean nothing. */
function fromWritten(): Learnt[] {
  return FORMS.flatMap(({ fields, targets }) => {
    const held = new Map<string, Truth | undefined>(
      WORLDS[targets].flatMap((entity: KnownEntity) =>
        entity.fields.map(({ name, holds }) => [`${entity.name}.${name}`, holds] as const),
      ),
    );
    return featuresOf(fields).flatMap((seen, at): Learnt[] => {
      const { truth } = fields[at]!;
      if (truth === '-') return [];
      return [{ seen, truth: held.get(truth) ?? NOTHING, counts: 0.7 }];
    });
  });
}

/** What a phrase of the lexicon says when it stands alone: as a label, and as a name. */
function fromPhrases(): Learnt[] {
  return Object.entries(PHRASES).flatMap(([meaning, phrases]) =>
    phrases.split('|').flatMap((phrase): Learnt[] => {
      const truth: Truth =
        meaning === 'captcha' || meaning === 'search' || meaning === 'remember'
          ? NOTHING
          : { meaning: meaning as Truth['meaning'], whose: whoseUsually(meaning) };
      const type = ({ email: 'email', phone: 'phone', mobile: 'phone' } as Record<string, string>)[meaning] ?? 'text';
      const [label] = featuresOf([{ name: 'x', label: phrase, type }]);
      const [name] = featuresOf([
        { name: phrase.replaceAll(' ', '_'), label: phrase.replaceAll(' ', '_'), type: 'text' },
      ]);
      return [
        { seen: label!, truth, counts: 0.8 },
        { seen: name!, truth, counts: 0.35 },
      ];
    }),
  );
}

/** Of an address and a part of it together, the part is asked for: Rechnungsadresse: PLZ, adresse de livraison : ville. */
function fromAddresses(): Learnt[] {
  const parts = usualForms().flatMap(({ fields }) =>
    fields.filter(({ code }) => ['st', 'pc', 'ci', 'co', 'hn'].includes(code)),
  );
  const of: readonly (readonly [string, Truth['whose']])[] = [
    ['Address', 'the visitor'],
    ['Adresse', 'the visitor'],
    ['Billing address', 'the bill'],
    ['Rechnungsadresse', 'the bill'],
    ['Adresse de facturation', 'the bill'],
    ['Delivery address', 'the delivery'],
    ['Lieferadresse', 'the delivery'],
    ['Adres dostawy', 'the delivery'],
    ['Adresse de livraison', 'the delivery'],
  ];
  return parts.flatMap(({ code, label }) =>
    of.map(([address, whose]) => ({
      seen: featuresOf([{ name: 'x', label: `${address}: ${label}`, type: 'text' }])[0]!,
      truth: { ...truthOf(code), whose },
      counts: 0.02,
    })),
  );
}

/** Usual forms of the languages served, under names that say nothing, and with kinds that say nothing. */
function fromUsual(): Learnt[] {
  return usualForms().flatMap(({ fields }) =>
    [true, false].flatMap((typed) =>
      featuresOf(
        fields.map(({ label, type }, at) => ({
          name: `f${at}`,
          label,
          type: typed || type === 'yes/no' ? type : 'text',
        })),
      ).map((seen, at) => ({ seen, truth: truthOf(fields[at]!.code), counts: 0.3 })),
    ),
  );
}

function fromBirthdays(): Learnt[] {
  return birthdayParts().flatMap(({ section, fields }) =>
    ['text', 'option'].flatMap((type) =>
      featuresOf(fields.map(({ name, label }) => ({ name, label, type, ...(section ? { section } : {}) }))).map(
        (seen, at) => ({ seen, truth: truthOf(fields[at]!.code), counts: 0.3 }),
      ),
    ),
  );
}

const KINDS: readonly (readonly [type: string, code: string])[] = [
  ['email', 'em'],
  ['phone', 'ph'],
  ['web address', 'we'],
];

/** Autofill tokens and kinds of inputs say what is meant where words don't. */
function fromTokens(): Learnt[] {
  const STRANGE = [
    ['q1', 'Field 7'],
    ['x_22', 'Zzyzx'],
    ['input', 'Ihr Wert hier'],
    ['f', 'f'],
    ['a1', '?'],
    ['c_17', ''],
    ['val', 'Wpisz tutaj'],
    ['data[3]', 'Tell us'],
  ] as const;
  const one = (seenAs: Seen, truth: Truth, counts: number): Learnt => ({
    seen: featuresOf([seenAs])[0]!,
    truth,
    counts,
  });
  return STRANGE.flatMap(([name, label]) => [
    ...Object.entries(AUTOFILL).map(([autocomplete, meaning]) =>
      one({ name, label, type: 'text', autocomplete }, { meaning, whose: whoseUsually(meaning) }, 1),
    ),
    ...KINDS.map(([type, code]) => one({ name, label, type }, truthOf(code), 0.5)),
  ]);
}

/** What is asked of others than the visitor, and in which words of the languages served. */
const ASKED: readonly (readonly [Truth['meaning'], readonly string[]])[] = [
  ['email', ['email', 'e-mail', 'mail']],
  ['phone', ['phone', 'telefon', 'tel']],
  ['full name', ['name', 'imię i nazwisko', 'nom']],
  ['given name', ['first name', 'vorname', 'imię', 'prénom']],
  ['family name', ['last name', 'nachname', 'nazwisko']],
  ['street', ['street', 'straße', 'ulica', 'rue']],
  ['postcode', ['postcode', 'zip', 'plz', 'kod pocztowy', 'code postal']],
  ['city', ['city', 'ort', 'miasto', 'ville']],
];
const WHO: readonly (readonly [words: string, Truth['whose']])[] = [
  [QUALIFIERS['else']!, 'somebody else'],
  [QUALIFIERS['billing']!, 'the bill'],
  [QUALIFIERS['delivery']!, 'the delivery'],
  ['company organisation firm firma unternehmen verein club empresa entreprise bedrijf azienda', 'their organisation'],
];

/** A word that says whose it is beside one that says what: the friend's e-mail, firma telefon, invite[email]. */
function fromQualified(): Learnt[] {
  return WHO.flatMap(([words, whose]) =>
    words.split(' ').flatMap((who) =>
      ASKED.flatMap(([meaning, phrases]) => {
        // A company's name is its own.
        if (whose === 'their organisation' && meaning.includes('name')) return [];
        return phrases.slice(0, 2).flatMap((what): Learnt[] => {
          const truth: Truth = { meaning, whose };
          const seen = (name: string, label: string): readonly string[] =>
            featuresOf([{ name, label, type: meaning === 'email' || meaning === 'phone' ? meaning : 'text' }])[0]!;
          const key = what.replaceAll(' ', '_');
          return [
            { seen: seen('x', `${who} ${what}`), truth, counts: 0.1 },
            { seen: seen(`${who}_${key}`, `${who}_${key}`), truth, counts: 0.1 },
            { seen: seen(`${who}[${key}]`, what), truth, counts: 0.1 },
          ];
        });
      }),
    ),
  );
}

const MATTERS = new Set(
  'message|subject|start|end|date|time|amount|quantity|area|currency|price|interests|source|reference|kind|status|product|ordered|photo'.split(
    '|',
  ),
);

function whoseUsually(meaning: string): Truth['whose'] {
  if (['organisation', 'tax number', 'employees'].includes(meaning)) return 'their organisation';
  return MATTERS.has(meaning) ? 'the matter' : 'the visitor';
}

export const asMeaning = ({ seen, truth, counts }: Learnt): Example => ({ seen, was: truth.meaning, counts });
export const asWhose = ({ seen, truth, counts }: Learnt): Example => ({ seen, was: truth.whose, counts });
