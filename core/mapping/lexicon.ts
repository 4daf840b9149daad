import { fold } from '../values/index.ts';
import { PHRASES } from './phrases.ts';
import { tellingWords } from './words.ts';

/** What fields are about. */
export type Meaning =
  | 'given name'
  | 'family name'
  | 'full name'
  | 'name'
  | 'title'
  | 'organisation'
  | 'job'
  | 'email'
  | 'phone'
  | 'mobile'
  | 'fax'
  | 'website'
  | 'street'
  | 'house number'
  | 'address'
  | 'address more'
  | 'postcode'
  | 'city'
  | 'region'
  | 'country'
  | 'birth date'
  | 'gender'
  | 'language'
  | 'message'
  | 'subject'
  | 'start'
  | 'end'
  | 'date'
  | 'time'
  | 'amount'
  | 'quantity'
  | 'area'
  | 'currency'
  | 'price'
  | 'tax number'
  | 'newsletter'
  | 'consent'
  | 'interests'
  | 'source'
  | 'reference'
  | 'kind'
  | 'status'
  | 'photo'
  | 'product'
  | 'owner'
  | 'employees'
  | 'ordered'
  | 'birth place'
  | 'middle name'
  | 'birth name'
  | 'name suffix'
  | 'nickname'
  | 'username'
  | 'email again'
  | 'department'
  | 'nationality'
  | 'age'
  | 'birth day'
  | 'birth month'
  | 'birth year'
  | 'day'
  | 'month'
  | 'year'
  | 'terms'
  | 'privacy'
  | 'follow-up'
  | 'captcha'
  | 'search'
  | 'remember'
  | 'identity number'
  | 'dialling code'
  | 'hour'
  | 'minute';

const BY_PHRASE = new Map<string, Meaning>();
let LONGEST = 1;
for (const [meaning, phrases] of Object.entries(PHRASES) as [Meaning, string][]) {
  for (const phrase of phrases.split('|')) {
    // As labels are read: without the small words between. A phrase that would shrink to one word says too little then:
    // "your name" must not make every "name" a person's.
    const telling = tellingWords(phrase);
    if (telling.length === 1 && fold(phrase).includes(' ')) continue;
    const key = telling.join(' ') || fold(phrase);
    if (!BY_PHRASE.has(key)) BY_PHRASE.set(key, meaning);
    LONGEST = Math.max(LONGEST, key.split(' ').length);
  }
}

/** What people and organisations both have. */
export const BOTH_HAVE: readonly Meaning[] = [
  'street',
  'house number',
  'address',
  'postcode',
  'city',
  'region',
  'country',
  'phone',
  'website',
];

export interface Spotted {
  meaning: Meaning;
  /** The words that told it. */
  phrase: string;
}

/** The meanings a list of words carries, longest phrases first taken, each word used once. */
export function meaningsOf(words: readonly string[]): Spotted[] {
  const spotted: Spotted[] = [];
  for (let at = 0; at < words.length; ) {
    let taken = 0;
    for (let length = Math.min(LONGEST, words.length - at); length > 0 && taken === 0; length -= 1) {
      const phrase = words.slice(at, at + length).join(' ');
      const meaning = BY_PHRASE.get(phrase);
      if (meaning) {
        spotted.push({ meaning, phrase });
        taken = length;
      }
    }
    at += Math.max(1, taken);
  }
  return spotted;
}

/** What a label of one word alone says; within longer labels these words say too little. */
const ALONE = new Map<string, Meaning>([
  ['first', 'given name'],
  ['last', 'family name'],
  ['given', 'given name'],
  ['family', 'family name'],
  ['vn', 'given name'],
  ['nn', 'family name'],
]);

/** The meaning of a label that is this one word; undefined when it has more, or says nothing alone. */
export function meaningAlone(words: readonly string[]): Meaning | undefined {
  return words.length === 1 ? ALONE.get(words[0]!) : undefined;
}

/** Words that end compounds in German and Dutch: Bestell|nummer, Liefer|adresse, Blüh|beginn. */
const HEADS = (
  'nummer adresse adres anschrift strasse straat datum telefoon telefon mail betrag bedrag preis prijs summe beginn ende ' +
  'kontakt contact firma name naam tag wunsch nachricht bericht bemerkung opmerking code postleitzahl plaats gebuhr menge anzahl'
).split(' ');

const takenApart = new Map<string, string[]>();

/**
 * Takes compounds apart that the lexicon doesn't know whole: rechnungsadresse → rechnung, adresse. Only at words that
 * end compounds, so that "donation" holds no nation.
 */
