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
  signHere: string;
  drawHere: string;
  drawAnew: string;
  fileGone: string;
  fileEmpty: string;
  fileTooLarge: (mebibytes: number) => string;
  fileSort: string;
  fileTaken: (name: string) => string;
  fileHere: string;
  fileAway: string;
  fileSending: string;
  toPay: string;
  paid: string;
  testMode: string;
  pay: string;
  payElsewhere: string;
  payLater: string;
  payRefused: string;
  payConfirming: string;
  payLapsed: string;
  working: string;
  needsWork: string;
  refusedBySystem: string;
  refusedPolitely: string;
  made: string;
  actsAs: (name: string) => string;
  mayNot: string;
  leftOut: string;
  mayNotRead: (what: string) => string;
  mayNotCreate: (what: string) => string;
  mayNotChange: (what: string) => string;
  mayNotWrite: (field: string, what: string) => string;
  signedOut: string;
  anotherOne: string;
  waitsHere: string;
  convert: string;
  wouldCome: string;
  wouldCreate: (what: string) => string;
  wouldChange: (what: string) => string;
  wouldKeep: (what: string) => string;
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
  signHere: 'Type your name to sign.',
  drawHere: 'You may draw your signature here as well',
  drawAnew: 'Draw anew',
  fileGone: 'This file isn’t there any more. Please choose it again.',
  fileEmpty: 'This file is empty.',
  fileTooLarge: (mebibytes) => `Please choose a file of at most ${mebibytes} MB.`,
  fileSort: 'A file of this sort isn’t taken here.',
  fileTaken: (name) => `${name} is here.`,
  fileHere: 'The file you chose is here.',
  fileAway: 'Take it away',
  fileSending: 'The file is being sent …',
  toPay: 'To be paid',
  paid: 'Paid',
  testMode: 'Test mode: no money is moved.',
  pay: 'Go on to pay',
  payElsewhere: 'What you entered is kept. It is carried out once it is paid.',
  payLater: 'The payment service can’t be reached just now. What you entered is kept; please try again in a moment.',
  payRefused: 'The payment was refused. You can try again.',
  payConfirming: 'The payment is being confirmed. This page looks again by itself.',
  payLapsed: 'It wasn’t paid in time, and has been set aside.',
  working: 'One moment: your browser is doing a small sum, so that programs have it harder.',
  needsWork: 'Many are sending just now. Please send it again in a minute.',
  refusedBySystem: 'It arrived and could not be taken over:',
  refusedPolitely: 'It has arrived. Somebody has a look at it before it goes on.',
  made: 'This came of it:',
  actsAs: (name) => `You act here as ${name}.`,
  mayNot: 'You may not do there what this form does:',
  leftOut: 'Some of it you may not write there; leave it blank:',
  mayNotRead: (what) => `see a record of the kind ${what}`,
  mayNotCreate: (what) => `create a record of the kind ${what}`,
  mayNotChange: (what) => `change a record of the kind ${what}`,
  mayNotWrite: (field, what) => `write “${field}” of ${what}`,
  signedOut:
    'You are no longer signed in on the page around this form. Open that page anew; what you have filled in is kept here.',
  anotherOne: 'Fill in another one',
  convert: 'Convert',
  wouldCome: 'This would come of it:',
  wouldCreate: (what) => `A new ${what}`,
  wouldChange: (what) => `${what}, changed`,
  wouldKeep: (what) => `${what}, as it is`,
  waitsHere: 'It is being carried out. This page looks again by itself.',
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
  signHere: 'Zum Unterschreiben bitte den Namen eintippen.',
  drawHere: 'Hier können Sie auch mit der Hand unterschreiben',
  drawAnew: 'Neu zeichnen',
  fileGone: 'Diese Datei ist nicht mehr da. Bitte wählen Sie sie noch einmal aus.',
  fileEmpty: 'Diese Datei ist leer.',
  fileTooLarge: (mebibytes) => `Bitte wählen Sie eine Datei von höchstens ${mebibytes} MB.`,
  fileSort: 'Dateien dieser Art werden hier nicht angenommen.',
  fileTaken: (name) => `${name} ist da.`,
  fileHere: 'Die Datei, die Sie ausgewählt haben, ist da.',
  fileAway: 'Wegnehmen',
  fileSending: 'Die Datei wird gesendet …',
  toPay: 'Zu zahlen',
  paid: 'Bezahlt',
  testMode: 'Probebetrieb: Es fließt kein Geld.',
  pay: 'Weiter zum Bezahlen',
  payElsewhere: 'Ihre Angaben sind gespeichert. Ausgeführt werden sie, sobald bezahlt ist.',
  payLater:
    'Der Zahlungsdienst ist gerade nicht erreichbar. Ihre Angaben sind gespeichert; bitte versuchen Sie es gleich noch einmal.',
  payRefused: 'Die Zahlung wurde abgelehnt. Sie können es noch einmal versuchen.',
  payConfirming: 'Die Zahlung wird bestätigt. Diese Seite sieht von selbst wieder nach.',
  payLapsed: 'Es wurde nicht rechtzeitig bezahlt und ist zurückgelegt.',
  working: 'Einen Augenblick: Ihr Browser löst eine kleine Rechenaufgabe, damit es Programme schwerer haben.',
  needsWork: 'Gerade senden sehr viele. Bitte senden Sie es in einer Minute noch einmal.',
  refusedBySystem: 'Es ist angekommen und konnte nicht übernommen werden:',
  refusedPolitely: 'Es ist angekommen. Jemand sieht es sich an, bevor es weitergeht.',
  made: 'Das ist daraus geworden:',
  actsAs: (name) => `Sie handeln hier als ${name}.`,
  mayNot: 'Sie dürfen dort nicht, was dieses Formular tut:',
  leftOut: 'Einiges davon dürfen Sie dort nicht schreiben; bitte frei lassen:',
  mayNotRead: (what) => `einen Datensatz der Art ${what} sehen`,
  mayNotCreate: (what) => `einen Datensatz der Art ${what} anlegen`,
  mayNotChange: (what) => `einen Datensatz der Art ${what} ändern`,
  mayNotWrite: (field, what) => `„${field}“ von ${what} schreiben`,
  signedOut:
    'Auf der Seite um dieses Formular sind Sie nicht mehr angemeldet. Bitte öffnen Sie sie neu; was Sie ausgefüllt haben, bleibt hier.',
  anotherOne: 'Noch eines ausfüllen',
  convert: 'Umwandeln',
  wouldCome: 'Das würde daraus:',
  wouldCreate: (what) => `${what}, neu`,
  wouldChange: (what) => `${what}, geändert`,
  wouldKeep: (what) => `${what}, wie bisher`,
  waitsHere: 'Es wird gerade ausgeführt. Diese Seite sieht von selbst wieder nach.',
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
  signHere: 'Aby podpisać, proszę wpisać imię i nazwisko.',
  drawHere: 'Można też podpisać się tutaj odręcznie',
  drawAnew: 'Narysuj od nowa',
  fileGone: 'Tego pliku już nie ma. Proszę wybrać go ponownie.',
  fileEmpty: 'Ten plik jest pusty.',
  fileTooLarge: (mebibytes) => `Proszę wybrać plik nie większy niż ${mebibytes} MB.`,
  fileSort: 'Plików tego rodzaju tu nie przyjmujemy.',
  fileTaken: (name) => `${name} jest na miejscu.`,
  fileHere: 'Wybrany plik jest na miejscu.',
  fileAway: 'Usuń',
  fileSending: 'Plik jest wysyłany …',
  toPay: 'Do zapłaty',
  paid: 'Zapłacono',
  testMode: 'Tryb próbny: pieniądze nie są przekazywane.',
  pay: 'Przejdź do płatności',
  payElsewhere: 'Podane dane są zapisane. Zostaną wykonane po zapłacie.',
  payLater: 'Usługa płatności jest teraz nieosiągalna. Podane dane są zapisane; proszę spróbować za chwilę.',
  payRefused: 'Płatność została odrzucona. Można spróbować ponownie.',
  payConfirming: 'Płatność jest potwierdzana. Ta strona sama sprawdzi ponownie.',
  payLapsed: 'Nie zapłacono na czas i odłożono.',
  working: 'Chwileczkę: przeglądarka rozwiązuje małe zadanie, aby programom było trudniej.',
  needsWork: 'Właśnie wysyła bardzo wiele osób. Proszę wysłać ponownie za minutę.',
  refusedBySystem: 'Dotarło, ale nie mogło zostać przejęte:',
  refusedPolitely: 'Dotarło. Ktoś to obejrzy, zanim pójdzie dalej.',
  made: 'Powstało z tego:',
  actsAs: (name) => `Działasz tu jako ${name}.`,
  mayNot: 'Nie wolno Ci tam zrobić tego, co robi ten formularz:',
  leftOut: 'Części z tego nie wolno Ci tam zapisać; proszę zostawić puste:',
  mayNotRead: (what) => `zobaczyć rekordu rodzaju ${what}`,
  mayNotCreate: (what) => `utworzyć rekordu rodzaju ${what}`,
  mayNotChange: (what) => `zmienić rekordu rodzaju ${what}`,
  mayNotWrite: (field, what) => `zapisać „${field}” w ${what}`,
  signedOut:
    'Na stronie wokół tego formularza sesja wygasła. Proszę otworzyć ją na nowo; to, co wypełniono, zostaje tutaj.',
  anotherOne: 'Wypełnij kolejny',
  convert: 'Przekształć',
  wouldCome: 'Powstałoby z tego:',
  wouldCreate: (what) => `${what}, nowy rekord`,
  wouldChange: (what) => `${what}, zmieniony rekord`,
  wouldKeep: (what) => `${what}, bez zmian`,
  waitsHere: 'Jest właśnie wykonywane. Ta strona sama sprawdzi ponownie.',
};

const KNOWN: Record<string, Words> = { en, de, pl };

/** @param language BCP 47; of `de-AT` the words of `de` */
export const wordsIn = (language: string): Words => KNOWN[language.toLowerCase().split('-')[0]!] ?? en;
