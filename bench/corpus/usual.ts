/**
 * What contact, address, sign-up and order forms ask in the languages served, as such forms usually put it: for what
 * public packages seldom show. Written here, so it only teaches; it measures nothing.
 */
const ORDER =
  'gn fn nm em ph mo st hn pc ci co on we sub msg bd job ge ti un new ter pri ref amt prod str end tx'.split(' ');

/** A line a language: what each of these is called, in the order of `ORDER`; `-` where nothing is usual. */
const CALLED: Record<string, string> = {
  en: 'First name|Last name|Your name|Email address|Phone|Mobile|Street|House number|Postcode|Town|Country|Company|Website|Subject|Message|Date of birth|Job title|Gender|Salutation|Username|Subscribe to our newsletter|I agree to the terms and conditions|I have read the privacy policy|Order number|Total amount|Product|Start date|End date|VAT number',
  de: 'Vorname|Nachname|Vor- und Nachname|E-Mail-Adresse|Telefon|Handy|Straße|Hausnummer|PLZ|Ort|Land|Firma|Webseite|Betreff|Ihre Nachricht|Geburtsdatum|Position|Geschlecht|Anrede|Benutzername|Newsletter abonnieren|Ich akzeptiere die AGB|Ich habe die Datenschutzerklärung gelesen|Bestellnummer|Gesamtbetrag|Produkt|Beginn|Ende|USt-IdNr.',
  pl: 'Imię|Nazwisko|Imię i nazwisko|Adres e-mail|Telefon|Telefon komórkowy|Ulica|Numer domu|Kod pocztowy|Miejscowość|Kraj|Nazwa firmy|Strona www|Temat|Treść wiadomości|Data urodzenia|Stanowisko|Płeć|Tytuł grzecznościowy|Nazwa użytkownika|Zapisz mnie do newslettera|Akceptuję regulamin|Wyrażam zgodę na przetwarzanie danych|Numer zamówienia|Kwota|Produkt|Data rozpoczęcia|Data zakończenia|NIP',
  fr: 'Prénom|Nom|Nom complet|Adresse e-mail|Téléphone|Portable|Rue|Numéro de rue|Code postal|Ville|Pays|Entreprise|Site web|Objet|Votre message|Date de naissance|Fonction|Sexe|Civilité|Nom d’utilisateur|Recevoir la newsletter|J’accepte les conditions générales|J’ai lu la politique de confidentialité|Numéro de commande|Montant|Produit|Date de début|Date de fin|Numéro de TVA',
  es: 'Nombre|Apellidos|Nombre completo|Correo electrónico|Teléfono|Móvil|Calle|Número de casa|Código postal|Ciudad|País|Empresa|Página web|Asunto|Mensaje|Fecha de nacimiento|Cargo|Sexo|Tratamiento|Nombre de usuario|Quiero recibir el boletín|Acepto los términos y condiciones|He leído la política de privacidad|Número de pedido|Importe|Producto|Fecha de inicio|Fecha de fin|NIF',
  nl: 'Voornaam|Achternaam|Volledige naam|E-mailadres|Telefoonnummer|Mobiel|Straat|Huisnummer|Postcode|Plaats|Land|Bedrijf|Website|Onderwerp|Bericht|Geboortedatum|Functie|Geslacht|Aanhef|Gebruikersnaam|Nieuwsbrief ontvangen|Ik ga akkoord met de voorwaarden|Ik heb de privacyverklaring gelezen|Bestelnummer|Bedrag|Product|Begindatum|Einddatum|Btw-nummer',
  it: 'Nome|Cognome|Nome e cognome|Indirizzo e-mail|Telefono|Cellulare|Via|Numero civico|CAP|Città|Paese|Azienda|Sito web|Oggetto|Messaggio|Data di nascita|Ruolo|Sesso|Titolo di cortesia|Nome utente|Iscriviti alla newsletter|Accetto i termini e le condizioni|Ho letto l’informativa sulla privacy|Numero ordine|Importo|Prodotto|Data di inizio|Data di fine|Partita IVA',
  pt: 'Nome próprio|Apelido|Nome completo|E-mail|Telefone|Telemóvel|Rua|-|Código postal|Cidade|País|Empresa|Site|Assunto|Mensagem|Data de nascimento|Cargo|Género|-|Nome de usuário|Receber a newsletter|Aceito os termos|Li a política de privacidade|Número do pedido|Valor|Produto|Data de início|Data de fim|NIF',
  cs: 'Jméno|Příjmení|Celé jméno|E-mail|Telefon|Mobil|Ulice|Číslo domu|PSČ|Město|Země|Firma|Web|Předmět|Zpráva|Datum narození|Pozice|Pohlaví|Oslovení|Uživatelské jméno|Odebírat novinky|Souhlasím s podmínkami|Souhlasím se zpracováním osobních údajů|Číslo objednávky|Částka|Produkt|-|-|DIČ',
  sk: 'Meno|Priezvisko|-|E-mail|Telefónne číslo|Mobil|Ulica|Číslo domu|PSČ|Mesto|Krajina|Firma|Web|Predmet|Správa|Dátum narodenia|-|Pohlavie|-|Používateľské meno|Odoberať novinky|Súhlasím s podmienkami|-|-|-|Produkt|-|-|DIČ',
  sv: 'Förnamn|Efternamn|Namn|E-post|Telefon|Mobil|Gatuadress|-|Postnummer|Ort|Land|Företag|Webbplats|Ämne|Meddelande|Födelsedatum|Befattning|Kön|-|Användarnamn|Nyhetsbrev|Jag godkänner villkoren|-|Ordernummer|Belopp|Produkt|-|-|Organisationsnummer',
  da: 'Fornavn|Efternavn|Fulde navn|E-mail|Telefon|Mobil|Gade|-|Postnummer|By|Land|Virksomhed|Hjemmeside|Emne|Besked|Fødselsdato|Stilling|Køn|-|Brugernavn|Nyhedsbrev|Jeg accepterer betingelserne|-|Ordrenummer|Beløb|Produkt|-|-|CVR-nummer',
  hu: 'Keresztnév|Vezetéknév|Teljes név|E-mail cím|Telefonszám|Mobil|Utca|Házszám|Irányítószám|Város|Ország|Cégnév|Weboldal|Tárgy|Üzenet|Születési dátum|Beosztás|Nem|-|Felhasználónév|Hírlevél|-|-|-|-|Termék|-|-|Adószám',
  ro: 'Prenume|Nume|Nume complet|Adresă de e-mail|Telefon|Mobil|Stradă|Număr|Cod poștal|Oraș|Țară|Companie|Site web|Subiect|Mesaj|Data nașterii|Funcție|Gen|-|Nume de utilizator|-|-|-|-|-|Produs|-|-|CUI',
  tr: 'Ad|Soyad|Ad soyad|E-posta|Telefon|Cep telefonu|Sokak|-|Posta kodu|Şehir|Ülke|Şirket|Web sitesi|Konu|Mesajınız|Doğum tarihi|Unvan|Cinsiyet|-|Kullanıcı adı|Bülten|-|-|-|-|Ürün|-|-|Vergi numarası',
  ru: 'Имя|Фамилия|ФИО|Электронная почта|Телефон|Мобильный телефон|Улица|Дом|Индекс|Город|Страна|Организация|Сайт|Тема|Сообщение|Дата рождения|Должность|Пол|-|Логин|Подписаться на рассылку|-|-|-|Сумма|-|-|-|ИНН',
  uk: 'Ім’я|Прізвище|-|Електронна пошта|Телефон|Мобільний телефон|Вулиця|Будинок|Поштовий індекс|Місто|Країна|Організація|Сайт|Тема|Повідомлення|Дата народження|Посада|Стать|-|Логін|-|-|-|-|-|-|-|-|-',
  el: 'Όνομα|Επώνυμο|Ονοματεπώνυμο|Ηλεκτρονικό ταχυδρομείο|Τηλέφωνο|Κινητό|Οδός|-|Ταχυδρομικός κώδικας|Πόλη|Χώρα|Εταιρεία|Ιστοσελίδα|Θέμα|Μήνυμα|Ημερομηνία γέννησης|-|Φύλο|-|-|Ενημερωτικό δελτίο|-|-|-|-|-|-|-|ΑΦΜ',
};