export function withoutCompounds(words: readonly string[]): string[] {
  return words.flatMap((word) => {
    if (word.length < 8 || BY_PHRASE.has(word)) return [word];
    let parts = takenApart.get(word);
    if (!parts) {
      const head = HEADS.find((each) => word.endsWith(each) && word.length - each.length >= 3);
      const rest = head && word.slice(0, -head.length);
      // The letters that join: Rechnung-s-adresse.
      const bare =
        rest && (QUALIFIER_OF.has(rest) || BY_PHRASE.has(rest) ? rest : rest.replace(/(es|s|en|n)$/, '') || rest);
      parts = head && bare ? [bare, head] : [word];
      if (takenApart.size > 20_000) takenApart.clear();
      takenApart.set(word, parts);
    }
    return parts;
  });
}

/** HTML autofill tokens (HTML Living Standard, 4.10.18.7) and what they mean here. */
export const AUTOFILL: Record<string, Meaning> = {
  'given-name': 'given name',
  'family-name': 'family name',
  name: 'full name',
  'honorific-prefix': 'title',
  organization: 'organisation',
  'organization-title': 'job',
  email: 'email',
  tel: 'phone',
  'tel-national': 'phone',
  url: 'website',
  'street-address': 'street',
  'address-line1': 'street',
  'address-line2': 'address more',
  'postal-code': 'postcode',
  'address-level2': 'city',
  'address-level1': 'region',
  country: 'country',
  'country-name': 'country',
  bday: 'birth date',
  sex: 'gender',
  language: 'language',
};

/** Meanings close enough to be offered for one another, with how close from 0 to 1. */
const NEAR: [Meaning, Meaning, number][] = [
  ['phone', 'mobile', 0.75],
  ['full name', 'name', 0.7],
  ['organisation', 'name', 0.7],
  ['family name', 'name', 0.35],
  ['family name', 'full name', 0.4],
  ['given name', 'full name', 0.3],
  ['street', 'address', 0.8],
  ['message', 'subject', 0.35],
  ['newsletter', 'consent', 0.5],
  ['start', 'date', 0.55],
  ['amount', 'price', 0.6],
  ['amount', 'quantity', 0.4],
  ['city', 'region', 0.2],
];

const NEARNESS = new Map(NEAR.flatMap(([a, b, near]) => [[`${a}|${b}`, near] as const, [`${b}|${a}`, near] as const]));

/** How close two meanings are, from 0 to 1. */
export function nearness(a: Meaning, b: Meaning): number {
  return a === b ? 1 : (NEARNESS.get(`${a}|${b}`) ?? 0);
}

/** Words that set apart fields of the same meaning: a billing address is not a delivery address. */
export const QUALIFIERS: Record<string, string> = {
  billing: 'billing bill invoice rechnung rechnungs rech faktura facturation facturacion factuur fatturazione payer',
  delivery:
    'delivery shipping ship shipto liefer lief lieferung versand lieferadresse dostawa dostawy wysylka livraison envio entrega bezorg levering spedizione consegna',
  work: 'work business office geschaftlich dienstlich buro sluzbowy praca travail professionnel trabajo werk zakelijk lavoro ufficio',
  home: 'home private privat prywatny domowy prive particular casa thuis',
  second:
    'second secondary alternative other zweite weitere andere drugi inny autre deuxieme otro segundo andere tweede altro secondo',
  else:
    'friend friends invite invited invitation recipient recipients receiver emergency kin spouse husband wife nominee beneficiary guest invitee referee guardian gaurdian colleague child parent mother father ' +
    'notfall notfalls einladung eingeladene freund freunde freundin empfanger angehorige ehepartner begunstigte eltern kind mutter vater ' +
    'znajomy znajomego odbiorca odbiorcy rodzic dziecko matka ojciec malzonek ' +
    'ami amis destinataire urgence conjoint parents enfant amigo destinatario emergencia conyuge padres hijo ' +
    'vriend ontvanger noodgeval partner ouder amico emergenza coniuge genitore',
  previous: 'previous former old fruher ehemalig poprzedni ancien anterior vorige precedente maiden married',
};

const QUALIFIER_OF = new Map(
  Object.entries(QUALIFIERS).flatMap(([qualifier, words]) =>
    words.split(' ').map((word) => [word, qualifier] as const),
  ),
);

export function qualifiersOf(words: readonly string[]): Set<string> {
  return new Set(words.flatMap((word) => QUALIFIER_OF.get(word) ?? []));
}
