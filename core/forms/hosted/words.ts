/** What a form of ours says by itself, in the languages that are known here; other languages are answered in English. */
export interface Words {
  required: string;
  requiredMark: string;
  email: string;
  phone: string;
  webAddress: string;
  number: string;
  whole: string;
  decimals: (most: number) => string;
  least: (least: string) => string;
  most: (most: string) => string;
  date: string;
  time: string;
  dateAndTime: string;
  notBefore: (day: string) => string;
  notAfter: (day: string) => string;
  option: string;
  tooLong: (most: number) => string;
  consent: string;
  oneValue: string;
  leastRows: (least: number) => string;
  mostRows: (most: number) => string;
  choose: string;
  yes: string;
  no: string;
  send: string;
  sending: string;
  next: string;
  back: string;
  page: (at: number, of: number) => string;
  oneMore: string;
  lessOne: string;
  row: (at: number) => string;
  errors: (count: number) => string;
  sent: string;
  notSent: string;
  notSentNow: string;
  tooSoon: string;
  sentBefore: string;
  restored: string;
  forget: string;
  trap: string;
  typeMore: (letters: number) => string;
  noneFound: string;
  looking: string;
  found: (count: number) => string;
  notLookedUp: string;
  notChecked: string;
  nothingThere: string;
  needsScript: string;
  firstAnswer: string;
  linkUsed: string;
  asPaper: string;
}

const en: Words = {
  required: 'Please answer this.',
  requiredMark: 'required',
  email: 'Please enter an e-mail address, such as name@example.org.',
  phone: 'Please enter a telephone number.',
  webAddress: 'Please enter a web address, such as https://example.org.',
  number: 'Please enter a number.',
  whole: 'Please enter a whole number.',
  decimals: (most) => `Please enter at most ${most} ${most === 1 ? 'digit' : 'digits'} behind the decimal mark.`,
  least: (least) => `Please enter ${least} or more.`,
  most: (most) => `Please enter ${most} or less.`,
  date: 'Please enter a date.',
  time: 'Please enter a time of day.',
  dateAndTime: 'Please enter a date and a time.',
  notBefore: (day) => `Please choose ${day} or later.`,
  notAfter: (day) => `Please choose ${day} or earlier.`,
  option: 'Please choose one of the options offered.',
  tooLong: (most) => `Please use at most ${most} characters.`,
  consent: 'This can’t be sent without your consent.',
  oneValue: 'Please give one answer only.',
  leastRows: (least) => (least === 1 ? 'Please fill in at least one row.' : `Please fill in at least ${least} rows.`),
  mostRows: (most) => `There is room for ${most} rows.`,
  choose: 'Please choose',
  yes: 'Yes',
  no: 'No',
  send: 'Send',
  sending: 'Sending …',
  next: 'Next',
  back: 'Back',
  page: (at, of) => `Page ${at} of ${of}`,
  oneMore: 'One more',
  lessOne: 'Take away',
  row: (at) => `Row ${at}`,
  errors: (count) => (count === 1 ? 'One answer needs a look.' : `${count} answers need a look.`),
  sent: 'Thank you. It has arrived.',
  notSent: 'It could not be sent.',
  notSentNow: 'It could not be sent just now. What you entered is kept here; please try again in a moment.',
  sentBefore: 'This was sent before, with other answers. Send it again if both are meant.',
  tooSoon: 'That was very quick. Please look it over and send it again.',
  restored: 'What you entered before is here again.',
  forget: 'Begin anew',
  trap: 'Please leave this empty',
  typeMore: (letters) => `Type at least ${letters} ${letters === 1 ? 'letter' : 'letters'}.`,
  noneFound: 'Nothing was found.',
  looking: 'Looking …',
  found: (count) => (count === 1 ? 'One was found.' : `${count} were found.`),
  notLookedUp: 'This can’t be looked up just now. The rest of the form works; please try again in a moment.',
  notChecked: 'This can’t be checked just now. Please choose it again in a moment.',
  nothingThere: 'There is nothing of this that could be changed.',
  needsScript: 'To choose here, your browser has to allow scripts.',
  firstAnswer: 'Please answer what stands before this first.',
  linkUsed: 'This link has been used: what was sent with it has arrived.',
  asPaper: 'What you sent, as a PDF',
};