/** Which of them stand together on a form; `nm*` is a bare "name". */
const FORMS: readonly string[] = [
  'gn fn em ph msg',
  'nm em sub msg pri',
  'nm em ph msg new',
  'ti gn fn st hn pc ci co ph em bd',
  'on nm em ph we msg',
  'on tx st hn pc ci gn fn em ph',
  'gn fn em un ter new',
  'gn fn bd ge em mo',
  'on gn fn job em ph',
  'ref amt prod nm em msg',
  'em new pri',
  'nm st pc ci em',
  'gn fn em mo str end msg',
];

export interface UsualForm {
  language: string;
  fields: { code: string; label: string; type: string }[];
}

const TYPES: Record<string, string> = {
  em: 'email',
  ph: 'phone',
  mo: 'phone',
  we: 'web address',
  msg: 'long text',
  bd: 'date',
  str: 'date',
  end: 'date',
  new: 'yes/no',
  ter: 'yes/no',
  pri: 'yes/no',
};

/** Every form in every language that has a word for all it asks but a few. */
export const usualForms = (): UsualForm[] =>
  Object.entries(CALLED).flatMap(([language, line]) => {
    const words = new Map(line.split('|').map((label, at) => [ORDER[at]!, label] as const));
    return FORMS.map((codes) => ({
      language,
      fields: codes
        .split(' ')
        .map((code) => ({ code, label: words.get(code) ?? '-', type: TYPES[code] ?? 'text' }))
        .filter(({ label }) => label !== '-'),
    })).filter(({ fields }) => fields.length > 1);
  });

