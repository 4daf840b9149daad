/**
 * Forms as they stand on pages, in seven languages, with the field of the record that each of their fields belongs to.
 * One line a field: name | label | type | truth; `-` where nothing fits; `@token` in front of the type is an autofill token.
 */
export interface LabelledForm {
  language: string;
  targets: 'coop' | 'plain' | 'shop' | 'work';
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
    email|Work email|email|People.email
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
  form(
    'en',
    'work',
    `company|Company|text|accounts.company_name
    contactName_first|Your first name|text|contacts.firstname
    contactName_last|Your surname|text|contacts.surname
    role|What is your role?|text|contacts.job
    biz_email|Business e-mail|email|contacts.direct_mail
    mobile_no|Mobile no.|phone|contacts.mobile
    staff|How many people work for you?|number|accounts.employees
    url|Company website|url|accounts.web
    budget|Budget|text|-
    captcha|Type the characters you see|text|-`,
  ),
  form(
    'de',
    'work',
    `firma|Firma|text|accounts.company_name
    anrede|Anrede|option|contacts.salutation
    vname|Vorname|text|contacts.firstname
    nname|Name|text|contacts.surname
    position|Position im Unternehmen|text|contacts.job
    email|Geschäftliche E-Mail-Adresse|email|contacts.direct_mail
    durchwahl|Durchwahl|phone|contacts.direct_phone
    handy|Mobilnummer|phone|contacts.mobile
    str|Straße und Hausnummer|text|accounts.street
    plz|Postleitzahl|text|accounts.postal
    ort|Ort|text|accounts.place
    mitarbeiter|Anzahl Mitarbeiter|number|accounts.employees
    datenschutz|Ich stimme der Datenschutzerklärung zu|yes/no|-`,
  ),
  form(
    'pl',
    'plain',
    `imie|Imię|text|contact.given
    nazwisko|Nazwisko|text|contact.family
    email|Adres e-mail|email|contact.mail
    telefon|Numer telefonu|phone|contact.tel
    ulica|Ulica i numer|text|contact.street
    kod|Kod pocztowy|text|contact.zip
    miasto|Miejscowość|text|contact.town
    kraj|Kraj|text|contact.country
    data_ur|Data urodzenia|date|contact.born
    uwagi|Dodatkowe uwagi|long text|contact.notes
    zgoda|Wyrażam zgodę na przetwarzanie danych|yes/no|-
    newsletter|Chcę otrzymywać newsletter|yes/no|contact.letters`,
  ),
  form(
    'fr',
    'plain',
    `prenom|Prénom|text|contact.given
    nom|Nom|text|contact.family
    courriel|Votre adresse courriel|email|contact.mail
    tel_portable|Téléphone portable|phone|contact.cell
    tel_fixe|Téléphone fixe|phone|contact.tel
    rue|Adresse (rue et numéro)|text|contact.street
    cp|Code postal|text|contact.zip
    ville|Ville|text|contact.town
    naissance|Né(e) le|date|contact.born
    msg|Votre message|long text|contact.notes
    source|Comment nous avez-vous connus ?|text|-`,
  ),
  form(
    'es',
    'plain',
    `nombre|Nombre|text|contact.given
    apellidos|Apellidos|text|contact.family
    correo|Correo electrónico|email|contact.mail
    movil|Teléfono móvil|phone|contact.cell
    direccion|Dirección|text|contact.street
    cod_postal|Código postal|text|contact.zip
    poblacion|Población|text|contact.town
    pais|País|text|contact.country
    fecha_nac|Fecha de nacimiento|date|contact.born
    comentario|Comentarios|long text|contact.notes
    acepto|Acepto la política de privacidad|yes/no|-`,
  ),
  form(
    'nl',
    'plain',
    `voornaam|Voornaam|text|contact.given
    achternaam|Achternaam|text|contact.family
    emailadres|E-mailadres|email|contact.mail
    telefoonnummer|Telefoonnummer|phone|contact.tel
    straat|Straat en huisnummer|text|contact.street
    postcode|Postcode|text|contact.zip
    woonplaats|Woonplaats|text|contact.town
    geboortedatum|Geboortedatum|date|contact.born
    opmerking|Opmerking of vraag|long text|contact.notes`,
  ),
  form(
    'it',
    'plain',
    `nome|Nome|text|contact.given
    cognome|Cognome|text|contact.family
    mail|Indirizzo email|email|contact.mail
    cell|Cellulare|phone|contact.cell
    via|Via e numero civico|text|contact.street
    cap|CAP|text|contact.zip
    comune|Comune|text|contact.town
    nascita|Data di nascita|date|contact.born
    messaggio|Il tuo messaggio|long text|contact.notes`,
  ),
  form(
    'en',
    'shop',
    `shipping[name]|Name|text|orders.ship_name
    shipping[address1]|Address|text|orders.ship_street
    shipping[zip]|ZIP|text|orders.ship_zip
    shipping[city]|City|text|orders.ship_city
    billing[name]|Name|text|orders.bill_name
    billing[address1]|Address|text|orders.bill_street
    billing[zip]|ZIP|text|orders.bill_zip
    billing[city]|City|text|orders.bill_city
    email|E-mail|email|orders.buyer_mail
    order_note|Note for the courier|long text|orders.note
    coupon|Coupon code|text|-
    giftwrap|Gift wrap|yes/no|-`,
  ),
  form(
    'de',
    'shop',
    `bestellnummer|Bestellnummer|text|orders.order_no
    gesamtbetrag|Gesamtbetrag|number|orders.total
    waehrung|Währung|option|orders.currency
    lief_name|Lieferadresse: Name|text|orders.ship_name
    lief_strasse|Lieferadresse: Straße|text|orders.ship_street
    lief_plz|Lieferadresse: PLZ|text|orders.ship_zip
    lief_ort|Lieferadresse: Ort|text|orders.ship_city
    rech_strasse|Rechnungsadresse: Straße|text|orders.bill_street
    rech_plz|Rechnungsadresse: PLZ|text|orders.bill_zip
    email|E-Mail|email|orders.buyer_mail
    bestellt_am|Bestellt am|date and time|orders.placed`,
  ),
  form(
    'en',
    'coop',
    `org|Name of your club|text|Organisations.name
    who|Contact person's first name|text|People.first_name
    who2|Contact person's last name|text|People.last_name
    memno|Membership no.|text|People.member_number
    tel1|Daytime phone|phone|People.phone
    tel2|Cell|phone|People.mobile
    eml|Email|email|People.email
    subj|Subject line|text|Enquiries.subject
    txt|How can we help?|long text|Enquiries.message
    hivecount|Number of hives you want|number|Enquiries.hives_wanted
    when|When does your blossom start?|date|Enquiries.blossom_start
    fax|Fax|phone|-
    referred|Who sent you to us?|text|-`,
  ),
  form(
    'de',
    'coop',
    `verein|Name des Vereins|text|Organisations.name
    web|Internetseite|text|Organisations.website
    kdnr|Ihre Kundennummer|text|Organisations.customer_number
    vn|Vorname Ansprechpartner|text|People.first_name
    nn|Nachname Ansprechpartner|text|People.last_name
    mail|E-Mail-Adresse des Ansprechpartners|email|People.email
    fon|Telefon tagsüber|phone|People.phone
    gebtag|Geburtstag|date|People.birth_date
    betreff|Worum geht es?|text|Enquiries.subject
    nachricht|Was möchten Sie uns sagen?|long text|Enquiries.message
    voelker|Wie viele Völker?|number|Enquiries.hives_wanted
    bluete|Voraussichtlicher Blühbeginn|date|Enquiries.blossom_start
    notfallkontakt|Notfallkontakt Telefon|phone|-`,
  ),
  form(
    'en',
    'plain',
    `input_1|First|text|contact.given
    input_2|Last|text|contact.family
    input_3|Email Address|text|contact.mail
    input_4|Street Address|text|contact.street
    input_5|Address Line 2|text|-
    input_6|City / Town|text|contact.town
    input_7|State / Province|text|-
    input_8|ZIP / Postal Code|text|contact.zip
    input_9|Country|option|contact.country
    input_10|D.O.B.|text|contact.born
    input_11|Parent's phone|phone|-
    input_12|Yes, send me the newsletter|yes/no|contact.letters`,
  ),
];

