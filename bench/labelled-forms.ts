/**
 * Forms as they stand on pages, in five languages, with the field of the record that each of their fields belongs to.
 * One line a field: name | label | type | truth; `-` where nothing fits; `@token` in front of the type is an autofill token.
 */
export interface LabelledForm {
  language: string;
  targets: 'coop' | 'plain';
  fields: { name: string; label: string; type: string; autocomplete?: string; truth: string }[];
}

const form = (language: string, targets: LabelledForm['targets'], text: string): LabelledForm => ({
  language,
  targets,
  fields: text
    .trim()
    .split('\n')
    .map((line) => {
      const [name = '', label = '', kind = '', truth = ''] = line.split('|').map((part) => part.trim());
      const token = /^@(\S+) (.+)$/.exec(kind);
      return { name, label, type: token?.[2] ?? kind, truth, ...(token ? { autocomplete: token[1]! } : {}) };
    }),
});

export const FORMS: LabelledForm[] = [
  form(
    'en',
    'coop',
    `orchard|Orchard name|text|Organisations.name
    contact_first|First name|text|People.first_name
    contact_last|Last name|text|People.last_name
    contact_email|E-mail|email|People.email
    contact_phone|Telephone|phone|People.phone
    hectares|Hectares of fruit|number|-
    hives|Hives wanted|number|Enquiries.hives_wanted
    bloom|Blossom starts|date and time|Enquiries.blossom_start
    message|Anything we should know?|long text|Enquiries.message`,
  ),
  form(
    'en',
    'coop',
    `fname|Given name|text|People.first_name
    lname|Surname|text|People.last_name
    mail|Your email address|email|People.email
    mob|Mobile number|phone|People.mobile
    dob|Date of birth|date|People.birth_date
    postcode|Postcode|text|-
    comments|Comments|long text|Enquiries.message`,
  ),
  form(
    'en',
    'plain',
    `q1|First name|text|contact.given
    q2|Family name|text|contact.family
    q3|Email|email|contact.mail
    q4|Phone|phone|contact.tel
    q5|Street|text|contact.street
    q6|ZIP code|text|contact.zip
    q7|City|text|contact.town
    q8|How did you hear of us?|text|-`,
  ),
  form(
    'en',
    'plain',
    `firstName|First name|@given-name text|contact.given
    lastName|Last name|@family-name text|contact.family
    emailAddress|E-mail address|@email email|contact.mail
    cellPhone|Cell phone|@tel phone|contact.cell
    dateOfBirth|Birthday|date|contact.born
    terms|I agree to the terms|yes/no|-`,
  ),
  form(
    'en',
    'plain',
    `a|Name|@given-name text|contact.given
    b|Surname|@family-name text|contact.family
    c|Contact e-mail|@email email|contact.mail
    d|Billing street|text|-
    e|Billing city|text|-
    f|Post code|@postal-code text|contact.zip`,
  ),
  form(
    'en',
    'coop',
    `company|Company|@organization text|Organisations.name
    website|Website|web address|Organisations.website
    first_name|First name|text|People.first_name
    last_name|Last name|text|People.last_name
    job|Job title|text|-
    email|Work email|email|-
    subject|Subject|text|Enquiries.subject
    message|Message|long text|Enquiries.message`,
  ),
  form(
    'en',
    'plain',
    `given-name|Forename|text|contact.given
    family-name|Surname|text|contact.family
    tel|Landline|phone|contact.tel
    mobile|Mobile|phone|contact.cell
    remarks|Remarks|long text|contact.notes
    newsletter|Subscribe to our letters|yes/no|contact.letters`,
  ),
  form(
    'en',
    'coop',
    `org_name|Name of your organisation|text|Organisations.name
    org_web|Web address|web address|Organisations.website
    your_name|First name|text|People.first_name
    your_surname|Surname|text|People.last_name
    your_email|E-mail|email|People.email
    qty|Number of hives|number|Enquiries.hives_wanted`,
  ),
  form(
    'de',
    'coop',
    `vorname|Vorname|text|People.first_name
    nachname|Nachname|text|People.last_name
    mail|E-Mail-Adresse|email|People.email
    telefon|Telefon|phone|People.phone
    handy|Handy|phone|People.mobile
    geburtsdatum|Geburtsdatum|date|People.birth_date
    nachricht|Ihre Nachricht|long text|Enquiries.message`,
  ),
  form(
    'de',
    'plain',
    `vn|Vorname|text|contact.given
    nn|Familienname|text|contact.family
    em|E-Mail|email|contact.mail
    str|Straße|text|contact.street
    plz|PLZ|text|contact.zip
    ort|Ort|text|contact.town
    land|Land|text|contact.country
    bem|Bemerkungen|long text|contact.notes`,
  ),
  form(
    'de',
    'plain',
    `f1|Vorname *|text|contact.given
    f2|Nachname *|text|contact.family
    f3|Telefonnummer|phone|contact.tel
    f4|Mobilnummer|phone|contact.cell
    f5|Postleitzahl|text|contact.zip
    f6|Wohnort|text|contact.town
    f7|Lieferadresse Straße|text|-`,
  ),
  form(
    'de',
    'coop',
    `firma|Firma|text|Organisations.name
    webseite|Webseite|web address|Organisations.website
    ansprechpartner_vorname|Vorname|text|People.first_name
    ansprechpartner_nachname|Nachname|text|People.last_name
    betreff|Betreff|text|Enquiries.subject
    anliegen|Ihr Anliegen|long text|Enquiries.message`,
  ),
  form(
    'de',
    'plain',
    `vorname|Vorname|text|contact.given
    name|Nachname|text|contact.family
    email|E-Mail|email|contact.mail
    geburtstag|Geburtstag|date|contact.born
    einwilligung|Ich willige in die Datenschutzerklärung ein|yes/no|-
    rundbrief|Rundbrief abonnieren|yes/no|contact.letters`,
  ),
  form(
    'de',
    'coop',
    `betrieb|Name des Betriebs|text|Organisations.name
    kontakt_vorname|Vorname|text|People.first_name
    kontakt_nachname|Nachname|text|People.last_name
    kontakt_mail|E-Mail|email|People.email
    voelker|Anzahl Völker|number|Enquiries.hives_wanted
    bluete|Blütebeginn|date|Enquiries.blossom_start`,
  ),
  form(
    'pl',
    'plain',
    `imie|Imię|text|contact.given
    nazwisko|Nazwisko|text|contact.family
    email|Adres e-mail|email|contact.mail
    tel|Numer telefonu|phone|contact.tel
    ulica|Ulica|text|contact.street
    kod|Kod pocztowy|text|contact.zip
    miasto|Miejscowość|text|contact.town
    uwagi|Uwagi|long text|contact.notes`,
  ),
  form(
    'pl',
    'coop',
    `firma|Nazwa firmy|text|Organisations.name
    imie|Imię|text|People.first_name
    nazwisko|Nazwisko|text|People.last_name
    mail|E-mail|email|People.email
    komorka|Telefon komórkowy|phone|People.mobile
    temat|Temat|text|Enquiries.subject
    wiadomosc|Wiadomość|long text|Enquiries.message`,
  ),
  form(
    'pl',
    'plain',
    `pole1|Imię|text|contact.given
    pole2|Nazwisko|text|contact.family
    pole3|Data urodzenia|date|contact.born
    pole4|Telefon|phone|contact.tel
    pole5|Kraj|text|contact.country
    pole6|Wyrażam zgodę|yes/no|-`,
  ),
  form(
    'pl',
    'coop',
    `imie_kontakt|Imię|text|People.first_name
    nazwisko_kontakt|Nazwisko|text|People.last_name
    mail_kontakt|Adres e-mail|email|People.email
    tel_kontakt|Telefon|phone|People.phone
    ule|Liczba uli|number|Enquiries.hives_wanted`,
  ),
  form(
    'fr',
    'plain',
    `prenom|Prénom|text|contact.given
    nom|Nom de famille|text|contact.family
    courriel|Courriel|email|contact.mail
    tel|Téléphone|phone|contact.tel
    portable|Portable|phone|contact.cell
    rue|Rue|text|contact.street
    cp|Code postal|text|contact.zip
    ville|Ville|text|contact.town`,
  ),
  form(
    'fr',
    'coop',
    `societe|Société|text|Organisations.name
    site|Site web|web address|Organisations.website
    prenom|Prénom|text|People.first_name
    nom|Nom de famille|text|People.last_name
    mail|Adresse e-mail|email|People.email
    objet|Objet|text|Enquiries.subject
    message|Votre message|long text|Enquiries.message`,
  ),
  form(
    'fr',
    'plain',
    `c1|Prénom|text|contact.given
    c2|Nom de famille|text|contact.family
    c3|Date de naissance|date|contact.born
    c4|Pays|text|contact.country
    c5|Remarques|long text|contact.notes
    c6|J’accepte les conditions|yes/no|-`,
  ),
  form(
    'fr',
    'coop',
    `entreprise|Nom de l’entreprise|text|Organisations.name
    pr|Prénom|text|People.first_name
    nf|Nom de famille|text|People.last_name
    em|E-mail|email|People.email
    tel|Numéro de téléphone|phone|People.phone`,
  ),
  form(
    'es',
    'plain',
    `nombre|Nombre de pila|text|contact.given
    apellidos|Apellidos|text|contact.family
    correo|Correo electrónico|email|contact.mail
    telefono|Teléfono|phone|contact.tel
    movil|Móvil|phone|contact.cell
    calle|Calle|text|contact.street
    cp|Código postal|text|contact.zip
    ciudad|Ciudad|text|contact.town`,
  ),
  form(
    'es',
    'coop',
    `empresa|Empresa|text|Organisations.name
    nombre|Nombre de pila|text|People.first_name
    apellidos|Apellidos|text|People.last_name
    correo|Correo|email|People.email
    asunto|Asunto|text|Enquiries.subject
    mensaje|Mensaje|long text|Enquiries.message`,
  ),
  form(
    'es',
    'plain',
    `p1|Apellidos|text|contact.family
    p2|Fecha de nacimiento|date|contact.born
    p3|País|text|contact.country
    p4|Observaciones|long text|contact.notes
    p5|Acepto la política|yes/no|-`,
  ),
  form(
    'nl',
    'plain',
    `voornaam|Voornaam|text|contact.given
    achternaam|Achternaam|text|contact.family
    email|E-mailadres|email|contact.mail
    telefoon|Telefoonnummer|phone|contact.tel
    straat|Straat|text|contact.street
    postcode|Postcode|text|contact.zip
    plaats|Woonplaats|text|contact.town
    opmerkingen|Opmerkingen|long text|contact.notes`,
  ),
  form(
    'nl',
    'coop',
    `bedrijf|Bedrijfsnaam|text|Organisations.name
    vn|Voornaam|text|People.first_name
    an|Achternaam|text|People.last_name
    mobiel|Mobiel|phone|People.mobile
    onderwerp|Onderwerp|text|Enquiries.subject
    bericht|Bericht|long text|Enquiries.message`,
  ),
  form(
    'it',
    'plain',
    `nome|Nome di battesimo|text|contact.given
    cognome|Cognome|text|contact.family
    mail|Indirizzo e-mail|email|contact.mail
    tel|Telefono|phone|contact.tel
    cell|Cellulare|phone|contact.cell
    via|Via|text|contact.street
    cap|CAP|text|contact.zip
    citta|Città|text|contact.town`,
  ),
  form(
    'it',
    'coop',
    `azienda|Azienda|text|Organisations.name
    sito|Sito web|web address|Organisations.website
    nome|Nome di battesimo|text|People.first_name
    cognome|Cognome|text|People.last_name
    oggetto|Oggetto|text|Enquiries.subject
    messaggio|Messaggio|long text|Enquiries.message`,
  ),
  form(
    'en',
    'plain',
    `emergency_name|Emergency contact|text|-
    emergency_phone|Emergency phone|phone|-
    name_first|First name|text|contact.given
    name_last|Last name|text|contact.family
    phone_home|Phone|phone|contact.tel
    parent_email|Parent’s e-mail|email|-
    email|E-mail|email|contact.mail`,
  ),
  form(
    'de',
    'coop',
    `rechnung_ort|Rechnungsadresse Ort|text|-
    vorname|Vorname|text|People.first_name
    zuname|Zuname|text|People.last_name
    mail2|Zweite E-Mail|email|-
    mail|E-Mail|email|People.email
    foto|Foto|file|-
    utm_source||text|-`,
  ),
];