/** A birthday asked for in three fields, which say day, month and year, or are told apart by their names alone. */
const BIRTHDAYS: readonly string[] = [
  'Date of birth|Day|Month|Year',
  'Birthday|DD|MM|YYYY',
  'Geburtsdatum|Tag|Monat|Jahr',
  'Data urodzenia|Dzień|Miesiąc|Rok',
  'Date de naissance|Jour|Mois|Année',
  'Fecha de nacimiento|Día|Mes|Año',
  'Geboortedatum|Dag|Maand|Jaar',
  'Data di nascita|Giorno|Mese|Anno',
];

export interface BirthdayParts {
  section?: string;
  fields: { code: string; name: string; label: string }[];
}

export const birthdayParts = (): BirthdayParts[] =>
  BIRTHDAYS.flatMap((line): BirthdayParts[] => {
    const [section = '', ...parts] = line.split('|');
    const codes = ['bdd', 'bdm', 'bdy'];
    const keys = ['day', 'month', 'year'];
    const under = (name: (key: string) => string, label: (at: number) => string) =>
      parts.map((_, at) => ({ code: codes[at]!, name: name(keys[at]!), label: label(at) }));
    return [
      {
        section,
        fields: under(
          (key) => `b${key}`,
          (at) => parts[at]!,
        ),
      },
      {
        section,
        fields: under(
          (key) => `q_${key.length}`,
          (at) => parts[at]!,
        ),
      },
      {
        fields: under(
          (key) => `dob_${key}`,
          () => section,
        ),
      },
      {
        fields: under(
          (key) => `person.dateOfBirth.${key}`,
          (at) => parts[at]!,
        ),
      },
      {
        fields: under(
          (key) => `birthday[${key}]`,
          (at) => `${section} ${parts[at]!}`,
        ),
      },
    ];
  });