/**
 * Forms that suggestions have never been tuned on: written after the lexicon and the weights were settled, run once
 * for the published figure, and left alone since. Whoever tunes on them writes new ones.
 */
export const HELD_OUT: LabelledForm[] = [
  form(
    'en',
    'work',
    `organisation_name|Organisation|text|accounts.company_name
    site|Web page of your organisation|url|accounts.web
    size|How large is your team?|option|-
    forename|Forename|text|contacts.firstname
    lastname|Last name|text|contacts.surname
    title_job|Job title|text|contacts.job
    emailwork|Work email|email|contacts.direct_mail
    phone_direct|Direct phone number|phone|contacts.direct_phone
    hear|Where did you hear about us?|text|-`,
  ),
  form(
    'de',
    'plain',
    `kontakt[vorname]|Vorname*|text|contact.given
    kontakt[nachname]|Nachname*|text|contact.family
    kontakt[mail]|E-Mail*|email|contact.mail
    kontakt[tel]|Telefon (für Rückfragen)|phone|contact.tel
    kontakt[strasse]|Straße, Nr.|text|contact.street
    kontakt[plz]|PLZ|text|contact.zip
    kontakt[ort]|Wohnort|text|contact.town
    kontakt[geb]|Geb.-Datum|date|contact.born
    kontakt[anmerkung]|Anmerkungen|long text|contact.notes
    rundbrief|Rundbrief erhalten|yes/no|contact.letters
    agb|AGB gelesen|yes/no|-`,
  ),
  form(
    'pl',
    'coop',
    `nazwa|Nazwa gospodarstwa|text|Organisations.name
    www|Strona www|text|Organisations.website
    nip|NIP|text|Organisations.tax_number
    imie_kontakt|Imię osoby kontaktowej|text|People.first_name
    nazwisko_kontakt|Nazwisko osoby kontaktowej|text|People.last_name
    mail_kontakt|E-mail|email|People.email
    tel_kom|Telefon komórkowy|phone|People.mobile
    temat|Temat|text|Enquiries.subject
    wiadomosc|Treść wiadomości|long text|Enquiries.message
    ile_uli|Ile uli potrzebujesz?|number|Enquiries.hives_wanted`,
  ),
  form(
    'fr',
    'shop',
    `no_commande|Numéro de commande|text|orders.order_no
    montant_total|Montant total|number|orders.total
    devise|Devise|option|orders.currency
    liv_rue|Adresse de livraison : rue|text|orders.ship_street
    liv_cp|Adresse de livraison : code postal|text|orders.ship_zip
    liv_ville|Adresse de livraison : ville|text|orders.ship_city
    fact_rue|Adresse de facturation : rue|text|orders.bill_street
    fact_cp|Adresse de facturation : code postal|text|orders.bill_zip
    fact_ville|Adresse de facturation : ville|text|orders.bill_city
    email_client|E-mail|email|orders.buyer_mail
    remarque|Une remarque ?|long text|orders.note`,
  ),
  form(
    'es',
    'coop',
    `empresa|Nombre de la empresa|text|Organisations.name
    web|Página web|text|Organisations.website
    nombre_contacto|Nombre|text|People.first_name
    apellido_contacto|Apellidos|text|People.last_name
    email_contacto|Correo electrónico|email|People.email
    telefono|Teléfono|phone|People.phone
    asunto|Asunto|text|Enquiries.subject
    mensaje|Mensaje|long text|Enquiries.message
    publicidad|Deseo recibir publicidad|yes/no|-`,
  ),
  form(
    'nl',
    'work',
    `bedrijfsnaam|Bedrijfsnaam|text|accounts.company_name
    website|Website|url|accounts.web
    adres|Straat en nummer|text|accounts.street
    pc|Postcode|text|accounts.postal
    plaats|Plaats|text|accounts.place
    aanhef|Aanhef|option|contacts.salutation
    voornaam|Voornaam|text|contacts.firstname
    achternaam|Achternaam|text|contacts.surname
    functie|Functie|text|contacts.job
    mail|E-mail|email|contacts.direct_mail
    mobiel|Mobiel nummer|phone|contacts.mobile
    btw|Btw-nummer|text|-`,
  ),
  form(
    'it',
    'plain',
    `nome_utente|Nome|text|contact.given
    cognome_utente|Cognome|text|contact.family
    posta|Indirizzo di posta elettronica|email|contact.mail
    telefono|Numero di telefono|phone|contact.tel
    indirizzo|Indirizzo|text|contact.street
    cap|Codice di avviamento postale|text|contact.zip
    citta|Città|text|contact.town
    note|Note|long text|contact.notes
    privacy|Accetto l'informativa sulla privacy|yes/no|-`,
  ),
  form(
    'en',
    'plain',
    `full_given|Given name(s)|text|contact.given
    full_family|Family name / surname|text|contact.family
    contactEmail|Contact email|email|contact.mail
    homePhone|Home phone|phone|contact.tel
    mobilePhone|Mobile|phone|contact.cell
    addr1|Address 1|text|contact.street
    addr2|Address 2|text|-
    postTown|Post town|text|contact.town
    pcode|Postcode|text|contact.zip
    nextOfKinPhone|Next of kin: phone|phone|-
    dietary|Dietary needs|text|-`,
  ),
];
