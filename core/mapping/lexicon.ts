import { fold } from '../values/index.ts';
import { tellingWords } from './words.ts';

/**
 * What fields are about, in the languages forms are written in (English, German, Polish, French, Spanish, Dutch,
 * Italian). A meaning is found by a phrase of words in a name or label; the longest phrase wins.
 */
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
  | 'birth place';

const PHRASES: Record<Meaning, string> = {
  'given name':
    'first name|given name|forename|firstname|fname|givenname|christian name|vorname|imie|prenom|nombre de pila|voornaam|nome di battesimo|name first',
  'family name':
    'last name|family name|surname|lastname|lname|second name|familyname|nachname|familienname|zuname|nazwisko|nom de famille|apellido|apellidos|achternaam|familienaam|cognome|name last',
  'full name':
    'full name|fullname|contact name|contact person|your name|name of contact|contact|ansprechpartner|ansprechpartnerin|kontaktperson|vor und nachname|vollstandiger name|imie i nazwisko|osoba kontaktowa|nom complet|nom et prenom|nombre completo|nombre y apellidos|volledige naam|contactpersoon|nome e cognome|nome completo|keeper|beekeeper|imker|attendee|participant|teilnehmer',
  name: 'name|nazwa|nom|nombre|naam|nome',
  title: 'salutation|anrede|honorific|prefix|tytul grzecznosciowy|civilite|tratamiento|aanhef',
  organisation:
    'organisation|organization|company|company name|organisation name|firm|business|business name|association|club|farm|farm name|orchard|orchard name|name of the orchard|name of orchard|name of the company|name of company|name of the club|name of the farm|name of the organisation|name der firma|name des vereins|name des betriebs|name des unternehmens|firma|firmenname|unternehmen|betrieb|betriebsname|verein|organisationsname|obsthof|nazwa firmy|przedsiebiorstwo|organizacja|sad|societe|entreprise|raison sociale|empresa|organizacion|bedrijf|bedrijfsnaam|organisatie|azienda|ditta|ragione sociale|org',
  job: 'job title|position|role|funktion|stanowisko|fonction|poste|cargo|puesto|functie|ruolo|occupation|beruf|your role|role in company',
  email:
    'email|e mail|mail|email address|e mail address|mail adresse|mailadresse|emailadresse|e mail adresse|adres e mail|poczta|courriel|adresse e mail|adresse email|adresse mail|correo|correo electronico|e mailadres|mailadres|indirizzo e mail|posta elettronica',
  phone:
    'phone|telephone|tel|phone number|telephone number|landline|telefon|telefonnummer|rufnummer|fon|festnetz|numer telefonu|nr telefonu|telefonu|numero de telephone|telefono|numero de telefono|telefoon|telefoonnummer|numero di telefono|call back number|daytime phone|direct phone|direct line|direct dial|extension|durchwahl|main phone|phone no|tel no|tel nr|telefonnr',
  mobile:
    'mobile|mobile phone|mobile number|cell|cell phone|cellphone|handy|handynummer|mobil|mobiltelefon|mobilnummer|komorka|telefon komorkowy|portable|telephone portable|movil|telefono movil|mobiel|cellulare|mobile no|mobil nr|handynr|telefon kom|nr komorki',
  fax: 'fax|fax number|faxnummer|telefax|faks|telecopie',
  website:
    'website|web site|web address|web|homepage|url|site|internet address|webseite|internetadresse|internetseite|strona internetowa|strona www|www|site web|sitio web|pagina web|sito web|sito',
  street:
    'street|street address|street name|address line|address line 1|road|strasse|str|ulica|rue|calle|straat|straatnaam|via|indirizzo',
  'house number':
    'house number|house no|number of house|hausnummer|hausnr|haus nr|no|nr|numer domu|nr domu|numero de rue|numero de casa|huisnummer|numero civico|huisnr|hnr',
  address: 'address|postal address|full address|anschrift|adresse|adres|direccion|domicilio|recapito',
  'address more': 'address line 2|address addition|adresszusatz|complement d adresse|flat|apartment|floor',
  postcode:
    'postcode|post code|postal code|zip|zip code|plz|postleitzahl|kod pocztowy|code postal|codigo postal|cp|cap',
  city: 'city|town|place|locality|village|ort|stadt|wohnort|miasto|miejscowosc|ville|commune|ciudad|localidad|poblacion|plaats|woonplaats|stad|citta|comune',
  region: 'region|state|county|province|bundesland|wojewodztwo|departement|provincia|provincie|regione',
  country: 'country|nation|land|kraj|pays|pais|paese|nazione|staat',
  'birth date':
    'birth date|date of birth|birthday|dob|bday|geburtsdatum|geburtstag|data urodzenia|date de naissance|fecha de nacimiento|geboortedatum|data di nascita|born|born on|geboren|geboren am|geboren op|ne le|nee le|ne e le|naissance|nacimiento|nato il|urodzony',
  gender: 'gender|sex|geschlecht|plec|sexe|sexo|geslacht|sesso',
  language: 'language|preferred language|sprache|jezyk|langue|idioma|taal|lingua|locale',
  message:
    'message|comments|comment|remarks|remark|notes|note|question|questions|description|details|anything else|nachricht|mitteilung|bemerkung|bemerkungen|anmerkung|anmerkungen|anliegen|beschreibung|kommentar|wiadomosc|uwagi|komentarz|opis|commentaire|remarques|mensaje|comentarios|observaciones|bericht|opmerkingen|toelichting|messaggio|commenti|note aggiuntive|opmerking|vraag|uw vraag|observacion|comentario|consulta|remarque|votre demande|demande|pytanie|tresc|richiesta|domanda|annotazioni|how can we help|what can we do for you|tell us more|enquiry|inquiry|what would you like to tell us|was mochten sie uns sagen|wunsche|sonstiges|additional information|further information|zusatzliche angaben',
  subject:
    'subject|topic|betreff|thema|temat|sujet|objet|asunto|onderwerp|oggetto|subject line|worum geht es|regarding|reason for enquiry|concerning',
  start:
    'start|from|begin|begins|starts|start date|blossom start|blossom from|bloom starts|bloom from|beginn|ab|von datum|startdatum|blute ab|blutebeginn|od|poczatek|debut|inicio|begindatum|inizio',
  end: 'end|until|ends|end date|ende|bis|enddatum|do kiedy|koniec|fin|einde|fine',
  date: 'date|day|datum|tag|data|fecha|dia|giorno|dzien',
  time: 'time|hour|uhrzeit|zeit|godzina|heure|hora|tijd|ora',
  amount: 'amount|sum|total|betrag|summe|kwota|montant|importe|bedrag|importo',
  quantity:
    'quantity|qty|how many|count|hives|hives wanted|number of hives|colonies|anzahl|menge|stuck|volker|anzahl volker|bienenvolker|ilosc|liczba|liczba uli|quantite|cantidad|aantal|quantita',
  area: 'area|hectares|hectare|ha|size|acreage|flache|hektar|grosse|powierzchnia|hektary|superficie|surface|oppervlakte',
  currency: 'currency|wahrung|waluta|devise|moneda|valuta',
  price: 'price|fee|cost|preis|gebuhr|cena|oplata|prix|precio|prijs|prezzo',
  'tax number':
    'tax number|tax id|vat|vat number|vat id|ust id|ustid|umsatzsteuer id|steuernummer|nip|numero de tva|nif|cif|btw nummer|partita iva',
  newsletter:
    'newsletter|letters|subscribe|letters allowed|mailing list|rundbrief|newsletter anmeldung|biuletyn|infolettre|boletin|nieuwsbrief',
  consent:
    'consent|agree|i agree|terms|privacy|permission|einwilligung|zustimmung|datenschutz|einverstanden|zgoda|zgadzam|rodo|consentement|j accepte|consentimiento|acepto|toestemming|akkoord|consenso|accetto',
  interests:
    'interests|interest|interested|topics|crops|crop|fruit|interessen|kulturen|obstarten|obst|themen|zainteresowania|uprawy|centres d interet|cultures|intereses|cultivos|interesses|gewassen|interessi|colture',
  source:
    'source|utm source|heard|referral|how did you hear|campaign|herkunft|quelle|aufmerksam|zrodlo|fuente|bron|fonte',
  reference:
    'reference|customer number|member number|membership number|number|kundennummer|mitgliedsnummer|nummer|referenz|numer|numer klienta|numero|numero client|klantnummer|numero cliente|customer no|client number|account number|member no|membership no|order number|order no|order id|invoice number|booking number|bestellnummer|auftragsnummer|kundennr|kunden nr|mitgliedsnr|mitglieds nr|vorgangsnummer|numer zamowienia|numero de commande|numero de pedido|bestelnummer|numero ordine',
  kind: 'kind|type|category|kind of enquiry|art|typ|kategorie|rodzaj|kategoria|genre|tipo|categoria|soort',
  status: 'status|state of|stand|stan|etat|estado|stato',
  photo: 'photo|picture|image|foto|bild|zdjecie|imagen|afbeelding',
  product: 'product|article|item|sku|produkt|artikel|produit|producto|prodotto|course|kurs|lehrgang|szkolenie',
  employees:
    'employees|number of employees|employee count|staff|headcount|mitarbeiter|anzahl mitarbeiter|mitarbeiterzahl|beschaftigte|pracownicy|liczba pracownikow|effectif|empleados|numero de empleados|medewerkers|aantal medewerkers|dipendenti|numero di dipendenti',
  ordered:
    'placed at|placed on|ordered at|ordered on|order date|date of order|bestellt am|bestelldatum|auftragsdatum|data zamowienia|date de commande|commande le|fecha de pedido|besteldatum|besteld op|data ordine',
  'birth place':
    'birth place|birthplace|place of birth|geburtsort|miejsce urodzenia|lieu de naissance|lugar de nacimiento|geboorteplaats|luogo di nascita',
  owner: 'owner|assigned to|responsible|zustandig|betreuer|opiekun|responsable',
};

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
const QUALIFIERS: Record<string, string> = {
  billing: 'billing bill invoice rechnung rechnungs rech faktura facturation facturacion factuur fatturazione',
  delivery:
    'delivery shipping ship recipient liefer lief lieferung versand empfanger lieferadresse dostawa dostawy livraison envio entrega bezorg levering spedizione consegna',
  work: 'work business office geschaftlich dienstlich buro sluzbowy praca travail professionnel trabajo werk zakelijk lavoro ufficio',
  home: 'home private privat prywatny domowy prive particular casa thuis',
  second:
    'second secondary alternative other zweite weitere andere drugi inny autre deuxieme otro segundo andere tweede altro secondo',
  emergency: 'emergency notfall notfalls awaryjny urgence emergencia noodgeval emergenza',
  parent: 'parent guardian eltern rodzic opiekun parents padres ouder genitore',
  previous: 'previous former old fruher ehemalig poprzedni ancien anterior vorige precedente',
};

const QUALIFIER_OF = new Map(
  Object.entries(QUALIFIERS).flatMap(([qualifier, words]) =>
    words.split(' ').map((word) => [word, qualifier] as const),
  ),
);

export function qualifiersOf(words: readonly string[]): Set<string> {
  return new Set(words.flatMap((word) => QUALIFIER_OF.get(word) ?? []));
}