const de: Words = {
  required: 'Bitte ausfüllen.',
  requiredMark: 'nötig',
  email: 'Bitte eine E-Mail-Adresse angeben, etwa name@example.org.',
  phone: 'Bitte eine Telefonnummer angeben.',
  webAddress: 'Bitte eine Webadresse angeben, etwa https://example.org.',
  number: 'Bitte eine Zahl angeben.',
  whole: 'Bitte eine ganze Zahl angeben.',
  decimals: (most) => `Bitte höchstens ${most} ${most === 1 ? 'Nachkommastelle' : 'Nachkommastellen'} angeben.`,
  least: (least) => `Bitte ${least} oder mehr angeben.`,
  most: (most) => `Bitte ${most} oder weniger angeben.`,
  date: 'Bitte ein Datum angeben.',
  time: 'Bitte eine Uhrzeit angeben.',
  dateAndTime: 'Bitte Datum und Uhrzeit angeben.',
  notBefore: (day) => `Bitte den ${day} oder später wählen.`,
  notAfter: (day) => `Bitte den ${day} oder früher wählen.`,
  option: 'Bitte eine der angebotenen Möglichkeiten wählen.',
  tooLong: (most) => `Bitte höchstens ${most} Zeichen.`,
  consent: 'Ohne Ihre Einwilligung kann das nicht gesendet werden.',
  oneValue: 'Bitte nur eine Antwort geben.',
  leastRows: (least) =>
    least === 1 ? 'Bitte mindestens eine Zeile ausfüllen.' : `Bitte mindestens ${least} Zeilen ausfüllen.`,
  mostRows: (most) => `Es ist Platz für ${most} Zeilen.`,
  choose: 'Bitte wählen',
  yes: 'Ja',
  no: 'Nein',
  send: 'Senden',
  sending: 'Wird gesendet …',
  next: 'Weiter',
  back: 'Zurück',
  page: (at, of) => `Seite ${at} von ${of}`,
  oneMore: 'Noch eine',
  lessOne: 'Entfernen',
  row: (at) => `Zeile ${at}`,
  errors: (count) => (count === 1 ? 'Eine Antwort braucht einen Blick.' : `${count} Antworten brauchen einen Blick.`),
  sent: 'Danke. Es ist angekommen.',
  notSent: 'Es konnte nicht gesendet werden.',
  notSentNow: 'Es konnte gerade nicht gesendet werden. Ihre Eingaben bleiben hier; bitte gleich noch einmal versuchen.',
  sentBefore:
    'Das wurde schon einmal gesendet, mit anderen Angaben. Wenn beides gemeint ist, bitte noch einmal senden.',
  tooSoon: 'Das ging sehr schnell. Bitte noch einmal durchsehen und erneut senden.',
  restored: 'Ihre früheren Eingaben sind wieder da.',
  forget: 'Neu beginnen',
  trap: 'Bitte leer lassen',
  typeMore: (letters) => `Bitte mindestens ${letters} Buchstaben eingeben.`,
  noneFound: 'Es wurde nichts gefunden.',
  looking: 'Wird gesucht …',
  found: (count) => (count === 1 ? 'Ein Treffer.' : `${count} Treffer.`),
  notLookedUp:
    'Das lässt sich gerade nicht nachschlagen. Der Rest des Formulars geht; bitte gleich noch einmal versuchen.',
  notChecked: 'Das lässt sich gerade nicht prüfen. Bitte gleich noch einmal auswählen.',
  nothingThere: 'Dazu gibt es nichts, was geändert werden könnte.',
  needsScript: 'Um hier zu wählen, muss der Browser Skripte zulassen.',
  firstAnswer: 'Bitte zuerst beantworten, was davor steht.',
  linkUsed: 'Dieser Link wurde schon benutzt: Was damit gesendet wurde, ist angekommen.',
  asPaper: 'Was Sie gesendet haben, als PDF',
};

