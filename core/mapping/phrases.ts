/**
 * Phrases by which a meaning is told in a name or label, folded, in the languages forms are written in: English, German, Polish,
 * French, Spanish, Dutch and Italian fully; of Portuguese, Czech, Slovak, Swedish, Danish, Norwegian, Finnish, Hungarian,
 * Romanian, Turkish, Russian, Ukrainian, Greek, Chinese, Japanese and Persian what every contact form asks.
 */
import type { Meaning } from './lexicon.ts';

export const PHRASES: Record<Meaning, string> = {
  'given name':
    'first name|given name|forename|firstname|fname|givenname|christian name|vorname|imie|prenom|nombre de pila|voornaam|nome di battesimo|name first|keresztnev|utonev|jmeno|krestni jmeno|krstne meno|meno|fornamn|fornavn|etunimi|prenume|ad|isim|имя|ім я|ονομα|primeiro nome|nome proprio|名|名字',
  'family name':
    'last name|family name|surname|lastname|lname|familyname|nachname|familienname|zuname|nazwisko|nom de famille|apellido|apellidos|achternaam|familienaam|cognome|name last|vezeteknev|prijmeni|priezvisko|efternamn|etternavn|efternavn|sukunimi|nume de familie|soyad|soyadi|soyisim|фамилия|прізвище|επωνυμο|επιθετο|sobrenome|ultimo nome|姓|nom d usage|surname family name|last or family name',
  'full name':
    'full name|fullname|contact name|contact person|your name|name of contact|contact|ansprechpartner|ansprechpartnerin|kontaktperson|vor und nachname|vollstandiger name|imie i nazwisko|osoba kontaktowa|nom complet|nom et prenom|nombre completo|nombre y apellidos|volledige naam|contactpersoon|nome e cognome|nome completo|keeper|beekeeper|imker|attendee|participant|teilnehmer|cele jmeno|teljes nev|hela namnet|fullt namn|fulde navn|fullt navn|koko nimi|nume complet|ad soyad|adi soyadi|фио|полное имя|повне ім я|ονοματεπωνυμο|real name|display name|screen full name|name and surname|first and last name|anzeigename|姓名|author|sender name|name of sender',
  name: 'name|nazwa|nom|nombre|naam|nome|nev|navn|namn|nimi|nume|название|наименование',
  title:
    'salutation|anrede|honorific|prefix|tytul grzecznosciowy|civilite|tratamiento|aanhef|titel anrede|title of address|mr mrs|praefix|osloveni|titulatura|titre d appel|honorific prefix|przedrostek|prefixe|prefijo|voorvoegsel|prefisso|prefixo',
  organisation:
    'organisation|organization|company|company name|organisation name|firm|business|business name|association|club|farm|farm name|orchard|orchard name|name of the orchard|name of orchard|name of the company|name of company|name of the club|name of the farm|name of the organisation|name der firma|name des vereins|name des betriebs|name des unternehmens|firma|firmenname|unternehmen|betrieb|betriebsname|verein|organisationsname|obsthof|nazwa firmy|przedsiebiorstwo|organizacja|sad|societe|entreprise|raison sociale|empresa|organizacion|bedrijf|bedrijfsnaam|organisatie|azienda|ditta|ragione sociale|org|szervezet|ceg|cegnev|organizace|organizacia|spolecnost|firma nazev|foretag|organisationsnamn|virksomhed|bedrift|yritys|organisaatio|organizatie|companie|kurum|sirket|организация|компания|організація|компанія|οργανισμος|εταιρεια|organizacao|empresa nome|company organization|company organisation|employer|arbeitgeber|pracodawca|school|university|denomination|firmenname organisation|firma organizacja|单位|会社名|회사',
  job: 'job title|position|role|funktion|stanowisko|fonction|poste|cargo|puesto|functie|ruolo|occupation|beruf|your role|role in company|job|profession|munkakor|pozice|pozicia|befattning|yrke|stilling|ammatti|pozitie|unvan|gorev|должность|посада|θεση|profissao|contact title|job function|fonction dans la societe|berufsbezeichnung|titel position|职业|職業|شغل',
  email:
    'email|e mail|mail|email address|e mail address|mail adresse|mailadresse|emailadresse|e mail adresse|adres e mail|poczta|courriel|adresse e mail|adresse email|adresse mail|correo|correo electronico|e mailadres|mailadres|indirizzo e mail|posta elettronica|ηλεκτρονικο ταχυδρομειο|epost|e post|sahkoposti|sahkopostiosoite|eposta|e posta|электронная почта|почта|електронна пошта|пошта|e mailova adresa|emailova adresa|email cim|e mail cim|adresa de email|endereco de email|enderecos de email|email id|your email|correo electronico direccion|inbox|邮箱|电子邮件|メール|メールアドレス|이메일|ایمیل',
  phone:
    'phone|telephone|tel|phone number|telephone number|landline|telefon|telefonnummer|rufnummer|fon|festnetz|numer telefonu|nr telefonu|telefonu|numero de telephone|telefono|numero de telefono|telefoon|telefoonnummer|numero di telefono|call back number|daytime phone|direct phone|direct line|direct dial|extension|durchwahl|main phone|phone no|tel no|tel nr|telefonnr|telefonszam|telefonne cislo|telefonni cislo|cislo telefonu|puhelin|puhelinnumero|telefoni|nomer telefona|телефон|номер телефона|номер телефону|τηλεφωνο|telefone|numero de telefone|tlf|联系电话|电话|電話番号|전화번호|تلفن|contact number|work phone|home phone|office phone|telefon numarasi',
  mobile:
    'mobile|mobile phone|mobile number|cell|cell phone|cellphone|handy|handynummer|mobil|mobiltelefon|mobilnummer|komorka|telefon komorkowy|portable|telephone portable|movil|telefono movil|mobiel|cellulare|mobile no|mobil nr|handynr|telefon kom|nr komorki|mobiltelefonszam|mobilni telefon|mobil telefon|matkapuhelin|cep telefonu|мобильный телефон|мобильный|мобільний телефон|κινητο|celular|telemovel|手机号|手机|携帯電話|휴대폰',
  fax: 'fax|fax number|faxnummer|telefax|faks|telecopie',
  website:
    'website|web site|web address|web|homepage|url|site|internet address|webseite|internetadresse|internetseite|strona internetowa|strona www|www|site web|sitio web|pagina web|sito web|sito|webbplats|hjemmeside|nettsted|nettside|kotisivu|webova stranka|weboldal|site web adresse|сайт|веб сайт|ιστοσελιδα|blog|your website|site url|web page|webpage|web sitesi',
  street:
    'street|street address|street name|address line|address line 1|road|strasse|str|ulica|rue|calle|straat|straatnaam|via|indirizzo|utca|ulice|gata|gatuadress|vej|gateadresse|katuosoite|strada|sokak|cadde|улица|вулиця|οδος|logradouro|rua|via e numero|voie|address 1|street line 1|address line one|strassenadresse|adres ulica|mailing street',
  'house number':
    'house number|house no|number of house|hausnummer|hausnr|haus nr|nr|numer domu|nr domu|numero de rue|numero de casa|huisnummer|numero civico|huisnr|hnr|hazszam|cislo domu|cislo popisne|husnummer|talon numero|дом|номер дома|будинок|numero maison|building number|unit number',
  address:
    'address|postal address|full address|anschrift|adresse|adres|direccion|domicilio|recapito|cim|lakcim|adresa|adress|osoite|адрес|адреса|διευθυνση|endereco|home address|your address|地址|住所|주소|آدرس|acik adres',
  'address more':
    'address line 2|address addition|adresszusatz|complement d adresse|flat|apartment|floor|address 2|address line two|street address line 2|line 2|suite|apt|apartment suite|complement adresse|adresse 2|complemento|appartement|unit|building|batiment|supp address|suppl address|kvartira|квартира',
  postcode:
    'postcode|post code|postal code|zip|zip code|plz|postleitzahl|kod pocztowy|code postal|codigo postal|cp|cap|iranyitoszam|psc|postnummer|postinumero|cod postal|posta kodu|индекс|почтовый индекс|поштовий індекс|ταχυδρομικος κωδικας|cep|post nr|postal zip code|zip postal code|pin code|pincode|pcode|邮编|郵便番号|우편번호|postal zip|plz ort',
  city: 'city|town|place|locality|village|ort|stadt|wohnort|miasto|miejscowosc|ville|commune|ciudad|localidad|poblacion|plaats|woonplaats|stad|citta|comune|varos|mesto|obec|by|postort|poststed|kaupunki|postitoimipaikka|oras|localitate|sehir|ilce|город|місто|πολη|cidade|municipio|suburb|town city|city town|城市|市区町村|도시|شهر|ville ou commune',
  region:
    'region|state|county|province|bundesland|wojewodztwo|departement|provincia|provincie|regione|megye|kraj okres|lan|fylke|maakunta|judet|bolge|область|регион|район|регіон|νομος|estado|uf|state province|province state|state province region|state or province|territory|省份|都道府県|bundesland provinz|wojewodztwo prowincja',
  country:
    'country|nation|land|kraj|pays|pais|paese|nazione|staat|orszag|zeme|stat|krajina|maa|tara|ulke|страна|країна|χωρα|country region|land region|国家|国|국가|panstwo',
  'birth date':
    'geb datum|geb dat|birth date|date of birth|birthday|dob|bday|geburtsdatum|geburtstag|data urodzenia|date de naissance|fecha de nacimiento|geboortedatum|data di nascita|born|born on|geboren|geboren am|geboren op|ne le|nee le|ne e le|naissance|nacimiento|nato il|urodzony|szuletesi datum|datum narozeni|datum narodenia|fodelsedatum|fodselsdato|fodselsdag|syntymaaika|data nasterii|dogum tarihi|дата рождения|дата народження|ημερομηνια γεννησης|data de nascimento|date of birth dd mm yyyy|birthdate|出生日期|生年月日|생년월일|تاریخ تولد',
  gender:
    'gender|sex|geschlecht|plec|sexe|sexo|geslacht|sesso|nem|pohlavi|kon|kjonn|sukupuoli|gen|cinsiyet|пол|стать|φυλο|genero|性别|性別|성별|جنسیت',
  language:
    'language|preferred language|sprache|jezyk|langue|idioma|taal|lingua|locale|nyelv|jazyk|sprak|sprog|kieli|limba|dil|язык|мова|γλωσσα|language preference|interface language|lang key',
  message:
    'message|comments|comment|remarks|remark|notes|note|question|questions|description|details|anything else|nachricht|mitteilung|bemerkung|bemerkungen|anmerkung|anmerkungen|anliegen|beschreibung|kommentar|wiadomosc|uwagi|komentarz|opis|commentaire|remarques|mensaje|comentarios|observaciones|bericht|opmerkingen|toelichting|messaggio|commenti|note aggiuntive|opmerking|vraag|uw vraag|observacion|comentario|consulta|remarque|votre demande|demande|pytanie|tresc|richiesta|domanda|annotazioni|how can we help|what can we do for you|tell us more|enquiry|inquiry|what would you like to tell us|was mochten sie uns sagen|wunsche|sonstiges|additional information|further information|zusatzliche angaben|zprava|sprava|uzenet|meddelande|besked|melding|viesti|mesaj|mesajiniz|сообщение|повідомлення|комментарий|μηνυμα|mensagem|your comment|leave a comment|add a comment|your comments|your message|personal message|add a personal message|opinion|your opinion|comment text|leave a reply|your feedback|feedback|texto|saisissez votre message|留言|メッセージ|お問い合わせ内容|메시지|پیام|nota|notatki|notizen|opiskeluviesti',
  subject:
    'subject|email subject|mail subject|topic|betreff|thema|temat|sujet|objet|asunto|onderwerp|oggetto|subject line|worum geht es|regarding|reason for enquiry|concerning|predmet|targy|amne|emne|aihe|subiect|konu|тема|θεμα|assunto|your comment title|comment title|headline|件名|제목',
  start:
    'start|from|begin|begins|starts|start date|beginn|ab|von datum|startdatum|od|poczatek|debut|inicio|begindatum|inizio',
  end: 'end|until|ends|end date|ende|bis|enddatum|do kiedy|koniec|fin|einde|fine',
  date: 'date|datum|tag|data|fecha',
  time: 'time|uhrzeit|zeit|tijd|time of day',
  amount: 'amount|sum|total|betrag|summe|kwota|montant|importe|bedrag|importo',
  quantity: 'quantity|qty|how many|count|anzahl|menge|stuck|ilosc|liczba|quantite|cantidad|aantal|quantita',
  area: 'area|hectares|hectare|ha|size|acreage|flache|hektar|grosse|powierzchnia|hektary|superficie|surface|oppervlakte',
  currency: 'currency|wahrung|waluta|devise|moneda|valuta',
  price: 'price|fee|cost|preis|gebuhr|cena|oplata|prix|precio|prijs|prezzo',
  'tax number':
    'tax number|tax id|vat|vat number|vat id|ust id|ustid|umsatzsteuer id|steuernummer|nip|numero de tva|nif|cif|btw nummer|partita iva|siret|siren|numero de siret|cnpj|ico|dic|rut|nip number|orgnr|organisationsnummer|company number|registration number|business id',
  newsletter:
    'newsletter|newslettera|newslettern|letters|subscribe|letters allowed|mailing list|rundbrief|newsletter anmeldung|biuletyn|infolettre|boletin|nieuwsbrief|newsletters|subscribe to newsletter|subscribe to our newsletter|daily newsletter|weekly newsletter|receive the newsletter|receive news|email updates|keep me informed|send me emails with news|marketing|offers by email|hirlevel|zpravodaj|novinky|nyhetsbrev|nyhedsbrev|uutiskirje|bulten|рассылка|розсилка|ενημερωτικο δελτιο|news alerts|daily digest|newsletter abonnieren|zapisz do newslettera|recevoir la newsletter',
  consent:
    'consent|agree|i agree|permission|einwilligung|zustimmung|einverstanden|zgoda|zgadzam|consentement|j accepte|consentimiento|acepto|toestemming|akkoord|consenso|accetto|opt in|optin|consentimento|souhlas|samtycke|samtykke|suostumus|onay|согласие|згода|bewilligung',
  interests:
    'interests|interest|interested|topics|crops|crop|fruit|interessen|kulturen|obstarten|obst|themen|zainteresowania|uprawy|centres d interet|cultures|intereses|cultivos|interesses|gewassen|interessi|colture',
  source:
    'source|utm source|heard|referral|how did you hear|campaign|herkunft|quelle|aufmerksam|zrodlo|fuente|bron|fonte|how did you hear about us|how did you find us|where did you hear|wie haben sie von uns|skad o nas|comment nous avez vous connu|como nos conociste|utm medium|utm campaign|heard about us',
  reference:
    'reference|customer number|member number|membership number|number|kundennummer|mitgliedsnummer|nummer|referenz|numer|numer klienta|numero|numero client|klantnummer|numero cliente|customer no|client number|account number|member no|membership no|order number|order no|order id|invoice number|booking number|bestellnummer|auftragsnummer|kundennr|kunden nr|mitgliedsnr|mitglieds nr|vorgangsnummer|numer zamowienia|numero de commande|numero de pedido|bestelnummer|numero ordine',
  kind: 'kind|type|category|kind of enquiry|art|typ|kategorie|rodzaj|kategoria|genre|tipo|categoria|soort|topic kind|druh|type of enquiry',
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
  'middle name':
    'middle name|middle initial|mi|middle|second given name|zweiter vorname|weitere vornamen|drugie imie|deuxieme prenom|segundo nombre|tweede voornaam|secondo nome|mellannamn|mellemnavn|druhe jmeno|отчество|по батькові|nome do meio|ikinci ad',
  'birth name':
    'birth name|maiden name|name at birth|geburtsname|madchenname|nazwisko panienskie|nazwisko rodowe|nom de naissance|nom de jeune fille|apellido de soltera|geboortenaam|meisjesnaam|cognome da nubile|rodne prijmeni',
  'name suffix': 'suffix|name suffix|namenszusatz|przyrostek|suffixe|sufijo|achtervoegsel|suffisso|sufixo',
  nickname:
    'nickname|nick name|nick|screen name|pseudonym|alias|spitzname|pseudonim|przydomek|pseudo|surnom|pseudonyme|apodo|bijnaam|soprannome|smeknamn|kaldenavn|kallenavn|prezdivka|prezyvka|becenev|porecla|takma ad|псевдоним|псевдонім|apelido|昵称',
  username:
    'username|user name|user id|userid|login|login name|log in name|account name|user|benutzername|anmeldename|nutzername|nazwa uzytkownika|uzytkownik|identifiant|nom d utilisateur|usuario|nombre de usuario|gebruikersnaam|nome utente|utente|anvandarnamn|brugernavn|brukernavn|kayttajatunnus|uzivatelske jmeno|uzivatel|pouzivatelske meno|felhasznalonev|nume utilizator|nume de utilizator|kullanici adi|имя пользователя|логин|логін|ім я користувача|ονομα χρηστη|nome de usuario|usuario login|choose your username|username or email',
  'email again':
    'confirm email|confirm email address|email confirmation|repeat email|email again|retype email|verify email|e mail wiederholen|e mail bestatigen|powtorz e mail|potwierdz e mail|confirmer l email|confirmation email|confirmar email|conferma email|bevestig e mail',
  nationality:
    'nationality|citizenship|staatsangehorigkeit|nationalitat|obywatelstwo|narodowosc|nationalite|nacionalidad|nationaliteit|nazionalita|cittadinanza|nacionalidade|statni obcanstvi|гражданство',
  age: 'age|alter|wiek|edad|leeftijd|eta|alder|ika|vek|yas|возраст|idade|age group|age range',
  'birth day': 'birth day|day of birth|geburtstag tag|jour de naissance',
  'birth month': 'birth month|month of birth|geburtsmonat|mois de naissance',
  'birth year': 'birth year|year of birth|geburtsjahr|rok urodzenia|annee de naissance|ano de nacimiento',
  day: 'day|tag|jour|dzien miesiaca|dag|giorno|dia|den|nap|paiva|gun|день|dd',
  month: 'month|monat|miesiac|mois|mes|maand|mese|manad|maned|kuukausi|mesic|honap|ay|месяц|місяць|luna|mm',
  year: 'year|jahr|rok|annee|ano|jaar|anno|ar|vuosi|ev|yil|год|рік|an|yyyy',
  department:
    'department|dept|abteilung|dzial|departement service|service|departamento|afdeling|reparto|ufficio|avdelning|osasto|oddeleni|osztaly|bolum|отдел|unit department|organisational unit',
  terms:
    'terms|terms and conditions|terms of service|terms of use|terms conditions|i agree to the terms|accept terms|accept the terms|house rules|rules|agb|allgemeine geschaftsbedingungen|nutzungsbedingungen|teilnahmebedingungen|regulamin|akceptuje regulamin|conditions generales|conditions d utilisation|cgu|cgv|terminos|terminos y condiciones|condiciones|voorwaarden|algemene voorwaarden|termini|termini e condizioni|condizioni|termos|termos de uso|podminky|obchodni podminky|villkor|betingelser|ehdot|kullanim kosullari|условия|相关条款|利用規約|약관|agree terms|license agreement',
  privacy:
    'privacy|privacy policy|data protection|privacy notice|privacy statement|datenschutz|datenschutzerklarung|datenschutzhinweise|polityka prywatnosci|rodo|gdpr|ochrona danych|przetwarzanie danych|confidentialite|politique de confidentialite|privacidad|politica de privacidad|privacybeleid|privacyverklaring|informativa sulla privacy|trattamento dei dati|politica de privacidade|ochrana osobnich udaju|zpracovani osobnich udaju|integritetspolicy|personvern|tietosuoja|gizlilik|kvkk|политика конфиденциальности|обработка персональных данных|handling my info',
  'follow-up':
    'follow up|followup|follow up comments|followup comments|notify me|notify me of follow up comments|notify me of new comments|notify me of new posts|subscribe to this comment thread|benachrichtige mich|powiadom mnie|prevenez moi|avisarme|avvisami|send me a copy',
  captcha:
    'captcha|recaptcha|security code answer|enter the words|enter the code|verification code|verify you are human|are you human|spam check|anti spam|sicherheitsfrage|solve|kod z obrazka|验证码|code de securite|wpisz kod|spam robots|honeypot|leave this field empty|leave this field blank|do not fill',
  search:
    'search|search site|search for|search terms|keywords|keyword|suche|suchbegriff|szukaj|wyszukaj|recherche|rechercher|buscar|busqueda|zoeken|cerca|pesquisa|hledat|sok|haku|arama|поиск|пошук|q|query|filter|検索|검색|جست و جو',
  remember:
    'remember me|keep me signed in|keep me logged in|stay signed in|remember|angemeldet bleiben|eingeloggt bleiben|zapamietaj mnie|se souvenir de moi|recordarme|onthoud mij|ricordami|lembrar|muista minut|beni hatirla|запомнить меня',
  'identity number':
    'identity number|id number|passport number|ssn|social security number|national id|pesel|steuer id|personalausweis|cpf|dni|nie|bsn|codice fiscale|rodne cislo|personnummer|pan number|identity card',
  'dialling code':
    'dialling code|dial code|country code|calling code|phone code|phone prefix|area code|country calling code|vorwahl|landesvorwahl|landervorwahl|kierunkowy|numer kierunkowy|prefiks|indicatif|indicatif pays|prefijo|prefijo telefonico|landnummer|prefisso|prefisso internazionale|phone country',
  hour: 'hour|hours|stunde|godzina|heure|hora|uur|ora|hh',
  minute: 'minute|minutes|minuten|minuta|minuty|minuto|minuut',
};