const pl: Words = {
  required: 'Proszę wypełnić to pole.',
  requiredMark: 'wymagane',
  email: 'Proszę podać adres e-mail, np. imie@example.org.',
  phone: 'Proszę podać numer telefonu.',
  webAddress: 'Proszę podać adres strony, np. https://example.org.',
  number: 'Proszę podać liczbę.',
  whole: 'Proszę podać liczbę całkowitą.',
  decimals: (most) => `Liczba miejsc po przecinku: najwyżej ${most}.`,
  least: (least) => `Proszę podać ${least} lub więcej.`,
  most: (most) => `Proszę podać ${most} lub mniej.`,
  date: 'Proszę podać datę.',
  time: 'Proszę podać godzinę.',
  dateAndTime: 'Proszę podać datę i godzinę.',
  notBefore: (day) => `Proszę wybrać ${day} lub później.`,
  notAfter: (day) => `Proszę wybrać ${day} lub wcześniej.`,
  option: 'Proszę wybrać jedną z podanych możliwości.',
  tooLong: (most) => `Najwyżej ${most} znaków.`,
  consent: 'Bez Państwa zgody nie można tego wysłać.',
  oneValue: 'Proszę podać tylko jedną odpowiedź.',
  leastRows: (least) => `Liczba wypełnionych wierszy: co najmniej ${least}.`,
  mostRows: (most) => `Liczba wierszy: najwyżej ${most}.`,
  choose: 'Proszę wybrać',
  yes: 'Tak',
  no: 'Nie',
  send: 'Wyślij',
  sending: 'Wysyłanie …',
  next: 'Dalej',
  back: 'Wstecz',
  page: (at, of) => `Strona ${at} z ${of}`,
  oneMore: 'Dodaj',
  lessOne: 'Usuń',
  row: (at) => `Wiersz ${at}`,
  errors: (count) => `Odpowiedzi do sprawdzenia: ${count}.`,
  sent: 'Dziękujemy. Formularz dotarł.',
  notSent: 'Nie udało się wysłać.',
  notSentNow: 'Nie udało się teraz wysłać. Wpisane dane zostają tutaj; proszę spróbować za chwilę.',
  sentBefore: 'Formularz był już wysłany z innymi odpowiedziami. Jeśli oba są potrzebne, proszę wysłać jeszcze raz.',
  tooSoon: 'To było bardzo szybko. Proszę przejrzeć i wysłać jeszcze raz.',
  restored: 'Wcześniej wpisane dane są z powrotem.',
  forget: 'Zacznij od nowa',
  trap: 'Proszę zostawić puste',
  typeMore: (letters) =>
    `Proszę wpisać co najmniej ${letters} ${letters === 1 ? 'literę' : letters < 5 ? 'litery' : 'liter'}.`,
  noneFound: 'Nic nie znaleziono.',
  looking: 'Trwa wyszukiwanie …',
  found: (count) => `Znaleziono: ${count}.`,
  notLookedUp: 'Nie można tego teraz wyszukać. Reszta formularza działa; proszę spróbować za chwilę.',
  notChecked: 'Nie można tego teraz sprawdzić. Proszę za chwilę wybrać ponownie.',
  nothingThere: 'Nie ma tu nic, co można by zmienić.',
  needsScript: 'Aby tu wybrać, przeglądarka musi zezwalać na skrypty.',
  firstAnswer: 'Proszę najpierw odpowiedzieć na wcześniejsze pytania.',
  linkUsed: 'Ten link został już użyty: to, co zostało nim wysłane, dotarło.',
  asPaper: 'To, co zostało wysłane, jako PDF',
};

const KNOWN: Record<string, Words> = { en, de, pl };

/** @param language BCP 47; of `de-AT` the words of `de` */
export const wordsIn = (language: string): Words => KNOWN[language.toLowerCase().split('-')[0]!] ?? en;
