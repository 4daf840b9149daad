/**
 * What was learned from 202 forms of bench/corpus/training.txt, forms and records written here and the lexicon's phrases.
 * Made by `npm run mapping:learn` on 2026-11-26; not to be changed by hand.
 */
/** What each of EXPECTED (weigh.ts) counts, in log-odds. */
export const LINE_WEIGHTS: readonly number[] = [
  -0.186, 0.824, 2.951, 1.191, 2.625, 0.832, 0.488, 3.096, 2.51, 2.165, 0.022, 0.719, 0.767, -0.496, 2.5, -0.84, 2.597,
  -1.747, -1.897,
];
/** What is said of a line, and how often that is right. */
export const LINE_CURVE: readonly (readonly [number, number])[] = [
  [0.521, 0.326],
  [0.619, 0.5],
  [0.724, 0.577],
  [0.792, 0.608],
  [0.891, 0.663],
  [0.912, 0.86],
  [0.918, 0.897],
  [0.92, 0.885],
  [0.95, 0.974],
  [0.977, 0.995],
  [0.986, 0.998],
];
/** From here on lines are put in place by themselves: 98 % of them are right. */
export const SET_FROM = 0.85;
/** What a field means: classes, what speaks for each, and a line a feature. */
export const MEANING_WEIGHTS = `address	address more	age	amount	area	birth date	birth day	birth month	birth name	birth place	birth year	city	consent	country	currency	date	day	department	dialling code	email	email again	employees	end	family name	fax	follow-up	full name	gender	given name	hour	house number	identity number	interests	job	kind	language	message	middle name	minute	mobile	month	name	name suffix	nationality	newsletter	nickname	nothing	ordered	organisation	owner	phone	photo	postcode	price	privacy	product	quantity	reference	region	source	start	status	street	subject	tax number	terms	time	title	username	website	year
122 56 28 68 24 53 119 117 32 20 119 55 46 135 32 -18 3 51 49 96 49 59 37 57 15 88 90 112 53 18 115 36 30 59 16 113 80 62 13 247 -3 12 17 34 213 79 179 57 58 12 148 16 59 21 144 32 24 34 102 46 45 21 62 104 41 210 5 74 68 152 -4
a address-level1	1 -9 5 -11 11 -8 13 -14 19 -14 23 -8 26 -11 27 -8 28 -8 33 -8 35 -7 46 -43 48 -7 50 -16 52 -10 58 321 62 -14 67 -8 69 -10
a address-level2	1 -9 5 -11 11 320 13 -14 19 -14 23 -8 26 -11 27 -8 28 -8 33 -8 35 -7 46 -43 48 -7 50 -16 52 -10 58 -8 62 -14 67 -8 69 -10
a address-line1	1 -8 5 -10 11 -7 13 -13 19 -13 23 -7 26 -10 27 -7 28 -7 33 -7 35 -7 46 -40 48 -7 50 -14 52 -9 58 -7 62 284 67 -7 69 -9
a address-line2	1 312 5 -10 11 -8 13 -14 19 -14 23 -8 26 -11 27 -7 28 -7 33 -8 35 -7 46 -42 48 -7 50 -16 52 -10 58 -8 62 -14 67 -8 69 -10
a bday	1 -9 5 303 11 -8 13 -14 19 -14 23 -8 26 -10 27 -7 28 -7 33 -8 35 -7 46 -42 48 -7 50 -15 52 -9 58 -8 62 -14 67 -8 69 -9
a country	1 -8 5 -10 11 -7 13 285 19 -13 23 -7 26 -10 27 -7 28 -7 33 -7 35 -7 46 -40 48 -7 50 -14 52 -9 58 -7 62 -13 67 -7 69 -9
a country-name	1 -8 5 -10 11 -7 13 285 19 -13 23 -7 26 -10 27 -7 28 -7 33 -7 35 -7 46 -40 48 -7 50 -14 52 -9 58 -7 62 -13 67 -7 69 -9
a email	1 -8 5 -10 11 -7 13 -13 19 285 23 -7 26 -10 27 -7 28 -7 33 -7 35 -7 46 -40 48 -7 50 -14 52 -9 58 -7 62 -13 67 -7 69 -9
a family-name	1 -9 5 -11 11 -8 13 -14 19 -14 23 321 26 -11 27 -8 28 -8 33 -8 35 -7 46 -43 48 -7 50 -16 52 -10 58 -8 62 -14 67 -8 69 -10
a given-name	1 -9 5 -11 11 -8 13 -14 19 -14 23 -8 26 -12 27 -8 28 325 33 -8 35 -7 46 -43 48 -7 50 -16 52 -10 58 -8 62 -14 67 -8 69 -10
a honorific-prefix	1 -9 5 -11 11 -8 13 -14 19 -14 23 -8 26 -11 27 -8 28 -8 33 -8 35 -7 46 -43 48 -7 50 -16 52 -10 58 -8 62 -14 67 321 69 -10
a language	1 -9 5 -11 11 -8 13 -14 19 -15 23 -8 26 -11 27 -8 28 -8 33 -8 35 325 46 -44 48 -7 50 -16 52 -10 58 -8 62 -14 67 -8 69 -10
a name	1 -9 5 -10 11 -8 13 -14 19 -14 23 -8 26 302 27 -7 28 -7 33 -8 35 -7 46 -41 48 -7 50 -15 52 -9 58 -8 62 -14 67 -8 69 -9
a organization	1 -9 5 -11 11 -8 13 -14 19 -15 23 -8 26 -11 27 -8 28 -8 33 -8 35 -8 46 -43 48 326 50 -16 52 -10 58 -8 62 -14 67 -8 69 -10
a organization-title	1 -9 5 -11 11 -8 13 -14 19 -14 23 -8 26 -11 27 -8 28 -8 33 320 35 -7 46 -43 48 -7 50 -16 52 -10 58 -8 62 -14 67 -8 69 -10
a postal-code	1 -9 5 -10 11 -8 13 -14 19 -14 23 -8 26 -10 27 -7 28 -7 33 -8 35 -7 46 -42 48 -7 50 -15 52 308 58 -8 62 -14 67 -8 69 -9
a sex	1 -9 5 -11 11 -8 13 -14 19 -15 23 -8 26 -11 27 323 28 -8 33 -8 35 -7 46 -44 48 -7 50 -16 52 -10 58 -8 62 -14 67 -8 69 -10
a street-address	1 -8 5 -10 11 -7 13 -13 19 -13 23 -7 26 -10 27 -7 28 -7 33 -7 35 -7 46 -40 48 -7 50 -14 52 -9 58 -7 62 284 67 -7 69 -9
a tel	1 -8 5 -10 11 -7 13 -12 19 -13 23 -7 26 -9 27 -7 28 -7 33 -7 35 -6 46 -39 48 -6 50 277 52 -9 58 -7 62 -13 67 -7 69 -9
a tel-national	1 -8 5 -10 11 -7 13 -12 19 -13 23 -7 26 -9 27 -7 28 -7 33 -7 35 -6 46 -39 48 -6 50 277 52 -9 58 -7 62 -13 67 -7 69 -9
a url	1 -9 5 -10 11 -8 13 -14 19 -14 23 -8 26 -10 27 -7 28 -7 33 -8 35 -7 46 -42 48 -7 50 -15 52 -9 58 -8 62 -14 67 -8 69 308
after address	0 -15 1 52 11 10 19 -6 26 38 34 -7 46 -7 62 -32
after age	46 31
after amount	14 31 46 6
after birth date	5 -60 6 10 7 37 10 51 19 -7 23 -10 27 50 46 15
after city	11 -25 13 11 19 38 23 -8 28 18 46 43 48 -23 52 -14 58 54 62 -8
after consent	44 7
after country	19 6 23 -7 33 118 39 -6 46 -32 50 28 62 -9 64 -6 67 -9
after currency	26 9 46 17 50 -9
after date	2 -10 7 14 19 -6 22 50 26 -52 36 -13 40 -26 46 127 60 -7
after day	7 36 40 -12 46 -14 62 37
after dialling code	50 49 57 -34
after email	0 -15 1 -15 2 -12 3 -10 5 14 11 -13 13 -6 19 -18 20 27 23 -18 26 -23 28 -21 35 20 36 25 39 30 44 13 46 74 47 15 48 9 50 44 52 -13 54 15 55 -12 57 -6 58 -7 60 -11 62 16 63 29 65 30 67 -7 69 16
after end	36 -29 46 29
after family name	0 37 1 -26 2 -7 5 28 11 -8 19 88 23 -11 28 -15 33 29 42 -8 46 38 50 -6 52 -20 55 -7 58 -10 62 24 64 -12 67 28
after full name	1 -19 19 49 23 14 26 -19 45 7 46 9 50 -9 62 48
after gender	19 32
after given name	19 -6 23 151 26 -36 28 -40 33 -8 37 45 41 -14 45 -23 46 20 62 -6
after house number	0 21 46 -7
after interests	46 14
after job	17 -6 19 23 33 -15 46 26 48 9
after kind	10 21 19 -6 25 18 27 20 46 23 55 -7 69 -10
after language	46 22
after message	19 -6 25 13 26 -29 36 -36 44 30 46 62 54 34
after middle name	23 12
after mobile	0 -11 19 -14 21 16 22 -13 36 17 46 7 50 -7 60 75 62 8 65 6
after month	6 42 10 55 70 -16
after name	0 -15 1 -10 3 -6 13 -7 15 -11 19 53 23 17 26 13 28 -17 36 18 41 -11 45 35 46 79 48 -7 50 -11 52 8 62 16
after name suffix	26 46 28 -10 46 -6
after newsletter	46 -39 47 48 54 36
after nickname	46 19 50 31
after organisation	0 -8 1 -14 11 -8 17 64 23 -15 26 15 28 27 30 -13 46 11 48 -64 50 -6 52 -14 57 -8 64 110 67 -6
after phone	0 31 5 12 19 17 23 -9 24 21 28 -6 33 20 36 32 39 14 50 -20 52 -9 62 -9 69 13
after postcode	5 13 11 31 13 17 18 -12 46 34 52 -6
after product	26 22 46 15
after reference	3 97 19 -14 33 -26 36 -8 46 15 50 -15 62 22
after region	1 -6 4 -7 13 -21 19 -8 23 -7 33 -7 46 44 52 152 58 -36 62 -9
after search	5 12 11 -15 19 7 26 -10 34 -7 36 28 46 55 48 41 50 -12 58 -8
after source	19 -6 46 9
after start	19 37 22 12 46 22
after status	46 9
after street	1 88 19 -16 30 124 46 -42 52 7 55 -6 62 -56 64 -8
after subject	19 -16 36 96 46 -35 63 -7
after time	69 7
after title	26 -8 28 38
after username	19 -9 44 10 46 -7 65 66 68 -8
after website	19 40 36 48 44 8 46 -15 57 8 69 -11
after year	7 27 46 -9
before address	0 -19 1 -21 6 31 14 23 23 31 28 -7 30 10 46 -25 50 11 62 41
before age	46 13
before amount	46 32 57 6
before birth date	5 -45 6 50 7 57 10 -19 19 33 23 22 28 -6 46 -14 62 -6
before city	0 11 1 134 4 -7 11 -12 19 -27 22 -8 23 -6 30 -7 46 39 52 35 55 -6 58 -26 62 -12 67 -6
before consent	39 11 44 13 46 -16
before country	11 13 19 -7 33 -6 46 7 52 41 58 13
before currency	3 22
before date	19 -8 22 -13 26 -12 28 -6 39 21 41 -6 46 69 50 -6 60 54
before day	7 24 46 -8
before dialling code	46 -8 52 13
before email	1 -8 3 29 5 -11 13 -24 19 -24 23 70 26 90 27 37 28 -28 33 32 36 -21 39 -18 41 -8 44 -11 45 -12 46 -17 48 24 52 36 55 -11 57 -8 58 -8 60 -12 62 -18 63 -6 64 -12 67 32 68 46
before email again	19 7
before end	46 24
before family name	19 -13 23 -47 26 -45 28 119 37 47 41 -9 46 -20 48 -6 52 -10 55 -6 57 91 62 -8 67 -6
before follow-up	36 54 46 -24
before full name	3 17 15 -8 19 -16 26 -58 28 13 36 -15 46 31 52 -6 55 117 62 -8 63 11
before gender	5 23
before given name	19 -10 26 23 28 -7 33 -12 36 -7 44 -8 46 -67 55 94 57 6 67 57
before house number	62 11
before job	23 35 26 -14 27 11 28 -7 33 51 45 -6 46 -12 52 -6
before kind	19 16 26 -27 34 -6 44 -9 45 41 46 57 62 -6
before message	3 -10 5 19 15 -6 22 64 23 -11 25 16 26 -25 28 -9 36 16 39 6 44 -12 46 14 47 14 50 16 55 -8 60 -14 62 -7 63 33 69 19
before middle name	26 -8 28 33
before mobile	19 46 26 34 46 36 50 -29
before month	6 70 7 -6 10 27 16 -10 46 -19
before name	14 8 19 -9 23 17 26 24 28 28 33 -6 36 -27 41 -7 42 -7 46 47 62 -8 67 30
before name suffix	23 12
before newsletter	19 26 23 -7 28 -7 36 28 44 -6 46 -40 65 69 68 33
before nickname	26 72 28 -17 46 13
before organisation	17 -6 33 -33 46 39 48 53
before phone	13 23 19 89 23 -8 26 -29 28 -6 33 -8 45 9 46 -13 48 32 50 25 52 -6 57 -20 62 -8
before postcode	0 -21 1 -10 5 -8 11 -8 13 -11 19 22 23 -8 26 18 28 -8 30 64 46 -60 52 -12 55 -6 58 61 62 95 64 -11 67 -8
before privacy	44 51 46 -31
before product	3 78 19 -9 28 -8 36 -7 55 -8
before reference	18 -12 23 16 26 -11 40 -16 46 55
before region	0 24 11 21 26 -6 46 64 58 -19 62 -8
before remember	46 12
before search	0 18 5 -6 19 27 26 26 33 -28 46 45 48 7 69 -6
before source	36 6 46 10
before start	19 31 46 18 69 -6
before status	46 7
before street	1 -22 6 13 19 -10 23 16 26 32 28 -12 30 -13 34 -11 46 16 52 -14 64 100 67 -6
before subject	19 25 36 37 46 -15
before tax number	48 7
before terms	19 16
before username	5 13 19 29 68 -9
before website	21 16 26 -22 48 32 50 9 69 -6
before year	7 66 40 -21 46 11
both address	0 -31 26 -6 46 12 62 33
both age	2 -14 46 22
both amount	3 8 46 17
both birth date	5 -30 6 21 7 30 10 27 46 -6
both city	46 14
both date	15 -11 46 34
both day	6 11
both dialling code	18 -10 46 13
both email	19 25
both employees	21 6
both family name	23 8
both full name	26 -35 46 37
both gender	27 7
both given name	28 7
both job	46 6
both kind	34 -18 36 11 46 27
both message	36 -17 46 27
both month	7 11 40 -30 46 32
both name	26 -30 28 6 41 -40 46 61 48 51
both name suffix	42 -6 46 13
both organisation	46 9
both reference	46 14 50 23 57 -25
both region	11 -12 46 50 58 -21
both search	46 10
both start	19 8 46 19 60 -17
both status	46 7
both street	1 9
both subject	46 15 63 -7
both time	46 9
both website	46 -6 69 14
both year	10 15 70 -6
c ab	46 6
c bar	19 49 46 -12 62 -8
c billing	0 -6 62 8
c birth	5 -6 6 17 7 15 10 14 40 -6 46 -8 70 -6
c content	46 25
c cp	46 6
c ctl	36 -6 46 31
c date	5 -6 6 17 7 15 10 14 40 -6 46 -8 70 -6
c email	19 48 46 -19 63 -7
c foo	46 28
c forum	46 6
c main	46 25
c person	5 -6 6 17 7 15 10 14 40 -6 46 -8 70 -6
c presenter	46 6
c rep	46 6
c shipping	62 9
c threads	46 6
c vars	46 6
c< billi	0 -6 62 8
c< conte	46 25
c< prese	46 6
c< shipp	62 9
c< threa	46 6
ce postcode	46 6
cm birth date	5 -6 6 20 7 19 10 17 16 -6 40 -7 46 -9 70 -7
cm email	19 48 46 -19 63 -7
cm postcode	46 6
cm start	46 6
cw email	19 48 46 -19 63 -7
first	0 -13 1 -19 5 -35 6 88 10 -14 11 -18 13 -18 16 -14 17 -7 19 9 22 -8 23 -51 26 67 27 -15 28 82 30 -10 31 -6 32 -6 33 -15 34 -11 35 -12 36 52 41 -32 44 32 45 -7 46 64 47 -11 48 102 50 -26 52 -26 54 -8 55 59 57 116 60 -24 62 -34 64 -18 65 -9 67 61 68 -14 69 -20
hidden	1 -6 12 -9 19 -51 36 -30 44 -16 46 285 52 -6 55 -10 59 -8 62 -6 63 -13 69 -14
l 400px	46 9
l aanhef	67 10
l aantal	21 7 56 11
l about	46 9 59 9
l accept	65 6
l accepte	12 9
l accepterer	46 -7 65 16
l accetto	12 6
l account	57 6
l acepto	12 6
l achtervoegsel	42 13
l ad	26 7 37 8 45 7
l add	36 -8 46 30 63 7
l additional	36 -16 46 20
l address	1 74 11 20 13 16 26 -11 30 23 46 24 52 7 62 21
l addresses	1 -7 19 7 46 -11 52 29
l adoszam	46 -6 64 17
l adr	1 22 46 -7
l adres	0 13 11 8 13 6 30 9 52 7 62 17
l adresa	19 36 62 -8
l adresse	0 -31 1 42 11 30 13 25 23 7 26 10 28 7 30 31 46 -7 52 27 62 21
l adı	46 -6 68 38
l afdeling	17 9
l again	20 7
l agb	65 6
l age	2 13 28 -6 46 38
l agree	12 11 46 -17 54 11 65 21
l akkoord	12 6
l alerts	19 27 46 -6 48 -12
l alias	45 7
l all	46 7
l allam	58 17
l also	25 7
l am	47 10
l amount	3 26 46 -6
l annee	10 20 70 8
l anno	70 7
l ano	10 25 70 7
l anrede	67 18
l anzahl	21 9 56 11
l apartment	1 14
l apelido	23 49 45 -13
l apellido	8 8
l apellidos	23 8
l api	46 48
l apodo	45 7
l ar	70 9
l area	4 10 46 22
l array	46 9
l artist	26 -6 46 11
l asunto	63 6
l at	8 8 46 -10 47 26
l author	26 -41 46 53
l azonosito	68 20
l bar	1 -7 19 12 46 -13 52 28
l base	46 11
l be	46 14
l becenev	45 7
l bedrag	3 13
l begindatum	60 14
l beginn	46 9 60 16
l belob	3 19 46 -8
l belopp	3 29 46 -14
l below	46 8
l beosztas	19 -8 33 48 46 -11
l bestellnummer	57 7
l bestellt	47 10
l bestelnummer	57 7
l betingelserne	46 -7 65 16
l betrag	3 29 46 -8
l bill	46 -6 52 7
l billing	0 -7 11 10 13 7 30 9 52 6
l bio	46 15
l birth	5 -13 6 62 7 60 8 15 9 22 10 51 26 -6 46 -21 52 -6
l birthdate	5 9
l birthday	5 7
l blank	46 10
l bleiben	46 13
l blog	46 8
l blossom	46 21
l body	36 18
l boletin	44 11
l bonus	46 9
l born	5 6
l bounds	11 -13 46 23
l btn	46 17
l btw	64 6
l budget	46 6
l building	1 8
l bulten	44 14
l bundesland	58 11
l business	19 25 46 22 48 -45 64 37
l button	46 6
l by	25 18
l calle	62 9
l called	11 -7 46 8
l calling	18 12
l campaign	59 12
l can	25 7 46 8
l cap	52 11
l caregiver	46 7
l cargo	33 6
l casa	30 8
l castka	3 27 46 -10
l cc	46 15
l cell	39 23 46 -7
l cellulare	39 7
l cep	39 6
l change	46 13
l check	46 19
l checked	46 7
l chip	46 7
l cidade	11 9
l cim	0 12
l cinsiyet	27 7
l cislo	30 21 31 11 46 -14 57 34
l citta	11 9
l city	11 46 46 17 48 -12
l ciudad	11 10
l civico	30 11
l civilite	67 10
l client	26 -12 46 15 57 10
l cod	52 6
l code	18 37 19 -6 46 71 52 20
l codigo	52 11
l cognome	8 10 23 6
l colon	19 9
l color	46 10
l commande	46 -8 47 52
l commen	25 7
l comment	25 20 36 9 59 6 63 6
l comments	25 28
l complement	1 8
l complet	26 13
l completo	26 9
l condiciones	65 8
l conditions	46 -6 65 17
l condizioni	65 8
l confidentialite	54 13
l confirm	20 10
l confirmation	19 -10 20 30 46 -6
l contact	23 16 26 -11 28 17 46 -7
l content	19 -6 36 36 46 -8
l contribution	36 -9 46 16
l copy	46 17
l correo	19 8
l cortesia	46 -17 67 33
l count	21 8 56 11
l country	13 14 18 18 46 -11 52 21
l county	46 42 58 -29
l created	46 10
l csaladnev	23 11
l ctl	46 19
l cui	46 -6 64 18
l currency	14 22 46 7
l custom	11 -7 46 11
l customer	57 11
l cvr	57 -6 64 22
l d	32 6 67 9
l dag	6 11 16 8
l danych	54 17
l dark	46 11
l data	5 13 7 8 15 31 19 -7 22 26 46 -23 47 17 60 24
l date	5 -7 6 16 7 17 10 19 15 16 19 -9 22 6 46 76 47 18 60 11
l datenschutzerklarung	54 12
l datetime	46 8
l datum	5 13 15 17 22 17 46 -11 60 40
l day	6 48 16 8 66 22
l dd	16 8
l debut	60 17
l default	46 7
l delivery	0 -6 11 8 13 7 30 9 52 6
l departamento	17 8
l departement	17 8 58 8
l department	17 14
l description	36 -43 46 53
l desktop	46 12
l dia	6 12 16 8
l diabetes	46 9
l dial	18 8
l dic	64 6
l did	59 18
l dipendenti	21 15
l direccion	62 16
l dogum	5 6
l domu	30 32
l dostawy	0 -9 11 9 13 7 30 10 52 9
l drugie	37 8
l dzial	17 9
l dzien	6 45 16 12 46 -25
l edge的版本	46 9
l egyeb	26 -6 28 -6 37 22
l eind	22 19
l electronico	19 7
l elotag	67 18
l email	19 84 20 85 25 22 46 -16
l emails	19 33 46 -16
l embed	46 8
l empleados	21 15
l employees	21 18
l empty	46 10
l enabled	46 6
l end	22 17 46 14
l ende	22 18
l endereco	0 10
l enquiry	34 21
l error	19 -11 46 36
l estado	58 -28 61 48
l estate	46 15
l euro	46 14
l ev	70 9
l exibicao	26 9
l expression	46 11 50 -8
l extension	46 34 50 -23
l facturation	11 7 13 6
l false	46 9
l favorite	46 11
l fax	24 47
l fecha	15 31 46 -11 47 8
l file	46 22
l fill	46 10
l filter	46 10
l fim	22 17 46 -7
l fin	22 24 46 -8
l fine	22 18
l firma	48 8
l first	26 -19 28 90 46 -8
l fixed	46 10
l fodelsedatum	5 6
l follow	25 23
l followup	25 24
l fonction	33 6
l foo	46 10
l fractional	46 14
l from	19 24
l fruit	32 7
l full	0 16
l funcao	46 8
l function	11 -7 26 -6 36 -6 46 33
l gade	19 -17 46 -24 62 110
l gatuadress	62 8
l geboren	5 8
l geburtstag	5 6 6 25
l gelesen	54 7
l gen	27 7
l gender	27 22 46 -8
l genero	27 7
l gesamt	3 19 46 -7
l geschlecht	27 7
l geslacht	27 7
l get	19 27 46 -6 48 -12
l giorno	16 8
l given	37 6
l godkanner	46 -6 65 16
l group	2 13 26 -38 46 42
l grzecznosciowy	67 7
l habe	54 7
l has	46 9
l hausnummer	30 15
l have	54 11
l hazszam	30 14
l headline	63 11
l hear	59 13
l heard	59 12
l here	34 -6 36 29
l hi	36 25 46 -22
l hier	1 13 5 8 6 -6 11 18 13 24 19 11 23 19 26 6 27 19 28 19 30 -7 31 -6 33 14 35 18 36 -10 44 -7 46 -96 47 -15 48 21 50 30 52 8 57 -11 58 19 62 26 64 -11 65 -6 67 13 68 -7 69 24
l hirlevel	44 9
l hives	46 17
l home	0 14
l honap	40 9
l honorific	67 14
l house	30 20
l housing	46 25
l how	21 16 46 -10 56 14 59 13
l https	46 24 69 -9
l huisnummer	30 15
l human	46 46
l ich	54 7
l identity	31 16
l idioma	35 14
l imie	26 26 37 8
l importe	3 11
l importo	3 11
l income	3 -13 46 46
l indicatif	18 16
l info	54 6
l information	36 -12 46 18
l informativa	54 6
l inicio	60 22
l inizio	60 16
l into	46 8
l invalid	46 10
l invoice	57 6
l io	46 24 69 -9
l iranyitoszam	52 10
l it	28 -6 46 24
l item	46 23 55 6
l iva	64 7
l j	12 9
l jaar	10 8 70 7
l jag	46 -6 65 16
l jahr	10 14
l jeg	46 -7 65 16
l jezyk	35 9
l jmeno	28 6 37 8
l job	33 15 46 -6
l jour	6 28 16 8
l just	46 12
l keep	46 15
l kierunkowy	18 16
l kind	23 6 28 6 34 18
l kod	46 19 52 7
l kodu	52 8
l kon	27 8
l kraj	13 12 58 6
l krajina	13 9
l kullanıcı	46 -6 68 38
l kundennummer	57 13
l kwota	3 13
l l	20 6
l label	46 12
l land	13 29
l landline	50 29 57 -21
l lang	35 7 46 9
l language	35 15 46 9
l last	23 91 26 -15 46 -16
l leave	46 16
l letters	44 8
l li	54 6
l liczba	21 8 56 11
l liefer	23 8 26 15 28 9
l light	46 11
l limba	35 10
l line	1 104 46 -10 62 -40
l livraison	11 6 52 6 62 6
l local	46 9
l locally	46 6
l location	19 -10 46 42
l log	46 17
l login	68 7
l looking	36 33 46 -17
l m	36 33 46 -17
l maand	7 8 40 7
l mail	0 -7 19 91 20 48 25 6 62 -8
l mailadres	19 7
l main	46 19
l maned	40 9
l many	21 16 46 -8 56 14
l md	54 7
l me	19 -6 25 36 46 36
l meddelande	36 7
l medewerkers	21 16
l megjeleno	26 8
l meio	37 7
l mellemnavn	37 13
l member	19 17 46 -48 47 48 57 12
l membership	57 13
l meno	28 6
l mes	7 11 40 7
l mesajınız	19 -9 36 102 46 -37
l mese	7 6 40 7
l message	36 43 46 -19
l messg	36 14 46 -9
l mesto	11 15
l middle	37 25
l miejscowosc	11 8
l miesiac	7 16
l mitarbeiter	21 17
l mm	40 6 46 21 50 -7
l mnie	25 12 46 6
l mobil	39 23
l mobile	19 -14 46 51
l model	19 -8 23 32 28 33 46 -15
l moi	25 12 46 10
l mois	7 26 40 7
l monat	7 20 46 -10
l montant	3 12
l month	7 40 40 -17 46 38
l mortgage	46 9
l mostrar	26 7
l movil	39 10
l multiple	19 9
l multitopic	46 8
l naam	23 -6 26 -8 28 -9 37 11 41 17 45 30 46 -10
l nachname	23 42
l nacimiento	5 7 9 11 10 15
l naissance	5 7 6 22 7 22 8 6 9 10 10 15
l name	0 -6 1 -8 5 -6 8 24 11 -11 13 -7 19 -12 23 31 26 142 28 32 30 -6 36 -8 37 7 41 -51 42 16 45 9 46 54 48 96 50 -7 52 -13 57 -6 60 -7 62 -13 64 -7 67 -6 68 8
l namn	23 -7 26 59 28 -9 41 11 46 -17
l nap	16 9
l nascita	9 14
l nasterii	5 8
l navn	41 18
l nazwa	41 17
l nazwisko	8 18 26 26
l ne	5 96 46 -14
l nem	27 7
l nev	23 -6 28 -8 37 20 41 17
l never	46 8
l new	25 8
l news	44 10
l newsletter	44 40 46 -11
l newslettera	44 9
l nick	45 12
l nieuwsbrief	44 13
l nif	64 6
l nimi	41 17
l nip	64 12
l nls	44 13 46 -9
l no	57 16
l nom	8 15 23 55 26 -25 28 -10 41 14
l nombre	23 -11 26 -9 28 65 41 13 46 -10
l nome	23 -10 28 54 37 9 41 14 46 -10
l not	46 10
l note	36 -13 46 18
l notify	25 32 46 -6
l novinky	44 23 46 -8
l nr	30 6 57 9 64 15
l num	23 -10 28 -8 46 35
l numar	19 -6 30 78 46 -7 62 -12
l numarası	64 18
l number	21 8 24 17 30 21 31 68 39 13 46 17 50 23 52 -8 57 -21 62 -6 64 24
l nume	23 58 26 -18 28 -8 41 11 46 -6
l numer	18 7 30 11 57 16
l numero	21 13 30 35 57 28 64 11
l nummer	57 7 64 28
l nyelvek	35 20 46 -17
l nyhedsbrev	44 9
l nyhetsbrev	44 13
l objednavky	46 -13 57 35
l objet	63 6
l occupation	33 -19 46 25
l odebirat	44 9
l odoberat	44 10
l office	23 -6 46 40
l one	46 6
l ontvangen	44 9
l op	47 8
l optional	36 6
l oras	11 9
l orchard	48 6
l order	23 -7 46 -64 47 16 57 140
l ordered	46 -7 47 53
l ordine	47 10
l organisationsnummer	64 6
l organization	48 6
l orszag	13 11
l ort	11 50 48 -12
l osloveni	67 10
l osobnich	46 -19 54 36
l other	46 7
l out	46 20
l paese	13 10
l pais	13 20
l panstwo	13 6
l para	26 7
l part	46 14
l partita	64 7
l password	46 12
l paste	46 8
l pay	46 9
l pays	13 12 18 7
l pedido	47 9
l persisted	46 16
l person	23 16 26 -17 28 17 46 -6
l pet	46 6
l phone	18 22 46 -6 50 43
l picker	46 6
l plaats	11 9
l place	9 25
l placed	46 -17 47 73
l plan	46 8
l plec	27 7
l plz	52 14
l pocztowy	52 8
l podcast	19 -13 46 22
l podmienkami	65 14
l podminkami	65 14
l podminky	65 7
l pohlavie	27 36 46 -9
l policy	46 -13 54 18 65 9
l politica	54 13
l politique	54 8
l poodle	46 10
l portable	39 10
l position	33 7
l post	19 152 23 -6 36 -12 46 -34
l posta	19 151 23 -6 46 -44 62 -7
l postal	0 14 46 -7 52 29
l postcode	48 -8 52 47
l postnummer	52 15
l praefiks	46 -6 67 17
l predmet	63 7
l prefijo	18 45 67 -19
l prefisso	18 45 67 -20
l prefix	18 6 67 15
l prefixo	67 12
l prenom	28 7
l prenume	28 8
l preview	46 14
l prijmeni	8 10
l privacidad	54 9
l privacidade	54 7
l privacy	46 -12 54 32
l privacyverklaring	54 8
l prodotto	55 11
l product	55 9
l producto	55 7
l produit	55 7
l produkt	55 12
l produs	46 -16 55 32
l produto	46 -11 55 28
l programmatically	46 10
l project	26 -9 46 11
l province	58 19
l provincia	58 6
l provincie	58 11
l provins	13 -9 58 12
l przedrostek	67 9
l przetwarzanie	54 12
l przyrostek	42 13
l psc	52 16
l pseudonim	45 6
l q	46 6
l qq	46 6
l quiero	44 7
l range	2 13 46 11
l rank	46 12
l read	54 11
l real	46 14
l reason	46 11
l rechnungs	11 7 30 8
l recibir	44 7
l recipient	19 8
l region	11 -13 46 21 58 8
l regulamin	65 8
l regular	46 25 50 -9
l remember	46 18
l required	26 7 46 -8
l reszleg	17 26 46 -12
l robots	46 9
l rodne	8 9 31 11
l rodzaj	34 10
l rok	10 32 70 6
l rol	33 -7 46 16
l rola	46 9
l role	33 27 46 -15
l rolle	46 9
l rozpoczecia	22 -6 60 19
l rss	19 -13 46 22
l rua	62 8
l rue	30 9 62 8
l rules	65 9
l s	23 13 26 -6 28 15 46 -23 65 26
l salutation	67 11
l say	36 25 46 -22
l scherm	26 -14 45 33 46 -6
l screen	45 7
l se	46 -8 54 32
l search	46 31
l security	31 6
l sehir	11 9
l select	46 23
l selected	46 21 62 -10
l semi	19 9
l send	44 8 46 6
l sender	26 17
l separate	19 9
l serial	46 26 57 -17
l service	17 15
l services	19 -13 46 22
l sesso	27 7
l set	46 12
l sexe	27 7
l sexo	27 7
l sidenav	46 12
l sign	46 17
l signed	46 17
l since	46 -28 47 49
l single	46 11
l siret	64 11
l site	46 8 69 14
l sito	69 6
l slider	46 6
l sokak	62 8
l someone	46 7
l song	26 -17 46 21
l sorting	46 6
l souhlasim	46 -23 54 32 65 13
l source	59 18
l soyad	26 7
l spam	46 22
l sprog	35 9
l st	30 -10 64 16
l start	46 12 60 19
l starts	46 16 60 7
l stat	58 12
l state	46 -16 52 12 58 8 61 45
l status	46 8 61 20
l storage	46 9
l straat	62 8
l strada	62 9
l strange	46 16
l strasse	48 -10 62 46
l street	48 -13 62 73
l string	11 -7 46 8
l subject	63 18
l submit	46 17
l submitted	26 -23 46 38
l subscribe	25 28
l subscription	19 -13 46 22
l success	46 21
l suffiks	46 10
l suffix	42 32
l sufijo	42 15
l sufixo	42 15
l suhlasim	65 14
l suite	1 15
l sulla	54 6
l supp	1 24 46 -11
l szerep	46 10
l taal	35 9
l tabler	46 24 69 -9
l tag	6 42 15 12 16 47
l tara	13 10
l tarihi	5 6
l tartomany	58 17
l tax	46 -8 64 55
l taxes	46 15
l team	19 19 46 -9
l telefon	39 14 46 -8 50 38
l telefono	50 10
l telefonu	39 6
l telemovel	39 7
l telephone	46 -6 50 15
l tell	1 12 5 10 6 -8 10 -6 11 14 13 21 15 -19 19 17 23 15 26 11 27 14 28 14 30 -6 33 13 35 13 44 -6 46 -53 47 -10 48 17 50 24 52 10 57 -8 58 16 60 -6 62 19 64 -8 65 -6 67 11 68 -6 69 21
l temat	63 6
l term	46 -16 55 22
l termek	46 -16 55 32
l termini	65 8
l terminos	65 8
l termos	65 10
l terms	54 -9 65 44
l text	46 20
l textarea	46 12
l thise	46 9
l thread	25 21 46 -7
l three	46 7
l time	46 18 66 41
l tip	36 31 46 -19
l tipo	34 10
l titel	33 42 46 -15
l title	33 11 36 -8 46 -12 63 26 67 16
l titolo	46 -17 67 33
l titulo	33 20 46 -8
l token	46 48
l topic	34 12 46 23 63 -14
l total	46 32
l town	11 10
l tratamiento	67 10
l tresc	36 9
l triggered	46 6
l try	52 15
l tutaj	1 12 5 7 6 -6 11 16 13 20 19 10 23 16 26 6 27 17 28 17 30 -6 31 -6 33 12 35 16 36 -9 44 -6 46 -75 47 -13 48 18 50 24 52 7 57 -9 58 16 62 22 64 -10 67 11 68 -6 69 20
l tva	64 6
l tweede	37 20
l twitter	19 16
l two	46 7
l type	36 29 46 42
l tytul	33 18 46 -7 67 6
l u	30 -10 64 16
l udaju	46 -19 54 36
l ulica	62 15
l ulice	62 8
l ulke	13 10
l unchecked	46 7
l unit	1 8 17 18
l up	25 23 46 18
l update	46 12
l url	69 14
l urodzenia	9 13 10 20
l urun	46 -15 55 33
l us	1 12 5 9 6 -8 7 -6 10 -6 11 14 13 21 15 -19 19 16 23 14 26 11 27 13 28 14 30 -6 33 13 35 13 44 -6 46 -54 47 -10 48 17 50 24 52 10 57 -8 58 16 59 10 60 -6 62 19 64 -8 65 -6 67 11 68 -6 69 21
l usd	46 6
l user	68 9
l username	68 12
l usuario	68 11
l utca	62 11
l utente	68 7
l utilizator	46 -6 68 24
l utm	59 20
l utotag	46 11
l valid	46 8
l validate	19 -13 46 20
l validation	11 -7 46 11
l valor	3 26 46 -11
l varos	11 9
l vat	64 16
l vergi	64 18
l verification	0 33 46 -8
l verify	20 7
l via	25 14 62 10
l view	46 13
l ville	11 10
l villkoren	46 -6 65 16
l visningsnavn	26 20 46 -9
l volker	46 7
l voorvoegsel	67 9
l voorwaarden	65 10
l vorname	28 43 37 7
l wahrung	14 36 46 -12
l wanted	46 9
l web	54 6 69 25
l website	69 19
l week	46 14
l weergave	26 11
l wert	1 13 5 8 6 -6 11 18 13 24 19 11 23 19 26 6 27 19 28 19 30 -7 31 -6 33 14 35 18 36 -10 44 -7 46 -96 47 -15 48 21 50 30 52 8 57 -11 58 19 62 26 64 -11 65 -6 67 13 68 -7 69 24
l what	46 12
l when	46 17
l where	46 6
l while	46 6
l whoops	46 10
l wiadomosci	36 7
l wide	46 14
l will	46 14
l without	25 7
l wojewodztwo	58 13
l work	21 16 46 -7
l workspace	26 -10 46 22
l wpisz	1 12 5 7 6 -6 11 15 13 19 19 9 23 16 26 6 27 17 28 16 30 -6 31 -6 33 12 35 16 36 -9 44 -6 46 -62 47 -13 48 18 50 24 52 7 57 -10 58 16 62 21 64 -10 67 11 68 -6 69 20
l www	69 7
l wyrazam	54 7
l wyswietlana	26 9
l x	46 8
l year	10 37 70 8
l yes	44 6
l yy	46 24 50 -6
l yyyy	70 7
l zakonczenia	22 13
l zamowienia	47 9
l zapisz	44 7
l zeme	13 10
l zgode	54 7
l zip	48 -11 52 60
l zipcode	46 -44 52 69
l zpracovanim	46 -19 54 33
l zzyzx	0 -8 1 11 2 -7 3 -16 4 -7 5 -6 11 28 12 -13 13 49 14 -6 16 -8 17 -8 18 -8 19 24 21 -6 22 -10 23 28 24 -6 26 22 27 19 28 27 29 -7 30 -9 31 -19 32 -7 33 18 34 -7 35 20 36 -17 38 -6 39 -6 40 -6 41 -8 42 -6 43 -7 44 -7 45 -7 46 -60 47 -22 48 30 49 -11 50 73 51 -6 52 23 53 -7 54 -7 55 -13 56 -7 57 -15 58 25 59 -6 60 -7 61 -9 62 41 63 -6 64 -28 65 -8 67 21 68 -8 69 43 70 -6
l αφμ	46 -7 64 19
l δελτιο	44 7
l ενημερωτικο	44 7
l κωδικας	52 7
l οδος	62 8
l ονοματεπωνυμο	26 7
l πολη	11 9
l ταχυδρομικος	52 7
l τηλεφωνο	50 8
l φυλο	27 7
l χωρα	13 10
l адрес	0 10
l банкам	46 10
l без	0 19 46 -6
l будинок	30 12
l в	46 15
l введите	0 21 46 -6
l внутригородскои	46 12 58 -8
l вулиця	62 12
l год	70 7
l город	11 17
l дата	5 8
l день	16 9
l департамент	17 23 46 -10
l должность	33 7
l дом	30 17
l електронна	19 7
l имя	26 23 28 -6
l индекс	52 15
l инн	64 18
l искать	46 10
l квартира	1 10
l краіна	13 9
l месяц	40 6
l місто	11 10
l на	44 44 46 -22 65 -6
l населенныи	46 14
l область	58 6
l ограничении	0 19 46 -6
l однои	0 21 46 -6
l организациям	26 -6 46 -29 48 47
l отображаемое	26 22 28 -14
l отчество	37 10
l планировочная	46 9
l по	0 20 19 10 26 23 37 6 46 -54 48 39
l подключаемыи	46 21
l подписаться	44 44 46 -22 65 -6
l подсказки	0 20 46 21
l поиск	19 11 26 23 46 -35 48 39
l пол	27 6
l почта	19 10
l пошта	19 9
l поштовии	52 9
l префикс	67 18
l просто	46 27
l псевдоним	45 7
l пункт	46 14
l раион	46 57 58 -33
l рассылку	44 44 46 -22 65 -6
l регион	46 -32 58 43
l роль	46 11
l саит	69 9
l справочник	46 21
l стать	27 6
l страна	13 11
l строкои	0 21 46 -6
l структура	46 9
l сумма	3 31 46 -13
l суффикс	46 18
l телефон	39 6 50 14
l тема	63 6
l тип	46 6
l улица	62 17
l фиас	0 21 46 -6
l фио	26 37 46 -22
l электронная	19 7
l язык	35 8
l індекс	52 9
l גיל	46 25
l שם	26 68 46 -44
l תאריך	46 31
l اكتب	46 14
l هنا	46 14
l 中文	46 10
l 兼容ie	46 9
l 内联显示	46 11
l 副标题	46 -17 50 33
l 卡号	46 16
l 发出地	46 10
l 国家	13 39 46 -29
l 地区	13 27 46 -22
l 多选	46 9
l 学校	46 21 48 -14
l 微信号	46 34
l 手机	39 7
l 手机号	39 35 46 -21
l 持卡人	46 18
l 日期	46 22
l 时间	46 6
l 昵称	45 19
l 标题文字	46 9
l 爱好	46 8
l 目的地	46 11
l 相关条款	46 -12 65 25
l 省份	46 -6 58 13
l 称呼	26 34 46 -24
l 职业	33 6
l 联系电话	46 -17 50 34
l 请输入号码	46 17
l 请输入文本	46 14
l 金额	3 47 46 -23
l 阅读并同意	46 -12 65 22
l 验证码	46 7
l< accep	12 9 46 -7 65 18
l< accet	12 6
l< accou	57 6
l< achte	42 13
l< addit	36 -16 46 20
l< addre	1 67 11 20 13 16 19 10 26 -11 30 22 36 -6 46 13 52 37 62 20
l< adosz	46 -6 64 17
l< adres	0 -31 1 49 11 30 13 25 23 6 26 10 28 7 30 31 46 -7 52 27 62 21
l< afdel	17 9
l< akkoo	12 6
l< anspr	26 7
l< apart	1 14
l< apeli	23 49 45 -13
l< apell	8 8 23 11
l< auftr	47 14 57 7
l< azono	68 20
l< becen	45 7
l< begin	60 14
l< beosz	19 -8 33 48 46 -11
l< besch	21 10
l< beste	47 41 57 14
l< betin	46 -7 65 21
l< betre	49 19
l< betri	48 7
l< billi	0 -7 11 10 13 7 30 9 52 6
l< birth	5 16 9 20 46 -6
l< bleib	46 13
l< bloss	46 21
l< bolet	44 11
l< build	1 8
l< bunde	58 11
l< busin	19 25 46 22 48 -45 64 37
l< calli	18 12
l< campa	59 12
l< careg	46 7
l< categ	34 20
l< cellu	39 7
l< check	46 12
l< cinsi	27 7
l< civil	67 10
l< cogno	8 10 23 6
l< comma	46 -8 47 52
l< comme	19 -7 25 48 36 15 46 -11 59 6 63 6
l< compa	48 10
l< compl	1 16 26 21
l< condi	46 -7 65 32
l< confi	19 -11 20 51 46 -9 54 13
l< conse	12 25
l< conta	23 16 26 -6 28 16 46 -7
l< conte	19 -6 36 36 46 -8
l< contr	36 -9 46 16
l< corte	46 -17 67 33
l< count	13 14 18 18 46 -11 52 21
l< creat	46 10
l< csala	23 11
l< curre	14 22 46 12
l< custo	57 11
l< daten	54 24
l< datet	46 8
l< defau	46 7
l< deliv	0 -6 11 8 13 7 30 9 52 6
l< depar	17 30 58 8
l< descr	36 -43 46 53
l< deskt	46 12
l< diabe	46 9
l< dipen	21 15
l< direc	62 16
l< dosta	0 -9 11 9 13 7 30 10 52 9 62 6
l< edge的	46 9
l< efter	23 7
l< einge	46 6
l< elect	19 7
l< emple	21 15
l< emplo	21 26
l< enabl	46 6
l< ender	0 10
l< enqui	34 21
l< exibi	26 9
l< expre	46 11 50 -8
l< exten	46 34 50 -23
l< factu	11 8 52 6
l< famil	23 10
l< favor	46 11
l< fodel	5 6
l< fodse	5 8
l< follo	25 24
l< fonct	33 6
l< forna	28 8
l< fract	46 14
l< funct	11 -7 26 -6 33 7 36 -6 46 32
l< gatua	62 8
l< geboo	8 14 9 19
l< gebor	5 8
l< gebur	6 28 7 36 8 13 9 19 10 32 46 -8
l< geles	54 7
l< gesch	27 7
l< gesla	27 7
l< godka	46 -6 65 16
l< grzec	67 7
l< handy	39 6
l< hausn	30 15
l< hazsz	30 14
l< headl	63 11
l< hecta	4 19
l< hirle	44 9
l< honor	67 14
l< housi	46 25
l< huisn	30 15
l< ident	31 15
l< impor	3 21
l< indic	18 16
l< infor	36 -13 46 16 54 6
l< initi	37 6
l< inter	32 44 69 12
l< inval	46 10
l< invoi	57 6
l< irany	52 10
l< kateg	34 20
l< keywo	46 10
l< kieru	18 16
l< komor	39 11
l< konta	26 6
l< kraji	13 9
l< kulla	46 -6 68 40
l< kunde	57 19
l< lande	18 19
l< landl	50 29 57 -21
l< langu	35 15 46 9
l< lette	44 8
l< livra	11 6 52 6 62 6
l< local	46 6
l< locat	19 -10 46 42
l< looki	36 33 46 -17
l< maila	19 8
l< medde	36 7
l< medew	21 16
l< megje	26 8
l< melle	37 13
l< membe	57 13
l< mensa	36 9
l< mesaj	19 -9 36 102 46 -37
l< messa	36 46 46 -20
l< miejs	9 13 11 8
l< miesi	7 16 16 12
l< minut	38 32
l< mitar	21 25
l< mitgl	57 17
l< mobil	39 12
l< monta	3 12
l< mortg	46 9
l< mostr	26 7
l< multi	19 7
l< nachn	23 42
l< nacim	5 7 9 11 10 15
l< nacio	43 20
l< naiss	5 7 6 22 7 22 8 6 9 10 10 15
l< narod	43 11
l< nasci	5 6 9 14
l< naste	5 8
l< natio	31 50 43 34 46 -9
l< nazio	43 11
l< nazwi	8 18 26 26
l< netts	69 7
l< newsl	44 57 46 -14
l< nieuw	44 13
l< novin	44 23 46 -8
l< numar	64 18
l< nyelv	35 20 46 -17
l< nyhed	44 9
l< nyhet	44 13
l< objed	46 -13 57 35
l< occup	33 -19 46 25
l< odebi	44 9
l< odobe	44 10
l< ontva	44 9
l< optio	36 6
l< orcha	48 6
l< order	46 -7 47 53
l< organ	17 9 48 33
l< oslov	67 10
l< osobn	46 -19 54 36
l< panst	13 6
l< parti	64 7
l< passw	46 12
l< persi	46 16
l< perso	31 17 54 6
l< poczt	52 8
l< podca	19 -13 46 22
l< podmi	46 -10 65 35
l< pohla	27 41 46 -9
l< polit	54 25
l< porta	39 10
l< posit	33 7
l< postc	48 -8 52 47
l< postn	52 15
l< praco	21 18
l< praef	46 -7 67 26
l< predm	63 7
l< prefe	35 10
l< prefi	18 88 67 -13
l< prenu	28 8
l< previ	46 14
l< prijm	8 10
l< priva	46 -17 54 61
l< prodo	55 11
l< produ	3 -6 46 -16 55 64
l< progr	46 10
l< proje	26 -9 46 11
l< provi	13 -13 58 52
l< przed	67 9
l< przet	54 12
l< przyr	42 13
l< pseud	45 17
l< quant	56 29
l< recap	0 12 46 7
l< recei	44 14
l< reche	46 10
l< rechn	11 7 30 8 52 6
l< recib	44 7
l< recip	19 8
l< refer	57 13 59 8
l< regul	46 24 50 -9 65 8
l< remar	36 6
l< remem	46 18
l< repor	46 7
l< requi	26 7 46 -8
l< respo	49 35
l< reszl	17 26 46 -12
l< rozpo	22 -6 60 19
l< salut	67 11
l< samty	12 11
l< secur	31 6 46 9
l< selec	46 21 62 -10
l< separ	19 9
l< servi	17 15 19 -13 46 21
l< siden	46 12
l< someo	46 7
l< sorti	46 6
l< souhl	12 6 46 -23 54 32 65 12
l< start	60 9
l< stora	46 9
l< stran	46 16
l< stras	48 -10 62 48
l< subje	63 18
l< submi	26 -23 46 38
l< subsc	19 -18 25 28 46 20
l< succe	46 21
l< suffi	42 29 46 8
l< suhla	65 14
l< tarto	58 17
l< telef	24 19 39 21 46 -18 50 74
l< telem	39 7
l< telep	46 -6 50 15
l< termi	65 16
l< texta	46 12
l< trata	67 10
l< trigg	46 6
l< twitt	19 16
l< unche	46 7
l< urodz	9 13 10 20
l< usern	68 12
l< usuar	68 11
l< utili	46 -6 68 27
l< uziva	68 6
l< uzytk	68 7
l< valid	11 -7 19 -14 46 31
l< verif	0 33 46 -8
l< villk	46 -6 65 21
l< visib	46 6
l< visni	26 20 46 -9
l< voorv	67 9
l< voorw	65 10
l< vorna	28 43 37 11
l< wahru	14 36 46 -12
l< websi	69 19
l< weerg	26 11
l< wiado	36 9
l< witho	25 7
l< wojew	58 13
l< works	26 -10 46 22
l< wyraz	54 7
l< wyswi	26 9
l< zakon	22 13
l< zamow	47 9
l< zipco	46 -44 52 69
l< zprac	46 -19 54 34
l< ενημε	44 7
l< κωδικ	52 7
l< ονομα	26 7
l< ταχυδ	52 7
l< τηλεφ	50 8
l< будин	30 12
l< введи	0 21 46 -6
l< внутр	46 12 58 -8
l< депар	17 23 46 -10
l< должн	33 7
l< елект	19 7
l< кварт	1 10
l< насел	46 14
l< облас	58 6
l< огран	0 19 46 -6
l< орган	26 -6 46 -29 48 52
l< отобр	26 22 28 -14
l< отчес	37 10
l< плани	46 9
l< подкл	46 21
l< подпи	44 44 46 -22 65 -6
l< подск	0 20 46 21
l< пошто	52 9
l< префи	67 18
l< псевд	45 11
l< рассы	44 46 46 -22 65 -6
l< справ	46 21
l< строк	0 21 46 -6
l< струк	46 9
l< суффи	46 18
l< телеф	39 6 50 15
l< элект	19 7
last	0 64 1 -33 2 -19 3 -14 5 -19 6 -19 7 -18 10 106 11 -29 13 -18 17 57 19 9 22 -8 23 -31 24 18 25 7 26 -25 27 -14 28 -22 30 34 33 -24 35 43 36 80 39 9 41 -7 44 51 46 98 47 35 48 -38 50 18 52 40 54 65 55 -20 57 -10 58 -35 60 -10 62 -35 63 -9 64 -18 65 42 67 -18 69 -23 70 -19
le city	0 -12 11 135 30 -7 46 21 48 -23 52 -9 62 -15
le country	0 -10 11 -7 13 76 30 -6 52 -7 62 -10
le email	0 -7 19 57 25 24 46 -20 62 -7
le end	22 21 46 -12
le family name	23 34 26 -12
le full name	26 40 46 -22
le given name	26 -12 28 30 46 8
le house number	0 -12 11 -6 30 80 52 -7 62 -7
le message	36 31 46 -14
le mobile	19 -13 46 22
le name	26 8 46 17
le newsletter	25 7
le phone	50 14
le postcode	0 -12 11 -7 30 -6 48 -20 52 129 62 -13
le privacy	46 -9 54 12
le reference	39 13 46 -10 50 28 57 -23
le start	22 -6 46 -12 60 30
le street	0 -10 11 -8 48 -23 52 -6 62 123
le terms	65 7
le time	46 8
length 0	0 10 1 20 2 15 4 9 5 38 6 -32 7 -28 10 -26 11 24 12 13 13 17 15 19 16 34 18 8 19 45 20 8 26 21 27 10 28 8 29 8 31 12 32 9 33 14 34 14 35 12 36 27 38 8 39 17 40 23 41 33 42 9 43 9 44 -12 45 8 46 42 47 10 48 11 49 10 50 46 51 8 52 16 53 9 54 -10 55 15 56 8 57 8 58 26 60 9 61 8 62 20 63 13 64 6 65 -11 67 14 68 -12 69 23 70 37
length 1	0 15 2 16 3 72 4 36 5 -16 7 8 8 -21 9 -13 11 -33 12 36 13 -24 14 45 15 32 16 8 17 31 19 28 20 -52 22 16 24 24 25 -32 26 -17 27 17 28 -12 29 36 30 -29 31 18 32 32 34 23 36 26 37 -26 38 35 40 17 41 25 42 21 43 27 44 -23 45 10 46 81 47 -9 48 -6 49 38 50 -10 51 35 52 -51 53 36 54 -33 55 58 56 28 57 -9 58 -18 59 -8 60 23 61 44 62 -8 63 10 64 16 65 -32 66 18 67 -18 69 -13 70 7
length 2	0 24 1 19 3 -32 4 -20 5 7 6 55 7 44 8 20 9 35 10 48 11 39 12 -22 13 18 14 -17 15 -32 16 -19 17 -6 18 17 19 40 20 63 21 17 22 12 23 16 25 14 26 37 28 18 29 -19 30 6 31 -6 32 -22 33 8 34 -9 35 17 36 26 37 49 38 -18 39 7 40 -19 41 -33 42 -6 43 -8 44 13 45 7 46 86 47 36 48 11 49 -24 50 63 51 -19 52 33 53 -20 54 -10 55 -39 56 -10 57 26 58 25 59 -6 61 -25 62 23 63 -6 67 26 68 29 69 36 70 -22
length 3	0 -31 1 -16 3 -6 5 -10 8 22 11 26 13 27 19 17 20 9 23 17 25 8 26 47 27 -7 28 19 30 16 34 -6 35 -7 36 -18 39 -6 44 39 46 74 47 -7 48 19 50 -7 52 19 54 18 55 -6 57 -7 58 -9 59 22 60 -8 62 21 65 54 69 -10
length phrase	0 9 1 -6 11 -15 13 -7 19 -12 21 15 23 13 25 31 26 -21 28 10 30 23 33 -7 36 -7 46 64 50 -6 52 16 54 58 59 14 62 -15 69 -7
length sentence	25 7 46 26
lm address	0 139 1 30 5 -6 11 53 13 42 19 23 30 58 33 -6 36 -9 46 -8 48 -6 52 39 62 92 64 -7 67 -6
lm address more	1 137 46 -7
lm age	2 144 28 -8 46 25
lm amount	3 144 46 12
lm area	4 148
lm birth date	5 136 6 36 7 42 10 40 19 -9 23 -6 46 -37 62 -6 67 -6
lm birth day	6 95
lm birth month	7 101
lm birth name	8 145 46 -6
lm birth place	9 134
lm birth year	10 111
lm captcha	46 128
lm city	0 -13 1 -6 11 238 13 -7 19 -9 25 17 30 -9 46 6 48 -24 52 -13 58 -7 62 -18
lm consent	12 155 46 -13 54 17
lm country	0 -12 1 -7 11 -9 13 237 19 -7 30 -7 46 -45 52 8 58 12 62 -15
lm currency	14 142 46 -8
lm date	1 -7 3 -6 5 -9 6 13 13 -7 15 109 16 38 19 -13 22 48 23 -10 26 -7 27 -6 28 -9 33 -6 35 -6 36 -10 46 31 50 -7 52 -7 55 -6 58 -6 60 66 62 -9 64 -6 67 -6 69 -6
lm day	6 45 16 99 46 -11
lm department	17 154 46 -8
lm dialling code	18 139 46 8 52 -7
lm email	0 -8 19 159 25 30 26 -6 36 -7 44 -8 46 -14 52 -6 62 -11
lm email again	19 -13 20 135 46 -10
lm employees	21 157 46 -8
lm end	19 -6 22 151 46 -6
lm family name	23 183 26 -17 46 -12 52 -7
lm fax	24 132 46 -8
lm follow-up	19 -8 25 162 44 -7 46 -10
lm full name	23 10 26 161 28 12 36 -6 48 -6
lm gender	27 164 46 -15
lm given name	28 178 52 -7
lm hour	29 139 46 -6
lm house number	0 -14 1 -8 11 -9 13 -7 30 209 46 -9 52 -10 62 -12 64 10
lm identity number	31 135 46 -6
lm interests	32 155
lm job	33 141 46 -15
lm kind	34 138 36 25 46 34
lm language	35 165 46 -10
lm message	19 -8 34 -6 36 175 46 20
lm middle name	37 148 46 -7
lm minute	38 132 46 -6
lm mobile	19 -19 39 190 50 -28
lm month	6 -9 7 69 10 -6 40 101 46 20 50 -8
lm name	0 -7 1 -10 3 -9 5 -8 6 -7 11 -11 13 -8 19 -17 23 44 26 112 27 -7 28 41 30 -7 33 -12 35 -6 36 -12 37 19 41 126 44 -6 45 18 46 51 48 21 50 -8 52 -14 55 -9 57 -10 58 -7 60 -8 62 -17 64 -10 67 -10 68 -6
lm name suffix	42 135 46 10
lm nationality	43 148 46 -6
lm newsletter	19 -8 44 218 46 -34 54 -6 65 -9
lm nickname	23 37 45 166 46 -15
lm ordered	46 -15 47 132
lm organisation	11 21 19 28 26 -7 28 -6 48 142 52 17 62 21 64 13 67 -6
lm owner	46 -6 49 121
lm phone	19 -7 39 -13 46 -22 50 195 57 -23
lm photo	46 -6 51 137
lm postcode	0 -14 1 -6 11 -9 26 -6 30 -7 46 -9 48 -21 52 256 62 -15
lm price	46 -6 53 144
lm privacy	44 -9 46 -29 54 199
lm product	46 12 55 139
lm quantity	21 14 56 146
lm reference	11 -6 19 -8 23 -7 26 -6 28 -6 31 35 36 -6 39 9 46 7 50 17 52 -9 57 142 62 -6 64 14
lm region	1 -6 11 -18 13 -9 19 -6 26 -6 46 44 58 157 61 63 62 -7 64 -6
lm remember	46 134
lm search	13 -7 19 7 26 17 46 136 48 33 62 -6
lm source	46 -7 59 161
lm start	19 11 22 -8 36 -9 46 14 60 166
lm status	61 114
lm street	0 -12 1 30 11 -10 19 -7 25 13 26 -6 30 -8 46 -14 48 -24 52 -13 62 225
lm subject	36 -9 63 137
lm tax number	46 -7 64 145
lm terms	44 -6 46 -28 54 -12 65 211
lm time	46 13 66 123
lm title	18 57 46 -10 67 150
lm username	68 137
lm website	19 -7 46 -10 69 146
lm year	6 -10 7 -6 10 71 46 -20 70 106
lw address	0 183 1 63 11 -16 13 -13 19 -8 23 -6 30 -14 46 -23 52 -13 62 44 64 -6
lw address more	1 138 46 -6
lw age	2 146 46 13
lw amount	3 141 46 -17
lw area	4 148 46 -7
lw birth date	5 131 6 34 7 38 10 37 19 -9 23 -6 46 -34 62 -6 67 -6
lw birth day	6 95
lw birth month	7 101
lw birth name	8 145 46 -6
lw birth place	9 134
lw birth year	10 111
lw captcha	46 125
lw city	11 134 46 -20
lw consent	12 156
lw country	13 151 19 -7 46 -23 52 17 58 -6
lw currency	14 144 46 -22
lw date	1 -6 5 -6 6 15 15 112 16 39 22 -9 26 -6 46 31 60 28 62 -6
lw day	6 42 16 100 46 -11
lw department	17 154 46 -8
lw dialling code	18 139 46 8 52 -7
lw email	19 123 46 -30
lw email again	19 -13 20 135 46 -10
lw employees	21 157 46 -8
lw end	22 130 46 6
lw family name	23 130 46 -9
lw fax	24 132 46 -8
lw follow-up	25 130
lw full name	26 134 46 32
lw gender	27 164 46 -15
lw given name	28 134 46 -9
lw hour	29 139 46 -6
lw house number	30 138 46 -6
lw identity number	31 135 46 -6
lw interests	32 155
lw job	33 135 46 -13
lw kind	34 162 46 9
lw language	35 165 46 -10
lw message	36 147 46 37
lw middle name	37 148 46 -7
lw minute	38 132 46 -6
lw mobile	39 180 46 -13 50 -28
lw month	6 -8 7 65 40 104
lw name	3 -8 19 -14 23 73 26 59 27 -6 28 80 33 -8 36 -12 37 -7 41 141 45 -7 46 -84 48 32 55 -8 57 -8 62 -8 64 -8 67 -6
lw name suffix	42 135 46 10
lw nationality	43 148 46 -6
lw newsletter	44 162 46 -6
lw nickname	23 37 45 166 46 -15
lw ordered	46 -15 47 132
lw organisation	11 -13 19 -10 33 -6 46 9 48 199 52 -11 62 -15 64 18
lw owner	46 -6 49 121
lw phone	19 -6 39 -6 50 130
lw photo	46 -6 51 137
lw postcode	46 -9 52 130
lw price	46 -6 53 144
lw privacy	54 146
lw product	46 -12 55 145
lw quantity	46 -7 56 147
lw reference	31 35 50 -8 57 167 64 -7
lw region	1 -6 46 -15 52 7 58 171 61 64 62 -6 64 -6
lw remember	46 125
lw search	26 -6 46 172 48 -6
lw source	46 -9 59 161
lw start	19 18 46 -11 60 140
lw status	61 114
lw street	1 39 46 -8 62 97
lw subject	36 -8 63 129
lw tax number	46 -7 64 145
lw terms	46 -6 65 160
lw time	66 123
lw title	18 57 46 -10 67 150
lw username	46 -9 68 139
lw website	46 -22 69 142
lw year	6 -9 10 67 46 -20 70 107
l~ a	5 12 25 11 36 9 46 6 63 7
l~ an	46 -8 70 74
l~ by	25 17 44 6
l~ cc	46 24
l~ de	0 -16 1 -11 5 12 6 36 7 37 8 35 9 36 10 49 18 -6 19 22 21 7 22 20 27 -7 28 -9 30 23 31 -6 33 -7 35 -7 36 -9 37 -6 39 -6 44 -9 46 -23 47 17 48 -7 54 25 57 9 58 -8 60 14 62 -9 64 13 67 -8 68 9 69 -8
l~ do	19 -12 22 74 37 13 44 9 46 7
l~ from	19 40 26 10 46 -6
l~ od	60 17
l~ para	26 7
l~ to	5 -6 19 44 25 21 26 -7 36 -14 46 38 49 73 50 -8 54 -6 62 -6 65 13 69 -9
l~ von	15 -19 46 -7 59 10 60 69
m address again	0 -44 1 32 26 7 46 -9 62 33
m address more t text	1 239 5 -6 11 -6 13 -6 26 -6 30 15 46 -16 50 -6 52 -6 62 -7
m address more with city	1 -17 30 22
m address more with street	1 -17 30 22
m address sm address	26 -7 46 15 62 9
m address sm date	46 21 62 -10
m address sm full name	0 13
m address sm start	0 -13 1 9 62 21
m address t long text	0 29 46 -22 62 32
m address t text	0 262 1 55 3 -6 5 -10 11 51 12 -6 13 36 18 -6 19 14 22 -6 27 -8 30 54 31 -7 33 -7 35 -8 36 -7 39 -6 44 -6 45 -6 47 -7 48 -9 50 -10 52 36 54 -6 55 -6 57 -8 58 -9 60 -6 62 71 64 -10 65 -6 67 -9 68 -6 69 -7
m address with birth date	0 -33 1 22 19 8 62 19
m address with city	0 -9 11 -8 19 6 26 -9 46 22 52 -12 62 67
m address with day	46 -7 62 25
m address with email	1 10 19 -6 26 7 52 -7 62 41
m address with family name	0 12 19 -6 52 -10 62 44
m address with full name	19 14 26 -8 46 18
m address with given name	0 19 19 15 46 -14 52 -7 62 32
m address with job	62 10
m address with message	0 -21 19 11 62 26
m address with month	46 -9 62 33
m address with organisation	0 -15 1 20 46 -11 62 30
m address with street	0 7 1 -6 19 12 26 -9 46 44 52 -6 62 -23
m address with username	0 23 1 9 62 -15
m address with year	46 -9 62 33
m age t text	1 -7 2 272 5 -6 11 -6 13 -7 19 -7 23 -7 26 -6 28 -11 35 -6 46 18 50 -6 52 -7 58 -6 62 -7 64 -6
m age with email	2 -15 28 -6 46 41
m age with family name	2 -18 28 -6 46 41
m age with given name	2 -18 28 -6 46 41
m age with job	2 -7 46 12
m age with message	46 9
m age with website	46 12
m amount again	3 -19 46 49
m amount t number	3 22 46 -11
m amount t text	1 -6 3 234 5 -6 11 -7 13 -6 19 -6 26 -6 46 16 50 -6 52 -6 62 -7
m amount with city	3 -14 46 45
m amount with email	3 25 46 -11
m amount with message	3 7
m area t long text	46 11
m area t text	1 -7 4 268 5 -6 11 -6 13 -6 19 -6 26 -6 46 -10 50 -6 52 -7 62 -7 64 -6
m area with city	4 -7 46 17
m area with email	46 11
m area with family name	46 11
m area with given name	46 11
m area with street	4 -7 46 17
m birth date again	5 -52 6 42 7 46 10 46 46 -18
m birth date sm birth date	6 9
m birth date t date	5 57 46 -12
m birth date t option	7 25 10 10 46 -14
m birth date t text	1 -6 5 189 6 38 7 13 10 26 13 -7 19 -6 23 -7 27 -7 28 -6 46 -21 47 -6 50 -6 52 -6 62 -8 67 -7
m birth date with city	5 37 46 -9
m birth date with email	5 55 46 -11
m birth date with family name	5 59 46 -12
m birth date with given name	5 57 46 -10
m birth date with message	5 21 46 -6
m birth date with month	6 9
m birth date with street	5 31 46 -7
m birth date with year	6 9
m birth day t text	6 160 46 -9
m birth month t text	7 167 46 -11
m birth name t text	1 -6 5 -6 8 261 11 -6 13 -6 23 -6 26 -10 46 -16 50 -6 52 -6 62 -6
m birth place t text	1 -6 5 -6 9 237 13 -6 46 -14 52 -6 62 -6
m birth year t text	10 192 46 -11
m captcha t text	46 198 52 -6
m city again	11 -15 46 27
m city t email	11 6
m city t option	46 7
m city t text	11 224 26 -7 46 -18 52 -9 62 -6
m city with birth date	11 10
m city with email	11 42
m city with family name	11 43 46 -10
m city with full name	11 16
m city with given name	11 40 46 -8
m city with organisation	11 13
m city with street	11 38 46 9
m city with username	11 7
m consent hidden	12 -9 46 15
m consent t text	1 -7 5 -6 11 -6 12 286 13 -7 19 -6 23 -6 26 -7 27 -6 46 -6 50 -6 52 -6 58 -6 62 -8 64 -6
m consent t yes/no	46 -18 54 18 65 23
m consent with email	12 -9 46 6 54 19
m consent with username	65 7
m country again	13 -10 58 17
m country sm address	58 16
m country t option	13 65 46 -41
m country t text	5 -6 13 227 19 -9 23 -7 28 -6 33 -6 46 -17 52 12 58 9 62 -8 67 -6
m country with birth date	13 34
m country with city	13 30 19 -6 46 -8 52 17 58 13
m country with day	58 16
m country with email	13 20 46 -6 52 20
m country with family name	13 30 46 -8 52 17 58 13
m country with full name	13 9
m country with given name	13 27 46 -8 52 17 58 13
m country with job	13 13
m country with month	13 16 46 -9 58 15
m country with organisation	13 9 58 15
m country with street	13 21 52 19
m country with subject	13 -19 52 24
m country with username	13 15
m country with website	13 -18 52 24
m country with year	58 15
m currency again	46 14
m currency t option	14 32 46 -17
m currency t text	14 204
m currency with email	14 32 46 -17
m currency with family name	46 14
m currency with given name	46 14
m currency with job	46 14
m date again	15 -9 19 -7 22 36 46 25 60 39
m date in a sentence	46 9
m date sm birth date	6 16
m date t date	19 -6 22 26 46 8 60 21
m date t long text	46 9
m date t option	6 7
m date t text	0 -9 2 -6 3 -11 4 -6 5 10 7 -9 8 -7 9 -7 10 -11 12 -9 13 11 14 -6 15 183 16 54 17 -8 18 -9 19 -11 20 -8 21 -8 22 15 24 -6 25 -8 29 -6 30 -11 31 -11 32 -7 33 6 34 -6 36 -14 37 -8 38 -6 39 -8 42 -6 43 -6 44 -10 45 -8 46 15 47 -15 48 8 49 -7 51 -6 53 -6 54 -9 55 -9 56 -6 57 -13 58 8 59 -8 60 56 61 -7 62 7 63 -7 64 -15 65 -11 68 -10
m date with birth date	46 25
m date with email	5 11 19 -9 22 58 46 -28 60 38
m date with family name	5 11 19 -6 22 37 46 -27 60 27
m date with full name	15 -8 46 27
m date with given name	5 11 19 -7 22 47 46 -31 60 25
m date with message	15 -8 19 -8 22 56 36 -7 60 36
m date with month	6 17 46 18
m date with website	46 16
m date with year	6 18
m day sm birth date	6 21
m day t option	6 35 46 -9
m day t text	6 18 16 183 26 -6 46 -10
m day with city	6 27 46 -7
m day with family name	6 27 46 -7
m day with given name	6 23 46 -6
m day with job	6 17
m day with month	6 61 16 -13 46 -10
m day with organisation	6 27 46 -7
m day with street	6 14
m day with year	6 61 16 -13 46 -10
m department t text	1 -6 5 -6 13 -6 17 278 19 -6 26 -6 46 -18 50 -6 52 -6 62 -7 64 -6
m dialling code sm date	18 -11 46 20
m dialling code t text	1 -7 5 -6 11 -7 13 -7 18 263 19 -6 23 -6 26 -6 50 -7 52 -11 62 -8
m dialling code with city	18 -13 46 27
m dialling code with email	18 -13 46 27
m dialling code with family name	18 -13 46 27
m dialling code with street	18 -13 46 27
m email again	36 10 46 22
m email again t email	19 -10 20 24 46 -6
m email again t text	1 -6 11 -6 13 -6 19 -9 20 228 26 -6 46 -14 50 -6 52 -6 62 -6
m email hidden	19 -42 46 48
m email sm start	19 8
m email t email	19 124
m email t option	46 9
m email t text	1 -7 19 192 23 -6 26 -7 28 -6 36 -6 46 8 52 -8 62 -8
m email with birth date	19 10
m email with city	19 8 46 32
m email with family name	19 32 46 14
m email with full name	19 19
m email with given name	19 25 46 23
m email with message	19 37
m email with organisation	19 9
m email with street	19 10 46 14
m email with subject	46 19
m email with username	19 14
m email with website	19 6 46 12
m employees t number	21 19 46 -8
m employees t text	1 -6 5 -6 11 -6 13 -6 21 263 26 -6 46 -15 50 -6 52 -6 62 -7
m employees with city	21 6
m employees with given name	21 19 46 -8
m employees with job	21 19 46 -8
m employees with organisation	21 22 46 -9
m employees with street	21 6
m employees with website	21 20 46 -8
m end t date	46 18
m end t text	1 -7 5 -6 13 -6 22 251 46 -13 62 -6
m end with city	22 -7 46 17
m end with email	22 18 46 -8
m end with family name	22 18 46 -8
m end with given name	22 18 46 -8
m end with message	46 18
m family name again	57 8
m family name sm date	57 8
m family name t text	23 234 26 -13 28 -6 46 -21 52 -12 57 15 62 -8
m family name with birth date	23 8
m family name with city	23 12 57 19
m family name with day	23 13
m family name with email	23 21 57 20
m family name with full name	23 9
m family name with given name	23 42
m family name with job	23 14
m family name with message	23 6
m family name with month	23 14
m family name with organisation	23 18
m family name with street	23 6 57 19
m family name with year	23 14
m fax t text	19 -6 24 227 46 -17 62 -6
m fax with email	24 21
m fax with family name	24 21
m fax with given name	24 21
m follow-up in a sentence	25 7
m follow-up sm email	46 8
m follow-up sm message	25 11
m follow-up t text	1 -6 5 -6 11 -6 13 -6 25 244 26 -6 46 -17 50 -6 52 -6 62 -6
m follow-up t yes/no	19 -6 25 25
m follow-up with message	25 16
m follow-up with website	25 7
m full name again	23 16 26 -27 28 17 46 -8 63 12
m full name t text	1 -6 3 -6 13 -6 19 -8 23 8 26 218 28 10 36 -8 46 19 52 -8 55 -7 57 -6 62 -6 63 8
m full name with city	26 13
m full name with email	23 15 26 17 28 16 46 -18
m full name with message	23 15 26 11 28 16 46 -15
m full name with organisation	23 16 26 -8 28 17 46 -10
m full name with street	26 12
m full name with subject	23 16 26 -12 28 17 46 -8
m full name with website	26 16 46 -6
m gender sm gender	27 11 46 -6
m gender t option	27 25 46 -13
m gender t text	1 -6 5 -6 13 -6 19 -6 23 -7 26 -6 27 258 46 -15 62 -6
m gender with birth date	27 18
m gender with email	27 15
m gender with family name	27 11
m gender with given name	27 12
m gender with job	27 12 46 -6
m given name again	26 21 28 -9
m given name t text	19 -6 28 233 33 -6 46 -17 52 -10 62 -7
m given name with birth date	28 6
m given name with city	26 20 28 16
m given name with day	26 20
m given name with email	28 38
m given name with family name	26 20 28 37
m given name with full name	28 7
m given name with job	26 20
m given name with message	28 6
m given name with month	26 20
m given name with organisation	26 20 28 12
m given name with street	26 20 28 12
m given name with year	26 20
m hour t text	1 -6 29 247 46 -16 62 -6
m house number again	30 -9 64 15
m house number t text	1 -6 5 -6 11 -6 13 -6 19 -7 23 -6 26 -6 30 258 46 -18 50 -7 52 -7 62 -8 64 8
m house number with city	64 14
m house number with email	64 14
m house number with family name	64 14
m house number with given name	64 14
m house number with organisation	64 14
m house number with street	64 14
m identity number t text	1 -6 5 -6 13 -6 26 -6 31 249 46 -16 50 -6 52 -6 62 -6
m interests t option	46 23
m interests t text	1 -7 5 -6 13 -6 19 -6 26 -6 32 286 46 -21 50 -6 52 -6 62 -7 64 -6
m job t option	33 25 46 -21
m job t text	19 -6 23 -7 33 209 46 9 52 -6 62 -6
m job t yes/no	46 8
m job with city	33 -19 46 33
m job with day	33 -27 46 39
m job with email	33 45 46 -32
m job with family name	33 -14 46 42
m job with full name	33 -13 46 22
m job with given name	33 -10 46 39
m job with month	33 -27 46 39
m job with organisation	46 26
m job with street	33 -11 46 23
m job with website	33 10 46 -8
m job with year	33 -27 46 39
m kind again	34 -6 46 26
m kind hidden	46 7
m kind sm date	34 -10 46 16
m kind t option	46 23
m kind t text	1 -8 5 -8 13 -8 19 -9 23 6 27 -6 28 6 31 -6 33 -6 34 264 35 -7 36 25 47 -6 48 -7 50 -9 57 -7 58 -7 64 -7 67 -7 69 -6
m kind t yes/no	46 16
m kind with city	34 -12 46 43
m kind with day	46 10
m kind with email	34 -11 46 23
m kind with family name	34 -12 46 36
m kind with given name	46 9
m kind with job	46 11
m kind with month	46 11
m kind with organisation	46 14
m kind with street	34 -11 46 30
m kind with year	46 11
m language sm username	35 19 46 -13
m language t option	35 48 46 -33
m language t text	1 -7 5 -6 11 -6 13 -6 19 -6 26 -6 35 242 46 25 50 -6 52 -6 62 -7
m language with email	35 12 46 21
m language with family name	35 45 46 -31
m language with given name	35 42 46 -28
m language with subject	35 -37 46 54
m message again	36 -41 46 60
m message hidden	36 -27 46 34
m message sm message	46 7
m message sm product	36 -11 46 12
m message t long text	46 32
m message t option	36 -9 46 16
m message t text	3 -8 5 -7 13 -6 19 -8 23 -7 26 -7 28 -6 36 262 46 -8 50 -6 62 -7
m message with birth date	36 9
m message with city	36 16 46 -14
m message with email	36 58 46 -29
m message with family name	36 31 46 -20
m message with full name	36 24 46 -15
m message with given name	36 25 46 -18
m message with organisation	36 -14 46 20
m message with street	36 9 46 -8
m message with username	36 -6 46 9
m middle name t text	1 -6 5 -6 11 -6 13 -6 23 -6 26 -8 28 -6 37 270 46 -17 50 -6 52 -7 62 -7
m middle name with city	37 9
m middle name with day	37 9
m middle name with family name	37 9
m middle name with full name	37 6
m middle name with given name	37 8
m middle name with job	37 7
m middle name with month	37 9
m middle name with organisation	37 9
m middle name with street	37 6
m middle name with year	37 9
m minute t text	38 231 46 -15 62 -6
m mobile again	39 16 46 -9
m mobile sm date	39 13 46 -6
m mobile t number	39 32 46 -20
m mobile t phone	39 127 46 -10 50 -27
m mobile t text	19 -7 23 -6 39 206 50 -6 52 -7 62 -6
m mobile with birth date	39 25 46 -9
m mobile with city	39 17 46 -7
m mobile with email	39 41 46 9
m mobile with family name	39 54 46 -19
m mobile with given name	39 43 46 -13
m mobile with message	39 28 46 -8
m mobile with street	39 16 46 -7
m month sm birth date	7 54 40 -14 46 -13
m month t option	7 47 46 -18
m month t phone	46 24 50 -6
m month t text	6 -6 7 25 13 -6 26 -7 40 217 46 -8 62 -6
m month with city	7 27 46 -9
m month with day	7 61 40 -13 46 -13
m month with email	40 -16 46 31
m month with family name	7 27 46 -9
m month with full name	46 22 50 -6
m month with given name	7 24 46 -7
m month with job	7 15
m month with organisation	7 27 46 -9
m month with street	7 12
m month with website	40 -16 46 31
m month with year	6 -7 7 97 40 -22 46 -25
m name again	23 -15 26 48 28 6 37 27 41 -23 45 24 46 30 48 -11
m name sm date	23 18 26 -19 28 15 46 8
m name sm message	26 12 46 -8
m name sm organisation	26 -43 46 -14 48 69
m name sm product	26 -19 46 27
m name sm quantity	26 -17 46 21
m name sm region	26 -7 28 16
m name sm start	23 18 26 -19 28 15 46 8
m name suffix t text	1 -6 19 -6 23 -6 26 -7 33 -8 42 244 46 8 52 -6 62 -7 67 -6
m name suffix with city	42 -7 46 35
m name suffix with day	42 -7 46 32
m name suffix with family name	42 -7 46 35
m name suffix with full name	46 9
m name suffix with given name	42 -6 46 30
m name suffix with job	42 -6 46 28
m name suffix with month	42 -7 46 35
m name suffix with organisation	42 -7 46 35
m name suffix with street	46 17
m name suffix with year	42 -7 46 35
m name t email	26 20 46 -6
m name t long text	26 24 36 11 46 -14
m name t option	26 -6 46 14
m name t text	1 -11 3 -10 5 -11 6 -7 10 -6 11 -15 13 -12 17 -6 19 -18 22 -7 23 35 26 172 27 -9 28 37 30 -8 31 -6 33 -14 35 -8 36 -14 37 16 39 -6 41 264 44 -7 45 15 46 24 47 -6 48 7 50 -13 52 -18 55 -10 57 -12 58 -10 60 -6 62 -19 64 -12 65 -6 67 -12 68 -6 69 -8
m name with birth date	23 27 26 -22 28 37 41 -8 46 -10
m name with city	23 24 28 27 37 25 41 -15 45 24 46 -37 48 27
m name with day	23 -13 26 6 37 27 45 25 46 -14
m name with email	19 -11 23 39 26 34 28 64 36 10 41 -17 46 -29 48 -15
m name with family name	23 -39 26 -34 28 118 37 26 41 -11 45 24 48 -6
m name with full name	26 -62 46 73
m name with given name	23 95 26 25 28 -50 36 10 37 27 41 -18 45 26 46 -15 48 -8
m name with job	23 19 26 -15 28 23 33 -6 37 7 45 11 46 -11
m name with message	19 -8 23 23 26 34 28 29 36 -9 41 -24 46 32 48 -13
m name with month	23 -14 26 13 37 27 45 25 46 -15
m name with organisation	23 17 26 18 28 22 33 -8 37 26 41 -8 45 24 46 -27 48 -8
m name with street	23 26 26 22 28 23 37 17 41 -11 46 -17 48 -6
m name with subject	26 22 46 -6
m name with username	23 14 26 -9 28 10
m name with website	26 -10 28 -6 41 -7 46 15 48 29
m name with year	23 -14 26 13 37 27 45 25 46 -15
m nationality t text	1 -6 5 -6 13 -6 26 -6 43 267 46 -16 50 -6 62 -7
m newsletter hidden	44 -15 46 20
m newsletter sm newsletter	44 -8 46 16
m newsletter t option	44 -14 46 31
m newsletter t text	1 -7 5 -6 11 -6 13 -7 23 -6 25 -6 26 -7 28 -6 44 279 46 -6 50 -7 52 -7 58 -6 62 -8
m newsletter t yes/no	19 -6 25 43 36 -7 44 84 46 -51 65 -8
m newsletter with birth date	44 17 46 -9
m newsletter with city	44 8
m newsletter with email	25 9 44 49 46 7 65 -7
m newsletter with family name	44 21
m newsletter with full name	25 11 44 15 46 -12
m newsletter with given name	44 12 46 8
m newsletter with message	25 34 44 12 46 -21
m newsletter with street	44 8
m newsletter with subject	44 -8 46 10
m newsletter with username	44 19 46 -7
m newsletter with website	25 11
m nickname t text	1 -7 5 -7 11 -6 13 -7 19 -9 23 33 26 -9 27 -6 28 -7 33 -7 35 -6 45 290 46 -25 48 -6 50 -7 52 -7 58 -6 62 -9 64 -7 67 -6
m nickname with birth date	23 17 45 -7
m nickname with city	23 13 45 8
m nickname with day	45 14
m nickname with email	23 51 45 -23
m nickname with family name	45 15
m nickname with full name	45 7
m nickname with given name	23 48 45 -9
m nickname with job	23 7 45 6
m nickname with message	23 11
m nickname with month	45 15
m nickname with organisation	23 13 45 7
m nickname with street	23 14
m nickname with username	23 7
m nickname with year	45 15
m ordered t date and time	46 -11 47 20
m ordered t text	46 -15 47 222 52 -6 62 -6
m ordered with email	46 -11 47 20
m organisation again	17 24 46 14 64 -7
m organisation sm organisation	46 20 64 -6
m organisation t email	19 26
m organisation t phone	50 23
m organisation t text	1 -10 5 -9 11 64 13 -9 17 14 19 7 23 -10 26 -14 27 -7 28 -11 30 -7 31 -6 33 -14 35 -7 45 -7 46 -21 48 205 50 -13 52 49 58 -10 62 51 64 22 67 -12 69 -8
m organisation t yes/no	46 16 48 -7
m organisation with city	17 22 46 19
m organisation with day	17 23 46 -7 48 9
m organisation with email	19 7 46 -11 48 33
m organisation with family name	17 23 46 -11 48 32
m organisation with full name	17 11 46 -7 48 18
m organisation with given name	17 23 46 -11 48 32
m organisation with job	17 23 46 -8 48 14
m organisation with message	46 10 48 10
m organisation with month	17 23 46 -7 48 9
m organisation with street	17 23 46 -8 48 17
m organisation with website	46 -6 48 15
m organisation with year	17 23 46 -7 48 9
m owner t text	46 -14 49 212
m phone again	46 15 50 -9
m phone sm date	46 30 50 -19
m phone t number	46 -17 50 33
m phone t phone	39 -12 46 -9 50 144
m phone t text	19 -9 23 -7 50 197 52 -7 62 -7
m phone with birth date	50 16
m phone with city	46 23 50 8
m phone with email	50 64
m phone with family name	46 32 50 18
m phone with full name	50 19
m phone with given name	50 43
m phone with job	46 15
m phone with message	46 -10 50 37
m phone with organisation	46 -18 50 42
m phone with street	46 24
m phone with website	46 -6 50 14
m photo t text	1 -6 46 -15 51 241 62 -6
m postcode t number	52 8
m postcode t text	26 -12 46 -19 52 266 62 -7
m postcode t yes/no	46 15
m postcode with city	46 -6 52 27
m postcode with email	52 21
m postcode with family name	52 16
m postcode with given name	52 15
m postcode with street	52 15
m postcode with username	52 8
m price t text	1 -6 5 -6 13 -6 46 -16 53 258 62 -6
m privacy t text	1 -7 5 -6 11 -6 13 -7 19 -6 26 -7 46 -15 50 -6 52 -7 54 280 62 -7
m privacy t yes/no	46 -18 54 48
m privacy with email	46 -18 54 48
m privacy with full name	46 -8 54 16
m privacy with message	46 -9 54 19
m privacy with subject	46 -9 54 19
m product again	46 24
m product sm amount	46 24
m product t text	1 -6 5 -6 13 -6 19 -7 23 -7 26 -6 28 -6 50 -6 52 -6 55 255 62 -7
m product with email	46 26
m product with family name	46 29 55 -10
m product with given name	46 29 55 -10
m product with message	55 10
m quantity t number	46 16
m quantity t text	1 -6 5 -6 13 -6 26 -6 46 -17 56 264 62 -7
m quantity with email	46 16
m quantity with family name	46 16
m quantity with given name	46 16
m quantity with organisation	46 9
m reference sm date	50 25 57 -21
m reference t number	46 34 57 -9
m reference t text	1 -9 5 -8 11 -9 13 -9 19 -11 23 -10 26 -10 27 -7 28 -9 30 -7 31 52 33 -7 35 -7 36 -7 46 -30 47 -7 48 -7 50 22 52 -11 57 292 58 -8 62 -11 64 11 67 -7 69 -7
m reference with birth date	57 10
m reference with city	50 44 57 -40 64 21
m reference with email	46 7 50 41 57 -19 64 21
m reference with family name	50 43 57 -33 64 21
m reference with full name	57 15
m reference with given name	64 21
m reference with job	46 11
m reference with message	57 25
m reference with month	46 31 57 -8
m reference with organisation	64 22
m reference with street	50 46 57 -34
m reference with subject	57 11
m reference with website	46 13
m region again	46 93 52 10 58 -52
m region sm address	46 11
m region sm date	46 -10 52 17
m region sm start	46 -7 58 17
m region t option	46 -26 58 45
m region t text	0 -6 1 -10 3 -6 5 -8 11 -21 12 -6 13 -9 18 -6 19 -9 23 -8 26 -10 27 -8 28 -7 30 -7 31 -7 33 -7 35 -7 44 -6 46 48 47 -6 48 -8 50 -8 57 -7 58 247 61 100 62 -11 64 -8 65 -6 67 -7 69 -6
m region with birth date	46 -6 58 10
m region with city	46 9 52 9 58 45
m region with email	11 -12 46 -15 52 15 58 41
m region with family name	46 -30 52 15 58 37
m region with full name	58 6
m region with given name	46 -27 52 16 58 30
m region with organisation	58 10
m region with street	52 12 58 26
m region with subject	46 -11 58 16
m region with website	46 -11 58 16
m remember t text	46 192
m remember t yes/no	46 17
m remember with email	46 17
m search again	19 9 26 22 46 -7 48 38
m search sm birth date	6 15 46 -9
m search sm username	46 8
m search t option	46 6
m search t text	0 -10 1 8 2 -8 3 -10 4 -8 5 11 7 -9 8 -8 9 -7 10 -10 11 9 12 -10 13 21 14 -6 15 -6 16 -9 17 -8 18 -10 19 9 20 -7 21 -8 22 -9 23 11 24 -7 25 -9 26 26 27 12 28 11 29 -7 30 -11 31 -11 32 -8 33 14 34 -8 35 12 36 -10 37 -8 38 -7 39 -10 40 -6 41 -8 42 -7 43 -8 44 -11 45 -10 46 189 47 -10 48 42 49 -8 50 13 51 -7 52 9 53 -8 54 -10 55 -8 56 -8 57 -11 58 12 59 -8 60 -9 61 -8 62 18 63 -9 64 -12 65 -11 66 -6 67 14 68 -8 70 -8
m search with birth date	46 8
m search with email	26 19 48 26
m search with family name	46 15
m search with given name	46 15
m search with job	46 15
m search with month	6 15 46 -6
m search with organisation	46 25
m search with website	46 28
m search with year	6 15 46 -9
m source hidden	46 17 59 -8
m source t text	1 -7 5 -6 11 -6 13 -7 19 -6 23 -6 26 -7 28 -6 46 -7 50 -6 52 -8 59 285 62 -8 64 -6
m source with email	46 14
m start sm email	19 26 60 -13
m start sm product	19 21 60 -12
m start t date	19 -6 46 31 60 9
m start t text	1 -7 5 -6 11 -6 13 -7 19 27 23 -6 26 15 27 -6 28 -6 46 -19 48 -6 50 -6 52 -6 60 254 62 -8 64 -6
m start with city	46 17 60 -6
m start with email	19 23 26 13 46 6
m start with family name	19 -7 46 6 60 25
m start with given name	19 -7 46 6 60 25
m start with message	19 8 36 -7 46 27 60 6
m start with organisation	46 28
m start with subject	19 10 46 14
m start with website	19 14
m status t option	46 10
m status t text	46 -15 61 199
m status with message	46 10
m status with organisation	46 10
m street again	1 24 62 -14
m street sm address	1 14
m street t long text	62 18
m street t text	1 51 19 -8 26 -10 30 -6 46 -15 52 -12 62 211
m street with city	1 20 46 -9 62 32
m street with day	62 12
m street with email	62 25
m street with family name	46 -6 62 34
m street with full name	1 14
m street with given name	62 34
m street with job	62 10
m street with month	62 12
m street with organisation	62 17
m street with year	62 12
m subject hidden	46 15 63 -12
m subject t option	46 27 63 -18
m subject t text	1 -8 19 -7 36 -11 46 -29 55 -6 63 241
m subject with city	46 6
m subject with email	46 25 63 10
m subject with full name	46 -8 63 23
m subject with message	46 -15 63 36
m subject with organisation	63 8
m subject with street	46 6
m subject with website	46 12 63 -7
m tax number t text	1 -6 5 -6 11 -6 13 -6 19 -6 26 -6 46 -17 50 -7 52 -6 62 -7 64 269
m terms t text	1 -7 5 -7 11 -6 13 -7 19 -6 26 -7 46 -16 50 -6 52 -7 58 -6 62 -7 65 283
m terms t yes/no	46 -28 54 -11 65 63
m terms with email	46 -16 54 -10 65 41
m terms with full name	54 -9 65 14
m terms with message	65 9
m time t text	46 -16 66 212
m time t time	46 25
m time with email	46 25
m time with month	46 25
m time with website	46 21
m title t text	1 -9 5 -8 11 -7 13 -8 18 91 19 -7 23 -7 26 -8 27 -6 28 -7 31 -6 33 -7 35 -6 46 -22 48 -6 50 -7 52 -8 58 -6 62 -9 64 -7 67 260 69 -6
m title with city	67 15
m title with day	67 10
m title with email	67 7
m title with family name	67 15
m title with given name	67 15
m title with job	67 13
m title with month	67 10
m title with organisation	67 12
m title with street	67 14
m title with year	67 10
m username again	19 11 46 10 68 -9
m username sm message	46 6
m username t option	46 18
m username t text	13 -6 19 14 23 -6 26 -6 46 -24 52 -6 67 -6 68 232
m username with city	68 7
m username with email	46 12 68 30
m username with family name	68 17
m username with given name	68 18
m username with message	46 7
m website again	46 9
m website hidden	46 20 69 -12
m website in a sentence	46 8
m website t long text	46 8
m website t option	46 21 69 -8
m website t text	1 -9 19 -8 69 204
m website t web address	46 -11 69 25
m website with city	46 9
m website with email	46 -12 69 47
m website with family name	46 7
m website with full name	69 18
m website with given name	46 7
m website with job	69 6
m website with message	46 6 69 17
m website with month	69 7
m website with organisation	46 -6 69 25
m website with street	46 9
m website with subject	46 13
m year sm birth date	10 47 46 -12 70 -10
m year t number	10 31 46 -7
m year t option	10 23 46 -9
m year t text	6 -6 10 21 26 -6 46 -10 70 196
m year with city	10 31 46 -7
m year with day	6 -6 10 63 46 -12 70 -12
m year with family name	10 31 46 -7
m year with full name	10 7
m year with given name	10 28 46 -6
m year with job	10 17
m year with month	6 -8 10 91 46 -19 70 -18
m year with organisation	10 31 46 -7
m year with street	10 15
max more	19 14 26 25 46 30 60 -10
n 08eurde	46 16
n 1nasd	46 11
n 92348hu	46 11
n 984353hfid	46 11
n aantal	21 6 56 9
n about	46 9 59 9
n accept	65 12
n account	57 6
n ad	37 7
n add	46 23
n additional	36 -17 46 22
n addr	46 16
n address	0 16 1 60 11 -6 26 -9 52 -6 62 22
n adr	1 49 46 -17 52 -6
n adres	0 15
n adresa	0 8
n adresse	0 -11 1 26 23 8 28 7 46 -6
n afile	46 12
n age	2 8 46 38
n agree	12 9 46 -19 54 -6 65 46
n akismet	46 6
n album	46 10
n all	46 7
n am	47 10
n annee	10 12 70 6
n ano	10 12 70 6
n anrede	67 13
n anzahl	56 9
n apartment	1 12
n apellido	8 6
n area	46 61 58 -8
n arguments	46 30
n array	46 24
n asset	46 7
n at	8 8 47 14
n author	26 -34 46 51
n autocomplete	46 21
n bank	46 9
n base	46 11
n bdate	46 15
n bday	6 24
n bdesc	46 15
n bestellt	47 11
n betrag	3 28 46 -8
n bill	1 -6 46 -17 52 17 58 11 62 20
n billtocity	11 14
n billtostate	58 14
n billtostreet	62 13
n billtozip	46 -6 52 13
n bio	46 15
n birth	5 22 6 28 7 28 8 15 9 21 10 22 46 -19
n birthday	5 13
n bleiben	46 8
n bloc	46 10
n bluete	46 14
n bmonth	7 31 40 -8 46 -10
n bname	26 30 46 -16
n body	36 71 46 -30
n bonus	46 9
n born	5 6
n borrower	26 23 46 -9
n btn	46 27
n budget	46 7
n building	1 -9 30 25
n bundesland	58 8
n business	46 11 48 -14 64 21
n button	26 -24 46 42
n byear	10 28 46 -10 70 -6
n calling	18 10
n campaign	59 8
n card	26 12 28 -6 31 7 45 22 46 -7
n cc	46 20
n cell	39 13
n check	46 11 54 20 65 13
n checkbox	46 25 65 12
n checklist	46 8
n chip	46 10
n chk	46 18
n cim	0 8
n cislo	30 10 31 7
n city	11 65 46 39 48 -14 58 -10
n client	26 -13 46 18 57 10
n code	18 30 33 -7 46 24 52 73 55 -6 62 -6
n cognome	8 9
n color	46 16
n commande	46 -7 47 29
n comment	46 11 59 6
n comments	25 38 46 -8
n community	46 7
n complement	1 8
n compose	36 24 46 -20
n condiciones	65 6
n conditions	65 12
n condizioni	65 6
n confidentialite	54 8
n configuration	46 10
n confirm	20 11
n confirmation	20 11
n contact	63 12
n content	36 36 46 -24
n copy	25 7
n correo	19 6
n count	21 6 56 9
n country	13 34 18 15 46 -8
n county	46 42 58 -34
n cp	46 15
n create	46 26 69 -14
n currency	14 22 46 -7
n current	3 46 46 -20
n custom	11 13 23 12 28 11 46 -6 52 11 54 21 58 12
n customer	57 11
n d	46 7 67 6
n daily	44 7
n danych	54 9
n dark	46 10
n data	1 11 5 18 6 -9 7 -6 10 -6 11 13 13 20 19 15 23 14 26 10 27 12 28 13 30 -6 31 -6 33 12 35 12 36 -7 44 -6 46 -56 47 9 48 16 50 22 52 9 57 -8 58 15 60 -7 62 17 64 -8 65 -7 67 10 68 -6 69 20
n date	5 18 15 6 19 -6 46 111 47 22 50 -6
n datepicker	5 14 46 -8
n datetime	46 13
n datetimepicker	46 9
n datum	5 9 15 18 46 -6 60 21
n day	5 -17 6 107 7 -16 10 -9 46 -10 66 16
n dd	16 7
n default	65 18
n department	17 10
n desc	36 -7 46 19
n description	36 -19 46 23
n dial	18 6
n dialog	46 7
n did	59 18
n dipendenti	21 12
n direccion	62 9
n direct	50 9
n display	26 21
n district	11 -21 46 47 58 -11
n dob	5 -36 6 22 7 31 10 28 46 -6
n domu	30 15
n editor	36 -10 46 19
n email	19 81 20 70 36 10 48 -8
n emails	19 74 46 -24 62 -10
n empleados	21 12
n employees	21 15
n enabled	46 8
n end	46 30
n endereco	0 7
n enquiry	34 15
n error	19 -23 20 29 46 27
n estado	58 -11 61 23
n expiry	46 22 50 -7
n ext	46 29 50 -13
n f	0 30 2 -11 3 48 4 -9 5 -10 6 14 8 -8 9 -7 11 10 12 -15 13 15 14 -10 15 -10 16 -12 17 7 18 -11 19 85 21 -10 22 34 23 48 26 38 27 30 28 32 29 -8 30 16 31 -18 32 -10 33 30 34 -11 35 13 36 27 38 -7 39 19 40 -12 41 -38 42 -9 43 -8 44 48 45 -15 46 -83 47 -34 49 -12 50 49 51 -8 52 33 53 -8 54 33 55 46 56 -8 58 17 59 -10 60 30 61 -11 62 32 63 21 64 24 65 30 66 -7 67 26 68 47 69 18 70 -11
n fav	46 14
n fax	24 37
n fecha	15 20 47 8
n file	46 24
n filter	46 11
n fio	26 37 46 -22
n first	26 -9 28 66 46 -6
n firstname	28 20
n fixed	46 15
n flex	46 -15 65 18
n fname	28 11
n follow	25 16
n followup	25 14
n fonction	33 6
n footer	46 9
n forum	46 6
n four	46 8
n from	19 31 26 25 46 -9 60 -13
n fruit	46 18
n full	0 7
n fullt	26 6
n fulltext	46 9
n functio	46 11
n function	36 -7 46 13
n g	46 11
n geboren	5 7
n geburtstag	6 18
n gender	27 21 46 -9
n google	46 8
n group	2 10 26 -28 46 37
n header	39 -10 46 24
n hear	59 13
n heard	59 11
n helper	46 7
n here	34 -7 46 21
n hives	46 9
n home	0 6
n honorific	67 10
n house	30 49 46 -15
n housing	46 33
n how	56 9 59 13
n human	46 19
n identity	31 12
n imie	26 33 37 7
n income	46 36
n indicatif	18 13
n information	36 -13 46 18
n inline	46 11
n inp	19 16 46 -12 69 17
n inputx	28 12
n inqbot	46 6
n invalid	46 13 58 -6
n item	55 6
n jmeno	37 7
n job	33 11
n jour	6 16 16 7
n js	0 33 1 -6 3 38 5 -7 13 -9 26 -12 27 -6 36 -11 39 95 45 46 46 -19 48 -7 50 28 52 -6 58 -6 62 -7 67 -6 69 -8
n keep	46 6
n key	35 32 46 -13
n keywords	39 -10 46 37
n kierunkowy	18 13
n kind	11 6 23 7 28 7 34 10 46 -6
n kod	46 8
n l	20 6 46 6
n label	26 -9 46 41 62 -6
n land	13 9
n lang	35 32 46 -20
n language	46 32
n last	23 60 26 -7
n lastname	57 20
n leave	46 8
n letters	44 9
n liczba	21 6 56 9
n lief	26 9
n liefer	0 -7 11 6 23 9 26 8 28 9
n line	1 63 46 -8 62 -27
n lname	23 16 46 -6
n loc	46 6
n local	46 8
n location	19 -7 46 36
n login	46 18 68 13
n looking	36 34 46 -18
n ltr	2 -6 26 37 46 14
n m	36 34 46 -18
n mail	19 47 20 44 46 -8 60 -6
n marketing	46 6
n master	46 7
n me	25 27 44 6 46 28
n medewerkers	21 12
n member	19 24 46 -14 57 12
n membership	57 9
n message	36 39 46 -15
n middle	37 38
n mitarbeiter	21 14
n mm	40 7
n mnie	25 10
n mobil	39 12
n mobile	39 22
n model	46 11
n moi	25 10
n mois	7 16 40 7
n month	5 -16 6 -18 7 106 10 -11 40 -30 46 37
n movil	39 9
n msg	36 14
n multitopic	46 6
n mytext	46 12
n n	23 7 26 -8 28 12 33 -8 37 18 42 -6 46 21 67 6
n naam	41 13
n nachname	23 44
n nacimiento	9 9 10 12
n naissance	6 16 7 16 9 9 10 11
n name	0 -8 1 -8 8 22 11 -9 13 -6 19 -11 23 25 26 151 28 31 33 -6 36 7 37 22 41 -52 42 11 45 24 46 34 48 62 50 -8 52 -13 62 -15 67 -6 68 9
n namn	41 13
n nascita	9 12
n navbar	46 15
n navn	41 13
n nazwa	41 13
n nazwisko	8 16 26 33
n ne	5 45 46 -13
n nev	41 13
n new	25 11 46 12
n news	44 13
n newsletter	44 24
n newslettera	44 6
n newsletters	44 7
n nick	26 -9 45 31
n nimi	41 13
n nip	64 11
n nls	44 40 46 -26
n no	57 16
n nom	8 12 23 12 41 12
n nombre	28 6 41 12
n nome	28 9 37 10 41 12
n nonce	46 6
n note	36 -20 46 25
n notify	25 22
n nr	30 15 39 8 57 9
n num	23 -8 28 -6 46 30
n number	24 11 30 14 31 42 46 8 50 44 57 -7 64 20
n nume	41 13
n numer	18 6 57 14
n numero	21 10 30 22 46 -6 57 25 64 8
n occupation	33 -20 46 26
n office	23 -6 46 40
n one	46 11
n only	46 6
n op	47 8
n optin	46 12
n orchard	48 6
n order	36 7 46 -16 47 18 57 31
n ordered	46 -7 47 30
n ordine	47 10
n org	17 24 46 -7 48 7
n organization	48 6
n ort	11 69 46 -7 48 -14
n osobnich	54 8
n other	46 7
n outward	46 16
n p	46 -10 52 20
n params	46 13
n parent	36 -6 46 19
n party	46 -31 48 59
n password	46 13
n pays	18 6
n pedido	47 8
n pet	46 13
n pg	46 12
n phone	18 18 46 12 50 36
n place	9 22
n placed	46 -17 47 48
n planning	46 11
n plz	52 7
n podminky	65 7
n policy	65 10
n portable	39 9
n position	33 8
n post	19 12 46 29
n posta	19 24 46 -7
n postal	0 7 52 15
n postcode	48 -10 52 61
n prefijo	18 26 67 -8
n prefisso	18 25 67 -8
n prefix	18 6 67 19
n prijmeni	8 8
n privacidad	54 6
n privacy	54 19 65 6
n project	26 -14 46 17
n property	46 16
n province	58 18
n q	1 18 5 21 6 19 7 11 10 8 11 18 12 -6 13 33 16 -8 17 -6 18 -6 19 25 23 19 25 -6 26 15 27 20 28 18 30 -7 31 -7 33 20 35 19 36 -7 39 -8 40 -10 44 -7 45 -7 46 -139 47 -6 48 14 50 37 52 18 54 -6 55 -6 57 -7 58 20 60 -6 62 30 63 -6 64 -7 65 -7 67 20 69 31 70 -8
n qname	23 -6 46 28
n qty	56 9
n quicksearch	46 29
n radio	46 20
n range	2 9 46 16
n rank	46 13
n re	46 7
n read	46 6
n receive	44 7
n recipients	19 10
n region	11 -12 13 6 46 7 58 23
n register	46 -17 54 23
n reglogin	19 14 46 10 68 -9
n regulamin	65 7
n regular	46 19
n reloaded	25 14
n remember	46 14
n rememberme	46 7
n report	46 14 69 -9
n response	46 9
n rodne	8 8 31 8
n rodzaj	34 9
n rok	10 15 70 6
n role	46 29
n rtl	26 57 46 10
n rules	65 7
n salutation	67 8
n sample	46 7
n school	46 29 48 -19
n search	46 35
n section	46 8
n security	31 6
n select	5 9 13 45 46 29 50 -6 58 10
n send	25 7
n sender	19 11
n serial	23 13 46 -31 57 65
n service	17 12
n settlement	46 19
n shiptocity	11 14
n shiptostate	58 14
n shiptostreet	62 13
n shiptozip	52 13
n signed	46 8
n siret	64 10
n site	46 7 69 11
n slider	46 8
n social	31 6
n some	46 16
n source	46 8 59 11
n spam	46 12
n staff	21 22 46 -8
n start	46 34
n starter	46 6
n state	58 30 61 20
n status	46 11 61 15
n strange	46 14
n strasse	48 -11 62 56
n street	46 -6 48 -14 62 96
n structure	46 11
n subject	26 -7 63 26
n submit	46 39
n subscribe	19 14 25 51 44 -15
n success	46 25
n suffix	42 18 46 22
n suggestions	46 21
n suite	1 12
n supp	1 53 46 -23
n switch	46 15
n t	46 11
n tabler	46 22 69 -14
n tag	6 18 15 16 16 22
n tax	46 -7 64 28
n taxes	46 15
n team	19 25 46 -13
n tel	50 12
n telefon	39 11 50 23
n telefonu	50 7
n telephone	50 9
n template	46 21
n term	46 -62 55 79
n termini	65 6
n terminos	65 6
n termos	65 7
n terms	65 40
n test	46 8
n text	36 13 46 41 48 28
n textarea	36 -10 46 50
n three	46 13
n ticket	46 11
n time	46 21 66 29
n tip	36 49 46 -25
n tipo	34 9
n titel	67 6
n title	19 -6 33 66 36 -14 46 -57 52 -6 62 -6 63 78 67 35
n token	46 47
n topic	34 8 46 21 63 -13
n total	46 33
n twitter	46 6
n two	46 13
n type	36 22 46 48
n u	46 22
n udaju	54 8
n uname	19 -7 46 9
n unit	1 6 17 39 46 -7 48 -8
n up	25 16
n url	46 27
n urodzenia	9 11 10 16
n us	59 13
n user	19 17 68 9
n username	19 28
n usuario	68 9
n utm	59 16
n v	26 12 28 -6 45 22
n val	1 12 5 7 6 -6 11 16 13 20 19 10 23 16 26 6 27 17 28 17 30 -6 31 -6 33 12 35 16 36 -9 44 -6 46 -75 47 -13 48 18 50 24 52 7 57 -9 58 16 62 22 64 -10 67 11 68 -6 69 20
n valid	46 11
n validation	11 13 23 12 28 12 46 -20 52 11 58 13
n vat	64 15
n vcard	23 7 26 -8 28 12 33 -8 37 18 42 -6 46 20 67 6
n verify	20 7
n version	46 10
n voelker	46 7
n voorwaarden	65 7
n vorname	28 42 37 7
n web	46 8 69 21
n website	69 6
n week	46 21
n weekly	46 6
n weui	46 -13 65 30
n who	23 16 26 -21 28 17 46 -6
n wojewodztwo	58 9
n workspace	26 -11 46 23
n wsj	46 21
n www	69 6
n x	2 45 3 -37 4 28 5 33 6 -14 7 -17 8 37 9 35 10 -14 11 11 12 35 13 -32 14 11 15 44 16 64 17 20 18 46 19 -50 20 21 21 29 22 20 23 -35 24 22 25 29 26 -32 27 -29 28 -18 29 27 30 21 31 47 32 29 33 -33 34 40 35 -10 37 28 38 27 39 -14 40 56 41 82 42 33 43 30 44 -6 45 18 46 -217 47 35 48 -38 49 32 50 -30 51 27 53 28 54 14 55 -8 56 30 57 18 59 35 60 26 61 36 62 -16 64 36 65 15 66 31 67 -10 69 -18 70 61
n year	5 -16 6 -10 7 -11 10 96 46 -8
n yyyy	70 6
n zamowienia	47 9
n zip	46 -6 48 -13 52 91
n мобильныи	39 6
n номер	50 7
n почта	19 6
n пошта	19 6
n саит	69 6
n телефон	39 6
n тип	46 6
n اكتب	46 15
n هنا	46 15
n 请输入qq号	46 8
n 请输入卡号	46 7
n 请输入号码	46 20
n 请输入手机号	39 14 46 -7
n 请输入文本	46 32
n 请输入验证码	46 6
n< 08eur	46 16
n< 92348	46 11
n< 98435	46 11
n< accou	57 6
n< achte	42 12
n< addit	36 -17 46 22
n< addre	0 16 1 60 11 -6 26 -9 52 -6 62 22
n< adres	0 -11 1 32 23 8 28 7 46 -6
n< akism	46 6
n< anspr	26 6
n< apart	1 12
n< apell	8 6
n< argum	46 30
n< auftr	47 10
n< autoc	46 21
n< besch	21 7
n< beste	47 37 57 10
n< betre	49 15
n< betri	48 6
n< billt	11 13 46 -16 52 10 58 12 62 12
n< birth	5 15 9 13
n< bleib	46 8
n< borro	26 23 46 -9
n< build	1 -9 30 25
n< bunde	58 8
n< busin	46 11 48 -14 64 21
n< calli	18 10
n< campa	59 8
n< categ	34 17
n< check	46 36 65 12
n< cogno	8 9
n< comma	46 -7 47 29
n< comme	25 41 36 6 59 6
n< commu	46 6
n< compa	48 7
n< compl	1 14 26 10
n< compo	36 24 46 -20
n< condi	65 23
n< confi	20 34 46 6 54 7
n< conse	12 23
n< conta	63 12
n< conte	36 36 46 -24
n< count	13 34 18 15 46 -8
n< curre	3 46 14 22 46 -22
n< custo	57 11
n< daten	54 14
n< datep	5 14 46 -8
n< datet	46 22
n< defau	65 18
n< depar	17 22
n< descr	36 -19 46 23
n< dipen	21 12
n< direc	62 9
n< displ	26 21
n< distr	11 -21 46 47 58 -11
n< emple	21 12
n< emplo	21 21
n< enabl	46 8
n< ender	0 7
n< enqui	34 15
n< event	46 9
n< factu	26 6
n< famil	23 9
n< first	28 20
n< follo	25 14
n< fonct	33 6
n< fullt	46 9
n< funct	33 6 36 -7 46 22
n< geboo	8 9 9 13
n< gebor	5 7
n< gebur	6 18 7 19 8 9 9 12 10 16 46 -7
n< handy	39 9
n< hecta	4 16
n< honor	67 10
n< housi	46 33
n< ident	31 12
n< impor	3 21
n< indic	18 13
n< infor	36 -13 46 16
n< inter	32 39 46 -8 69 10
n< inval	46 13 58 -6
n< kateg	34 17
n< keywo	39 -10 46 42
n< kieru	18 13
n< komor	39 12
n< konta	26 6
n< kunde	57 10
n< lande	18 15
n< langu	46 32
n< lastn	57 20
n< lette	44 9
n< local	11 7
n< locat	19 -7 46 36
n< looki	36 34 46 -18
n< maila	19 7
n< marke	46 6
n< medew	21 12
n< membe	57 9
n< messa	36 40 46 -15
n< miejs	9 12
n< miesi	16 7 40 7
n< minut	38 26
n< mitar	21 20
n< mitgl	57 15
n< mobil	39 16
n< multi	46 9
n< nachn	23 44
n< nacim	9 9 10 12
n< nacio	43 17
n< naiss	6 16 7 16 9 9 10 11
n< narod	43 9
n< nasci	9 12
n< natio	31 23 43 30 46 -9
n< nazio	43 9
n< nazwi	8 16 26 33
n< netts	69 6
n< newsl	44 41
n< occup	33 -20 46 26
n< orcha	48 6
n< order	46 -7 47 30
n< organ	46 -6 48 27
n< osobn	54 8
n< outwa	46 16
n< parti	64 6
n< passw	46 13
n< perso	31 15
n< plann	46 11
n< podmi	65 7
n< polit	54 13
n< porta	39 9
n< posit	33 8
n< postc	48 -10 52 61
n< praco	21 13
n< prefe	35 11
n< prefi	18 55
n< prijm	8 8
n< priva	54 35
n< produ	55 32
n< proje	26 -14 46 17
n< prope	46 16
n< provi	46 -7 58 30
n< przed	67 6
n< pseud	45 13
n< puhel	50 6
n< quant	56 24
n< quick	46 29
n< recap	0 8
n< recei	44 7
n< reche	46 12
n< recip	19 10
n< refer	57 10 59 6
n< regis	46 -17 54 22
n< reglo	19 14 46 10 68 -9
n< regul	46 18 65 7
n< reloa	25 14
n< remem	46 21
n< repor	46 8
n< respo	46 6 49 29
n< salut	67 8
n< samty	12 10
n< secti	46 8
n< secur	31 6 46 7
n< servi	17 12
n< settl	46 19
n< shipt	11 13 46 -16 52 11 58 12 62 12
n< start	60 9
n< stran	46 13
n< stras	48 -11 62 57
n< struc	46 11
n< subje	26 -7 63 26
n< subsc	19 14 25 51 44 -15
n< succe	46 25
n< suffi	42 23
n< sugge	46 21
n< telef	24 14 39 18 46 -8 50 57
n< telep	50 9
n< templ	46 21
n< termi	65 12
n< texta	36 -10 46 50
n< twitt	46 6
n< urodz	9 11 10 15
n< usern	19 28
n< usuar	68 9
n< utili	68 7
n< valid	11 13 23 12 28 12 46 -20 52 11 58 13
n< versi	46 10
n< visib	46 6
n< voelk	46 7
n< voorw	65 7
n< vorna	28 42 37 11
n< websi	69 6
n< wojew	58 9
n< works	26 -11 46 23
n< zamow	47 9
n< мобил	39 6
n< псевд	45 7
n< телеф	39 6 50 10
ne address more	17 29 46 -6 48 -7
ne area	46 6
ne city	11 67 46 17 48 -28 58 -7
ne day	5 -13 6 40 7 -11
ne email	19 32 48 -6
ne family name	23 19
ne full name	26 8
ne given name	28 18
ne message	25 21 36 25 46 -15
ne month	5 -15 6 -11 7 50 10 -9
ne name	46 19
ne phone	50 15
ne postcode	48 -24 52 61
ne privacy	65 7
ne start	19 10
ne street	48 -25 62 62
ne subject	26 -6 63 13
ne year	5 -13 6 -6 7 -9 10 41
nm address	0 124 1 24 13 -8 19 -10 30 -7 46 -8 52 -6 62 46
nm address more	1 101 17 27 30 18 46 -16 48 -9 52 -6
nm age	2 114 28 -6 46 19
nm amount	3 120 46 10
nm area	4 119 46 25 52 -6 58 -10
nm birth date	5 79 6 42 7 26 10 23 46 -19
nm birth day	6 65
nm birth month	7 66 46 -6
nm birth name	8 115 46 -10
nm birth place	9 103 46 -8
nm birth year	10 81 46 -6
nm captcha	46 74
nm city	11 182 26 -6 46 21 48 -29 52 -9 58 -12 62 -7
nm consent	12 133 46 -15 65 27
nm country	13 135 46 -14
nm currency	14 102 46 -14
nm date	0 -7 1 7 3 -7 5 17 6 -11 7 -7 10 -8 11 8 13 14 15 62 16 14 17 -6 18 -6 19 9 20 -7 21 -6 22 -8 23 9 25 -6 27 9 28 8 30 -8 31 -7 33 9 35 8 36 -10 37 -6 39 -7 44 -8 45 -6 46 32 47 -13 48 12 50 15 54 -7 55 -6 57 -10 58 10 60 9 62 12 64 -10 65 -9 67 6 68 -8 69 14
nm day	5 -17 6 74 7 -17 10 -9 16 77 46 -11
nm department	17 124 46 -11
nm dialling code	18 115
nm email	19 171 36 10 44 -7 46 -11 48 -9 60 -7 62 -6
nm email again	20 116 46 -10
nm employees	21 134 46 -17
nm end	22 106 46 16
nm family name	23 170 26 -13 28 -6 46 -20 52 -7 57 17 62 -6
nm fax	24 97 46 -9
nm follow-up	25 109 46 -10
nm full name	26 130 28 -9 46 23 63 10
nm gender	27 127 46 -17
nm given name	26 -18 28 172 46 -13
nm hour	29 108 46 -9
nm house number	30 132 46 -10
nm identity number	31 114 46 -10
nm interests	32 129
nm job	33 96 46 20
nm kind	19 -6 34 105 36 19 46 31
nm language	35 130
nm message	19 -6 25 18 36 132 44 -6 46 24
nm middle name	26 -7 28 -7 37 137 46 -12
nm minute	38 99 46 -9
nm mobile	39 169 46 -16 50 -6
nm month	5 -17 6 -18 7 73 10 -12 40 83 46 6
nm name	0 -7 1 -7 11 -7 13 -6 19 -10 23 -17 26 100 36 6 41 97 46 47 48 35 50 -7 52 -7 62 -12
nm name suffix	42 103 46 12
nm nationality	43 118 46 -10
nm newsletter	19 9 25 44 36 -6 44 135 48 -8 50 -6
nm nickname	26 -12 45 148 46 -13
nm ordered	46 -12 47 113
nm organisation	11 41 17 19 26 -8 33 -8 48 84 52 31 58 -6 62 29 64 6 67 -6
nm owner	46 -8 49 91
nm phone	50 185
nm photo	46 -9 51 104
nm postcode	11 -6 26 -8 48 -25 52 218 62 -9
nm price	46 -10 53 114
nm privacy	46 -14 54 140
nm product	46 -8 55 116
nm quantity	46 -7 56 117
nm reference	31 15 46 6 50 28 57 124 62 -6
nm region	11 -16 46 28 52 -8 58 129 61 35 62 -6
nm remember	46 78
nm search	0 -8 1 11 2 -6 3 -7 4 -7 5 14 6 17 7 10 8 -6 9 -6 10 6 11 12 12 -8 13 23 14 -6 16 -10 17 -8 18 -8 19 14 20 -7 21 -7 22 -7 23 13 25 -8 26 6 27 14 28 12 29 -6 30 -9 31 -8 32 -7 33 15 34 -6 35 13 36 -9 37 -7 39 -21 40 -11 41 -6 42 -6 43 -6 44 -9 45 -8 46 91 47 -8 48 7 49 -6 50 26 51 -6 52 11 53 -6 54 -8 55 -7 56 -6 57 -9 58 14 59 -7 60 -8 61 -7 62 21 63 -8 64 -9 65 -10 67 15 68 -6 69 25 70 -10
nm source	59 130
nm start	19 23 26 18 46 12 60 108
nm status	61 82
nm street	1 23 19 -6 26 -6 46 -12 48 -26 52 -8 62 178
nm subject	26 -8 46 11 63 100
nm tax number	46 -11 64 129
nm terms	46 -18 54 -6 65 155
nm time	46 15 66 83
nm title	18 33 46 -14 67 120
nm username	19 38 44 -7 48 -7 68 105
nm website	46 24 69 94
nm year	5 -17 6 -11 7 -12 10 69 46 -10 70 81
no label	0 10 1 20 2 15 4 9 5 38 6 -32 7 -28 10 -26 11 24 12 13 13 17 15 19 16 34 18 8 19 45 20 8 26 21 27 10 28 8 29 8 31 12 32 9 33 14 34 14 35 12 36 27 38 8 39 17 40 23 41 33 42 9 43 9 44 -12 45 8 46 42 47 10 48 11 49 10 50 46 51 8 52 16 53 9 54 -10 55 15 56 8 57 8 58 26 60 9 61 8 62 20 63 13 64 6 65 -11 67 14 68 -12 69 23 70 37
nw address	0 140 1 34 11 -8 13 -6 19 -7 46 -25 52 -7 62 26
nw address more	1 101 30 19 46 -10
nw age	2 114 28 -6 46 16
nw amount	3 106
nw area	4 120 46 8 52 -6 58 -9
nw birth date	5 120 6 19 46 -14
nw birth day	6 65
nw birth month	7 66 46 -6
nw birth name	8 115 46 -10
nw birth place	9 103 46 -8
nw birth year	10 81 46 -6
nw captcha	46 73
nw city	11 87 46 -12
nw consent	12 134
nw country	13 135 46 -14
nw currency	14 102 46 -14
nw date	0 -6 1 8 3 -6 6 -10 7 -7 10 -7 11 10 13 15 15 65 16 15 18 -6 19 11 20 -6 22 -7 23 11 25 -6 26 6 27 9 28 10 30 -7 31 -7 33 10 35 9 36 -9 37 -6 39 -6 44 -8 47 -12 48 13 50 17 52 6 54 -6 57 -10 58 12 60 11 62 13 64 -9 65 -8 67 8 68 -7 69 15
nw day	6 35 7 -6 16 77 46 -10
nw department	17 124 46 -11
nw dialling code	18 115
nw email	19 130 46 -15
nw email again	20 116 46 -10
nw employees	21 134 46 -17
nw end	22 106 46 16
nw family name	23 86 46 -13 57 18
nw fax	24 97 46 -9
nw follow-up	25 109 46 -10
nw full name	26 83 46 30
nw gender	27 127 46 -17
nw given name	28 85 46 -8
nw hour	29 108 46 -9
nw house number	30 132 46 -10
nw identity number	31 114 46 -10
nw interests	32 129
nw job	33 96 46 18
nw kind	34 132 46 6
nw language	35 130
nw message	36 116 46 22
nw middle name	37 116 46 -10
nw minute	38 99 46 -9
nw mobile	39 169 46 -16
nw month	6 -7 7 22 40 83 46 8
nw name	19 -6 23 -7 26 28 28 11 36 8 41 114 46 -45 48 42
nw name suffix	42 109 46 -15
nw nationality	43 118 46 -10
nw newsletter	19 -7 25 9 44 153
nw nickname	45 123 46 -10
nw ordered	46 -12 47 113
nw organisation	11 -16 17 -8 19 -6 46 19 48 166 50 -6 52 -13 62 -16 64 11
nw owner	46 -8 49 91
nw phone	50 140
nw photo	46 -9 51 104
nw postcode	46 -10 52 92
nw price	46 -10 53 114
nw privacy	46 -12 54 144
nw product	46 -12 55 120
nw quantity	46 -7 56 117
nw reference	31 15 46 6 50 28 57 124 62 -6
nw region	46 -26 58 138 61 36
nw remember	46 71
nw search	0 -7 1 12 2 -6 3 -7 4 -6 5 15 6 18 7 10 8 -6 9 -6 10 7 11 13 12 -8 13 24 16 -9 17 -7 18 -8 19 19 20 -7 21 -6 22 -7 23 15 25 -7 26 8 27 15 28 14 29 -6 30 -8 31 -8 32 -7 33 17 34 -6 35 14 36 -8 37 -6 39 -10 40 -11 41 -6 42 -6 43 -6 44 -8 45 -8 46 34 47 -8 48 8 49 -6 50 27 51 -6 52 13 53 -6 54 -8 55 -7 56 -6 57 -9 58 14 59 -7 60 -7 61 -6 62 22 63 -7 64 -9 65 -9 67 16 68 -6 69 25 70 -10
nw source	46 -8 59 131
nw start	19 14 26 19 60 115
nw status	46 -8 61 83
nw street	1 28 46 -8 62 67
nw subject	46 12 63 88
nw tax number	46 -11 64 129
nw terms	46 -14 65 142
nw time	46 9 66 83
nw title	18 33 46 -12 67 111
nw username	19 7 46 -15 68 117
nw website	46 -30 69 117
nw year	10 28 46 -7 70 81
n~ a	0 -7 1 14 3 -6 5 19 11 16 12 -7 13 33 16 -8 18 -7 19 20 20 -6 22 -7 23 20 26 8 27 23 28 23 30 -8 31 -9 33 21 35 23 39 -12 44 -8 45 -7 46 -92 47 -9 48 18 50 41 52 13 54 -7 55 -7 57 -9 58 17 59 -6 60 -7 62 37 63 -8 64 -10 65 -7 67 22 69 34 70 -7
n~ an	46 -6 70 23
n~ cc	46 20
n~ de	6 14 7 14 8 16 9 16 10 21 47 11 64 6
n~ do	19 -7 22 22 37 6 46 6
n~ from	19 31 26 25 46 -9 60 -13
n~ to	19 53 49 22 54 -6 65 8
n~ von	60 22
options few	5 -6 13 -8 19 -26 27 16 33 -9 35 53 36 -16 39 -8 44 -20 46 94 50 -13 55 80 62 -6 63 -20 65 -6 67 37 68 -6 69 -12
options genders	27 21 46 -11
options months	6 -8 7 26 46 -9
options some	1 -6 5 -6 6 -12 7 22 11 -9 13 52 14 7 19 -26 26 -7 33 19 36 -13 39 -9 44 46 46 96 50 -15 52 -8 55 -11 58 36 62 -7 67 -8 69 -13
options titles	46 -29 67 47
options yes or no	46 6
p 16位数卡号	46 11
p 92348h	46 9
p 984353hfid	46 9
p acme	26 -19 46 32
p add	46 16
p address	0 41 19 7 36 -6 46 -16
p apartment	1 15 62 -7
p az	23 10 46 -7 68 19
p captain	46 12
p city	46 6
p com	19 20 46 -10
p company	19 19 46 -10
p cool	26 15 46 -8
p corp	26 -10 46 22
p csaladneve	23 11
p date	46 15
p datetimepicker	46 6
p eg	26 -19 46 41
p em	46 8
p email	19 15 36 12 46 -11
p emprego	33 20 46 -8
p felhasznaloi	68 20
p floor	1 15 62 -7
p full	26 6
p functietitel	33 20 46 -8
p here	46 9
p home	0 8
p james	26 9
p keywords	46 13
p kirk	26 9
p like an e-mail	19 20 46 -10
p love	36 33 46 -17
p main	0 -9 1 -6 62 19
p message	36 14 46 -9
p michael	19 19 46 -10
p munkakor	33 13
p name	26 16
p nasd	46 9
p neve	33 13 46 -9 68 20
p note	36 -25 46 26
p number	50 18
p numele	46 -6 68 20
p papel	46 8
p phone	50 18
p problem	36 -19 46 20
p projectrol	46 10
p projekcie	46 9
p projekt	46 9
p projektben	46 10
p projeto	46 8
p proyecto	46 6
p redesign	26 -9 46 11
p report	26 -8 46 10
p required	19 7
p rol	46 6
p rola	46 9
p rolle	46 9
p sarah	19 19 46 -10
p select	46 11
p solving	36 -19 46 21
p st	0 -9 1 -6 62 19
p stanowisko	33 18 46 -7
p state	46 6
p stillingsbetegnelse	33 21 46 -7
p studio	1 15 62 -7
p szerepkor	46 10
p t	26 9
p tag	46 9
p title	46 13
p titulo	33 20 46 -8
p type	36 -25 46 30
p u	46 9
p um	46 8
p un	46 6
p untouched	46 7
p url	69 10
p utilizator	46 -6 68 20
p website	26 -9 46 11
p what	36 14
p в	46 11
p проекте	46 11
p роль	46 11
p 填写本人微信号	46 26
p 填写本人微信号的昵称	45 15
p 填写绑定的电话号码	46 -17 50 33
p 请输入	46 11
p 请输入qq号	46 6
p 请输入号码	39 6 46 34
p 请输入手机号	39 18 46 -11
p 请输入持卡人姓名	46 18
p 请输入金额	3 47 46 -23
p< 98435	46 9
p< addre	0 41 19 7 36 -6 46 -16
p< apart	1 15 62 -7
p< capta	46 12
p< compa	19 19 46 -10
p< csala	23 11
p< datet	46 6
p< empre	33 19 46 -8
p< felha	68 20
p< funct	33 20 46 -8
p< keywo	46 13
p< messa	36 14 46 -9
p< micha	19 19 46 -10
p< munka	33 13
p< probl	36 -19 46 20
p< proje	33 -15 46 46
p< proye	46 6
p< redes	26 -9 46 11
p< requi	19 7
p< solvi	36 -19 46 21
p< stano	33 18 46 -7
p< still	33 21 46 -7
p< szere	46 10
p< untou	46 7
p< utili	46 -6 68 20
p< websi	26 -9 46 11
p< проек	46 11
p< 填写本人微	45 15 46 22
p< 填写绑定的	46 -17 50 33
p< 请输入持卡	46 18
pe message	36 -11 46 17
pe postcode	46 6
pm address	0 41 46 -14
pm address more	1 15 62 -7
pm city	46 8
pm date	46 25
pm email	19 22 36 11 46 -14
pm full name	26 6
pm job	33 33 46 -12
pm kind	36 -25 46 30
pm message	36 -12 46 22
pm name	26 8
pm organisation	19 19 46 -11
pm phone	50 18
pm region	46 6
pm search	46 16
pm website	26 -9 69 10
pw address	0 41 46 -14
pw email	19 10
pw full name	26 6
pw job	33 18 46 -7
pw phone	50 18
pw website	69 7
q billing	0 -23 1 -15 11 31 13 16 19 11 23 14 26 56 28 14 30 21 41 -10 46 -35 50 7 52 49 57 10 58 13 62 52
q delivery	0 -35 1 -13 11 47 13 20 19 11 23 39 26 86 28 37 30 27 41 -12 46 -24 50 15 52 48 62 42
q else	1 -7 11 65 19 54 23 78 26 143 28 77 34 27 36 -11 39 -6 41 -25 46 -32 48 -8 50 39 52 72 62 67
q home	0 19 30 11
q previous	8 18
q second	26 -6 28 -6 37 70 46 6
q work	17 14 19 17 21 15 23 -11 46 73 48 -54 52 -7 62 -6 64 55
qs billing	34 -6 46 19
qs delivery	1 12 26 -7 46 8 52 16 62 -14
qs else	26 15
qs work	19 -9 26 6 36 7 46 47 48 -8 64 -7
s 600px	46 8
s abide	2 -7 20 24
s account	0 -9 1 14 46 -17 67 30
s add	26 -21 46 34
s address	1 12 26 -7 46 8 52 16 62 -14
s adresse	13 -8 58 12 62 6
s advanced	7 -6 40 -16 46 54
s alerts	46 6
s all	52 7
s announces	65 7
s article	19 33 60 -12
s b	52 7
s bar	26 8 46 10
s be	46 6
s beallitasok	23 11 35 20 46 -18
s big	46 14
s billing	34 -6 46 19
s bind	19 -6 23 22 28 25 46 6
s binding	18 -11 23 -8 34 -10 39 13 46 12 52 30 57 39 58 -6 62 -11
s borrower	26 14 46 12 52 14 58 -20
s box	19 7 36 12 46 -11
s brent	65 7
s business	19 -10 26 7 46 47 48 -8 64 -7
s by	46 7
s calendar	46 27
s cambodia	46 6
s changed	46 24
s chat	36 24 46 -8
s cheapest	46 8
s check	11 -7 19 -14 46 31
s cim	58 16
s city	46 26
s comment	25 7 26 11
s comments	25 6
s complex	0 -14 1 8 58 7 62 13
s components	46 -8 54 14
s connect	46 9
s contact	0 13 46 -6
s container	24 6 46 18 52 9 62 -6
s controls	7 -6 40 -16 46 54
s count	26 -23 46 37
s cowboys	65 7
s create	0 -9 1 14 46 -23 67 30
s crunchbase	36 26 46 -14 63 6
s data	5 -6 6 23 7 12 10 11 18 -11 19 -6 23 9 26 -20 28 11 34 -10 39 12 46 7 52 28 57 38 62 -11
s date	7 6 10 7
s datepicker	46 25
s david	46 14
s deadline	46 14
s deals	46 8
s default	26 8
s defensive	65 7
s demo	11 -7 19 -16 44 -6 46 51
s deprecated	26 9
s detail	24 6 46 14
s dialog	36 -18 46 29
s dialogs	15 -6 26 26 36 -22 46 41
s dijit	26 -8 28 12 33 -27 46 69 50 -9
s direccion	62 9
s discussion	26 7 46 -11
s drilldown	26 8
s dropdown	26 13 46 8
s edit	0 7
s editor	36 -18 46 29
s electricity	46 8
s elements	36 -27 46 61 48 -8
s email	19 40 36 13 46 -9 60 -13
s emails	46 6
s enquiry	46 11
s episode	46 14
s error	20 24 46 -10
s europe	39 -19 46 31
s example	18 -11 19 -10 23 -10 24 6 34 -10 36 -6 39 12 46 34 52 36 57 38 62 -12
s expenses	46 44
s faceboo	26 7 46 -11
s felhasznaloi	23 11 35 20 46 -18
s fields	2 -7 46 49 55 -6
s find	46 15
s firma	26 -27 48 36
s fixed	46 12
s forms	22 -17 26 -9 36 -22 46 84 60 -12
s free	39 -19 46 31
s friend	26 15
s from	1 -6 23 13 26 -20 28 12 52 17 58 13 62 20
s game	46 6
s gas	46 8
s geburtsdatum	6 14 7 15 10 11 46 -15
s gender	27 11
s general	15 -6 26 26 36 -22 46 41
s generate	46 13
s get	46 6
s got	36 19
s group	52 10 57 6
s haswell	44 -6 46 20
s hello	46 15
s hi	36 33 46 -19
s hierarchical	18 -11 34 -10 39 13 46 24 57 19 62 -6
s horizontal	46 6
s income	3 -13 46 44
s information	0 12 26 14 46 10 52 14 58 -20 62 -6
s inputs	19 -22 46 102
s inregistrare	46 -6 68 20
s inside	26 8 46 10
s insider	26 7 46 -11
s intel	44 -6 46 20
s invalid	26 -7 28 16 46 -8
s invites	19 7 36 12 46 -11
s item	26 -19 36 -12 46 46
s jobs	46 19
s join	26 7 46 -11
s josh	65 7
s kitchen	52 7
s launches	19 7 36 12 46 -11
s layout	0 -14 1 8 58 7 62 13
s lead	33 6 46 -13
s liberty	39 -19 46 31
s lieberman	46 14
s lineman	65 7
s list	23 17 26 -19 28 14 46 13
s lists	46 15
s logged	46 6
s login	26 7 46 -7
s ltr	2 -9 26 31 46 14
s management	46 11
s master	24 6 46 14
s md	44 40 46 -27
s media	46 14
s member	44 9 46 -45 47 48
s menu	26 15 46 -8
s message	36 21 46 19
s messages	20 24 46 -10
s mixed	52 7
s model	23 17 26 -19 28 14 46 11
s models	23 17 26 -19 28 14 46 13
s money	46 6
s multiline	26 18
s must	46 6
s nak	23 11 35 20 46 -18
s navbar	46 12
s nested	26 14 46 8
s new	26 -45 36 -25 46 105
s newsletter	44 -8 46 16
s newsletters	44 40 46 -27
s no	46 6
s nod	0 -9 1 14 46 -19 67 30
s non	46 16
s office	46 6
s onboarding	19 18 26 -10 46 15
s one	46 15
s order	14 8 46 -23 47 17
s organisation	26 -22 46 -7 48 33
s original	23 17 26 -19 28 14 46 13
s partners	1 -6 46 -14 52 19 58 11 62 19
s people	46 15
s persisted	46 16
s phon	46 15
s picker	26 32 46 8
s post	25 7 26 11 46 -9
s preview	46 8
s pro	44 -6 46 20
s profile	0 7 33 13 46 35 48 -6 64 -7
s push	46 6
s radio	39 -19 46 31
s rainsy	46 6
s ref	52 7
s refs	52 7
s regisztracio	68 20
s related	19 -10 26 6 46 26
s repeat	24 6 46 12
s replace	23 17 26 -19 28 14 46 13
s report	26 -21 36 -19 46 52
s retirement	65 7
s rev	19 7 36 12 46 -11
s rows	26 -23 46 37
s rtl	26 55 46 27
s run	46 6
s sam	46 6
s say	36 33 46 -19
s sdk	19 7 36 12 46 -11
s search	46 24
s select	1 25 13 -10 19 -11 46 -7 55 31 58 6
s selected	26 -34 36 -8 46 60
s self	19 -6 23 22 28 25 46 6
s send	26 13 36 21 46 14
s services	19 -13 46 22
s set	0 21 46 -6
s share	19 43 46 9 48 -16
s shipping	1 12 26 -7 46 8 52 16 62 -14
s sign	65 6
s simple	46 11
s simulated	36 -18 46 29
s sink	52 7
s sony	44 -6 46 20
s specify	52 7
s sponsors	1 29 13 -10 19 -13 46 -17 52 6 55 37 58 6
s start	0 -9 1 14 46 -19 67 30
s state	26 -7 28 16 46 -8
s states	46 30 58 -12
s step	50 18
s story	19 43 46 9 48 -16
s submit	26 -23 46 38
s subscribe	46 12
s sug	0 21 46 -7
s suggestions	0 21 46 -6
s tabler	46 22 69 -7
s take	36 -11 46 27
s team	26 -21 46 29
s tell	36 19
s term	1 25 13 -9 19 -10 46 -13 52 6 55 31 58 6
s test	26 -30 28 15 46 30
s tests	19 -6 23 22 28 25 46 6
s text	2 -7 46 9
s their	46 15
s time	46 9
s tip	36 19
s todo	26 9
s top	26 8 46 10
s total	46 24
s transactions	3 14
s ui	36 -27 46 61 48 -8
s underlined	23 -12 26 32 46 -8
s up	65 6
s update	46 23
s urodzenia	6 22 7 8 10 7 46 -15
s us	36 28 46 -10
s user	46 11
s username	23 14 35 37 46 -31
s using	0 -9 1 14 46 -21 67 30
s usuario	35 7
s vaio	44 -6 46 20
s valid	26 -7 28 16 46 -8
s validate	11 -7 19 -14 46 31
s validation	33 -27 46 104 50 -10 58 -11
s verification	50 18
s video	44 -6 46 20
s videos	19 -11 46 31
s voa	46 17
s want	36 8 46 -6
s ways	52 7
s web	44 40 46 -27
s week	44 -8 46 16
s welcome	46 22 69 -7
s when	46 23
s wide	46 8
s widget	46 15
s widgets	33 -27 46 77 50 -9
s within	26 15 46 -8
s wizard	19 18 26 -10 46 15
s work	36 8 46 -6
s yet	46 6
s адреса	46 20
s адресу	0 18 46 6
s в	0 19 46 -6
s ввод	46 9
s ввода	46 11
s все	46 32
s вызове	0 21 46 -6
s гранулярные	46 31
s для	46 11
s ограничиваем	0 19 46 -6
s однои	46 9
s ошибка	0 21 46 -6
s по	0 18 46 25 52 -6
s подсказках	0 19 46 -6
s подсказки	46 31
s поиска	0 19 46 -6
s поля	46 32
s при	0 21 46 -6
s сектор	0 19 46 -6
s строкои	46 9
s фиас	46 19
s форма	46 11
s 内联日历	46 6
s 原生选择框	46 22
s 底部悬浮表单	39 15 46 -13 65 9
s 模拟选择框	46 33
s 表单	13 19 19 -6 46 77 50 -8 65 9
s 表单结构	0 31 36 -6 45 14 46 15 50 27
s 输入框状态	3 42
script cyrillic	0 40 2 11 3 13 4 -6 7 -6 8 -6 10 -6 12 10 16 7 17 20 18 -8 19 7 21 -6 22 -8 23 -7 25 -6 28 -13 30 19 31 -9 32 -6 33 -15 34 -6 35 10 37 18 40 16 41 35 43 11 44 33 45 6 46 25 47 -10 48 28 49 -6 50 6 52 -7 53 -6 54 8 55 -15 56 -6 57 -12 58 12 59 -6 60 -7 61 -10 65 -10 68 10 70 15
script east asian	0 17 1 -13 3 23 10 -6 12 -7 13 29 17 -7 22 -9 26 12 27 10 30 -9 31 -7 35 -11 39 34 41 -6 44 -14 45 14 46 124 47 -8 48 -9 50 25 54 -8 55 -8 57 -9 58 13 60 -8 61 -6 62 -14 64 -11 65 26 67 -11 68 -7 69 -11
script other	0 -38 1 40 2 17 4 32 5 20 6 35 7 34 8 32 9 30 10 33 11 27 12 21 13 7 14 34 15 22 16 17 17 11 18 37 19 62 20 35 21 37 22 41 23 43 24 29 25 42 28 39 29 31 31 40 32 33 33 25 34 30 35 26 36 40 37 11 38 29 39 -19 40 6 41 -7 42 30 43 19 44 -6 46 99 47 46 48 14 49 32 50 46 51 30 52 29 53 32 54 23 55 48 56 32 57 40 59 34 60 40 61 39 62 55 63 11 64 38 66 27 67 34 68 10 69 38 70 7
script right to left	0 8 13 -6 26 50 46 47
several	13 -6 19 45 36 -7 44 51 46 47 50 -7 52 -7 58 -6 62 -14
sm address	1 9 13 -6 26 -9 46 17 52 10 58 31
sm amount	46 24
sm birth date	6 51 7 46 10 40 16 -6 40 -15 46 -42 70 -11
sm city	46 32
sm date	18 -11 19 -6 23 10 26 -20 28 11 34 -10 39 12 46 24 52 29 57 38 62 -10
sm email	19 40 36 13 46 -9 60 -13
sm full name	0 13 46 -6
sm gender	27 11
sm message	25 13 26 9 36 17 46 36
sm newsletter	44 31
sm organisation	19 -10 26 -43 46 36 48 61 64 -6
sm product	19 32 26 -20 36 -12 46 41 60 -12
sm quantity	26 -23 46 37
sm region	26 -7 28 16 46 -8
sm search	46 24
sm start	0 -13 1 8 23 11 26 -20 28 11 46 -21 52 16 58 14 62 17 67 28
sm time	46 9
sm username	23 13 35 37 46 -27
sm website	44 40 46 -30
strange label	1 36 2 -25 3 48 4 -26 5 94 6 -11 7 -40 8 -25 9 -24 10 -43 11 9 12 6 13 35 14 -25 15 -34 16 -28 18 -33 19 88 20 -27 21 -29 22 -7 24 -24 25 -29 26 31 27 33 28 12 29 -25 30 -7 31 31 32 -27 33 55 34 -25 35 30 36 60 37 -32 38 -23 39 -50 40 -20 41 -23 42 -24 43 -26 44 -21 45 -35 46 132 47 76 49 11 50 45 51 -24 52 34 53 -25 54 -21 55 32 56 -26 57 45 58 24 59 -27 60 -41 61 -30 62 42 63 -24 64 66 65 -13 66 -22 67 49 68 12 69 37 70 -22
strange name	0 14 1 47 3 15 4 -10 5 81 6 -41 7 -19 10 -23 11 43 13 73 15 8 16 29 17 -14 18 -6 19 71 21 -14 22 20 23 41 25 -11 26 66 27 32 28 34 29 -8 30 6 31 16 32 -11 33 57 35 30 36 45 37 -7 38 -6 39 16 40 8 41 6 43 -8 44 9 46 153 47 38 48 54 49 8 50 63 51 -7 52 54 53 -9 55 26 56 -8 57 22 58 55 59 -8 60 7 61 -6 62 49 63 24 64 27 65 -16 67 43 69 56 70 28
t date	5 52 19 -23 22 24 36 -13 39 -6 46 17 47 45 50 -9 60 29 69 -7
t date and time	46 18 47 20
t email	5 -12 13 -9 19 231 20 34 26 14 35 -6 36 -13 39 -9 44 -7 46 -19 47 -6 48 -7 50 -24 58 -6 62 -9 65 -6 67 -6 69 -17
t file	19 -7 46 37
t long text	0 36 1 -9 3 -6 5 -9 11 -6 13 -11 19 -26 23 -10 26 12 27 -7 28 -12 33 -11 35 -8 36 200 39 -16 44 -13 46 41 47 -7 48 -8 50 -27 52 -11 54 -8 55 -10 57 -6 58 -9 62 36 63 78 64 -6 65 -11 67 -11 69 -20
t number	3 17 5 -6 10 27 13 -8 19 -23 21 17 26 -7 33 -8 36 -11 39 92 44 -8 46 89 50 24 57 -11 58 -6 62 -6 65 -7 67 -6 69 -12
t option	1 -8 3 -6 5 -14 6 53 7 58 10 23 11 -12 13 62 14 29 19 -43 23 -10 26 -16 27 16 28 -9 33 7 35 49 36 -27 39 -17 44 -28 46 105 47 -7 48 -7 50 -26 52 -13 54 -8 55 66 57 -6 58 37 62 -14 63 -22 64 -7 65 -11 67 28 68 -8 69 -24
t options	19 -14 44 53 46 35
t phone	5 -7 13 -8 19 -16 26 -6 35 -6 36 -7 39 109 44 -7 46 -15 50 218 62 -7 65 -6 69 -14
t text	0 14 1 63 2 32 3 45 4 31 5 35 6 -6 7 -14 8 33 9 30 10 -6 11 63 12 37 13 29 14 7 15 22 16 32 17 41 18 37 19 -38 20 8 21 17 22 25 23 76 24 30 25 -10 26 74 27 41 28 73 29 30 30 37 31 41 32 34 33 51 34 31 35 15 36 -39 37 36 38 29 39 -112 40 29 41 29 42 30 43 33 44 -56 45 37 46 -6 48 77 49 32 50 -66 51 29 52 79 53 31 54 -22 56 32 57 54 58 27 59 33 60 17 61 34 62 60 63 -19 64 56 65 -48 66 30 67 34 68 42 69 -61 70 31
t time	46 25
t web address	13 -7 19 -15 46 -35 50 -19 69 199
t yes/no	3 -7 5 -12 13 -9 19 -59 23 -9 25 61 26 -7 27 -6 28 -8 33 -8 35 -8 36 -27 39 -15 44 88 46 95 47 -7 48 -12 50 -26 52 -11 54 80 55 -7 58 -7 62 -10 64 -6 65 118 67 -8 68 -10 69 -14
with birth date	0 -37 3 -9 5 188 6 34 7 36 10 34 11 -6 13 15 19 -10 22 -8 23 16 26 -34 27 35 28 17 30 20 31 -6 33 -13 35 -11 36 -6 39 13 41 -11 45 -12 47 34 48 -10 50 -6 52 -19 54 -8 55 -15 58 -6 60 -7 62 19 64 -16 65 -11 67 43 68 -6 69 -11
with city	0 11 1 20 3 -32 4 -10 5 15 6 14 7 7 10 9 11 178 16 -7 17 28 18 -16 19 -7 22 -19 23 -14 27 -17 28 -18 30 72 31 -7 33 11 34 -14 35 -18 36 -10 37 21 41 -17 42 -9 44 -11 45 19 46 71 47 40 50 6 52 61 54 -10 55 36 57 27 58 31 60 -15 61 -7 62 20 63 -11 64 47 65 -15 67 49 68 -8 69 -19 70 -7
with day	0 -7 1 -11 5 -8 6 24 7 41 10 43 11 -14 16 178 17 37 19 -20 23 -19 26 26 27 -7 28 -13 30 -9 33 15 35 -7 36 -6 37 27 40 -17 42 -9 45 29 46 -22 48 -9 50 -9 55 -12 57 -6 58 15 64 -24 67 20 70 -16
with email	1 21 2 -18 3 92 5 16 6 -15 7 -15 10 -16 12 -17 13 -19 14 23 16 -6 17 -13 18 -18 19 97 20 18 22 45 23 26 24 14 26 20 27 10 28 29 30 -13 31 -11 32 -6 33 21 34 -15 36 29 37 -10 40 -20 41 -20 44 69 45 -31 46 51 47 34 48 23 49 -7 50 13 52 24 54 58 55 54 57 63 58 21 59 -9 60 26 61 -6 62 49 63 -16 64 27 65 36 66 -6 67 14 68 30 69 -6
with family name	1 16 2 -20 3 -21 5 26 6 12 10 6 12 -6 14 -6 16 -8 17 27 18 -17 19 18 21 9 22 32 23 145 24 15 25 -6 26 -42 27 16 28 23 30 -28 31 -8 33 20 34 -15 35 16 37 20 39 25 40 -6 41 -13 42 -10 45 25 46 17 47 -19 48 -10 50 7 52 50 54 -9 55 27 57 34 58 40 60 35 62 19 63 -7 64 30 65 29 67 43 68 26 69 -16 70 -8
with full name	0 7 3 67 5 -12 15 -9 19 13 22 -7 25 6 26 134 27 -10 30 -10 31 -6 33 -8 35 -9 36 43 44 16 46 -22 47 -9 48 -6 50 -7 52 25 54 16 55 87 57 31 58 -9 60 -6 62 -11 63 25 64 -18 67 -15 68 -6
with given name	1 18 2 -20 3 -21 5 12 6 10 11 6 12 -6 14 -6 16 -7 17 28 19 31 21 12 22 41 23 27 24 15 25 -6 26 6 27 16 28 150 30 27 31 -8 33 27 35 29 36 14 37 21 39 15 41 -20 42 -8 46 -19 47 -17 48 -11 50 -12 52 41 54 -9 55 29 57 -23 58 35 60 34 62 11 63 -8 64 47 65 29 67 16 68 25 69 -16 70 -7
with job	0 -6 1 -11 2 -9 5 -9 11 -11 17 24 21 15 23 15 26 -8 30 -8 33 208 37 7 41 -7 42 -8 44 -6 45 9 46 63 50 -15 52 9 55 -11 57 -9 58 -14 62 -8 64 -19 65 -6
with message	0 -26 1 -19 2 -6 3 86 5 10 6 -7 7 -6 10 -7 11 -12 12 -6 13 -15 15 -9 18 -6 19 29 22 39 23 22 25 38 27 -16 28 22 30 -9 31 -8 33 -11 35 -15 36 195 39 10 41 -26 45 -11 46 49 48 -21 52 -20 54 18 55 56 57 35 58 -16 60 32 61 -6 63 20 64 -17 65 -10 67 -18 68 -9 69 -9
with month	0 -11 1 -16 3 -9 5 -16 6 80 7 48 10 63 11 -18 16 -18 17 34 19 -37 22 -7 23 -25 26 25 27 -11 28 -18 30 -11 31 -6 33 21 35 -11 36 -12 37 26 39 -13 40 208 42 -10 44 -9 45 27 46 115 47 -8 48 -13 50 -22 54 -6 55 -18 57 -17 58 9 60 -7 64 -28 65 -8 66 -6 67 13 68 -6 69 -13 70 -23
with organisation	0 -7 1 -6 3 -17 5 -7 6 16 7 8 10 11 11 42 12 -6 13 -12 16 -8 17 27 18 -6 19 15 21 15 22 -11 23 13 25 -6 27 -16 28 9 30 8 31 -8 33 52 35 -15 36 -23 37 21 39 -13 40 -6 41 -11 42 -10 44 -14 45 17 47 -12 48 169 50 21 52 31 54 -10 55 -30 57 -11 58 16 60 -11 61 -6 62 46 64 95 65 -14 67 39 68 -8 70 -7
with street	0 30 1 54 3 -7 4 -9 11 -22 17 35 18 -16 19 47 22 -8 23 11 27 -9 30 80 31 -6 33 -22 34 -13 35 -12 36 -9 37 13 41 -13 45 -8 46 -23 47 45 50 18 52 47 54 -7 55 48 57 40 60 -6 62 126 63 -10 64 45 65 -9 67 20 68 -7 69 -15
with subject	1 47 3 -13 5 -10 11 -7 13 -28 19 14 22 -6 26 -6 27 -9 30 -7 31 -6 33 -10 35 -43 36 93 41 -6 44 -21 46 37 47 -9 48 -11 50 -19 54 27 55 61 60 -10 62 -15 63 203 64 -11 65 -9 67 -12 69 -18
with username	0 18 3 -8 19 6 22 -6 26 -19 27 -7 33 -9 35 -8 36 -22 39 -7 41 -6 44 20 45 -6 46 13 50 -12 52 -7 54 -8 55 -10 57 -7 62 -26 64 -9 65 52 67 29 68 213 69 -7
with website	1 47 2 -6 3 -11 5 -9 7 -8 10 -6 11 -7 13 -28 19 31 21 16 22 -6 23 -19 25 13 26 -9 28 -16 30 -8 35 -9 36 13 39 -10 40 -19 41 -10 44 -14 46 86 47 36 48 28 50 -7 54 -9 55 62 60 -10 62 -17 63 -14 64 -11 65 -9 67 -13 69 182
with year	0 -9 1 -12 5 -13 6 84 7 72 10 53 11 -16 13 -6 16 -18 17 36 19 -22 23 -22 26 31 27 -8 28 -16 30 -10 33 25 35 -8 36 -7 37 27 39 -7 40 -27 42 -9 45 29 46 -67 48 -10 50 -11 55 -13 57 -7 58 12 64 -27 67 17 69 -6 70 190`;
/** Whose a field is. */
export const WHOSE_WEIGHTS = `nobody	somebody else	the bill	the delivery	the matter	the visitor	their organisation
47 -56 -61 -59 -28 65 -44
a address-level1	0 -34 4 -14 5 59 6 -6
a address-level2	0 -34 4 -14 5 59 6 -6
a address-line1	0 -34 4 -14 5 59 6 -6
a address-line2	0 -34 4 -14 5 59 6 -6
a bday	0 -34 4 -14 5 59 6 -6
a country	0 -34 4 -14 5 59 6 -6
a country-name	0 -34 4 -14 5 59 6 -6
a email	0 -34 4 -14 5 60 6 -7
a family-name	0 -34 4 -15 5 60 6 -6
a given-name	0 -34 4 -14 5 59 6 -7
a honorific-prefix	0 -34 4 -14 5 59 6 -6
a language	0 -34 4 -14 5 59 6 -6
a name	0 -34 4 -14 5 59 6 -6
a organization	0 -65 4 -33 5 -157 6 265
a organization-title	0 -34 4 -14 5 59 6 -6
a postal-code	0 -34 4 -14 5 59 6 -6
a sex	0 -34 4 -14 5 59 6 -6
a street-address	0 -34 4 -14 5 59 6 -6
a tel	0 -34 4 -14 5 59 6 -6
a tel-national	0 -34 4 -14 5 59 6 -6
a url	0 -34 4 -14 5 59 6 -6
after address	0 -7 1 -13 3 15 4 -16 5 30 6 -9
after age	0 31 5 -23
after amount	4 22 5 -20
after birth date	0 16
after city	0 34 1 -8 2 10 3 20 4 -21 5 7 6 -38
after country	0 -28 5 43 6 -6
after currency	0 16 5 -13
after date	0 103 5 -92
after day	0 -15 5 24
after dialling code	0 -6 4 -14 5 24
after email	0 70 1 -21 2 -32 3 13 6 -20
after end	0 27 4 -29
after family name	0 46 1 -10 2 -10 3 -12 4 -19 5 32 6 -21
after full name	0 13 1 -6 4 -36 5 45 6 -9
after given name	0 22 1 -12 2 -9 3 -11 4 -16 5 47 6 -10
after house number	0 -6 5 19 6 -9
after interests	0 11 5 -9
after job	0 25 5 -9 6 -7
after kind	0 20 4 -10
after language	0 23 4 -11 5 -9
after message	0 54 1 7 4 -44 6 -7
after mobile	3 -6 4 40 5 -40 6 17
after month	5 16
after name	0 63 1 -20 2 -8 4 -42 5 7
after name suffix	0 -6 5 8
after newsletter	0 -33 1 10 4 -9 5 35
after nickname	0 16 5 -8
after organisation	0 9 1 33 4 -13 5 -40 6 22
after phone	4 9 5 17 6 -12
after postcode	0 19 1 -8 2 17 3 -21 4 -12 6 10
after product	0 13 4 -9
after reference	0 15 4 49 5 -48 6 -8
after region	0 32 1 -8 2 7 3 32 4 -31 6 -28
after search	0 41 1 -10 2 -6 4 -8 5 -41 6 30
after source	0 10 5 -7
after start	0 13 1 63 4 -14 5 -55
after status	0 7
after street	0 -45 1 -9 3 47 4 -18 5 21 6 6
after subject	0 -38 4 63 5 -18
after tax number	5 -10 6 19
after time	5 9
after username	0 -7 5 24
after website	0 -27 1 46 4 13 5 -49 6 24
after year	0 -8 5 9
before address	0 -22 4 7 5 13
before age	4 -8 5 11
before amount	0 24 4 6 5 -24
before birth date	0 -6 5 18
before city	0 33 1 -11 4 -36 5 7
before consent	0 -18 5 21
before country	0 10 4 -6 5 15 6 -6
before currency	0 -6 4 16
before date	0 51 5 -34 6 -7
before day	0 -8 5 9
before department	5 -6 6 8
before dialling code	0 -10 5 17
before email	0 -8 1 17 2 -10 3 -17 4 -33 5 57
before email again	5 6
before employees	5 -23 6 24
before end	0 20 4 -7 5 -9
before family name	0 -20 1 -12 2 -7 3 -9 4 68 6 -14
before follow-up	0 -21 4 32 5 -7
before full name	0 36 3 -22 4 53 5 -63
before given name	0 -73 1 -8 2 -7 3 -7 4 75 6 23
before house number	5 18 6 -7
before job	0 -18 5 32 6 -7
before kind	0 50 1 -6 4 -18 5 -16 6 -6
before language	5 7
before message	0 18 1 -9 2 -6 4 22 5 12 6 -27
before mobile	0 29 4 -16 5 18 6 -17
before month	0 -28 2 49
before name	0 47 1 -7 2 -7 4 -29 5 7 6 -8
before newsletter	0 -38 4 8 5 48 6 -6
before nickname	0 15
before ordered	5 7
before organisation	0 18 5 -60 6 51
before phone	0 -11 4 -34 5 68
before postcode	0 -54 2 11 3 29 4 -17 5 43
before privacy	0 -31 5 34
before product	4 34 5 -29
before reference	0 49 5 -64 6 23
before region	0 43 1 -10 3 22 4 -16 5 -18 6 -21
before remember	0 10
before search	0 25 1 44 4 -13 5 -40 6 -8
before source	0 11 5 -13
before start	0 9 1 38 4 -11 5 -26 6 -7
before status	0 6
before street	0 -6 1 -10 2 -28 3 45 4 -30 5 -48 6 78
before subject	0 -14 1 -6 5 33 6 -6
before tax number	4 -14 5 -13 6 35
before terms	0 -6 1 11
before time	5 9
before username	5 12
before website	1 -8 4 -11 6 24
before year	0 6
both address	0 15 3 -12
both age	0 16 5 -13
both amount	0 15 5 -6
both birth date	0 -6 5 13
both city	1 7 4 -6 5 -31 6 39
both country	5 6
both date	0 32 4 -21 5 -7
both dialling code	0 7 5 -6
both email	0 -10 2 6 3 9 5 -7 6 16
both family name	1 8 3 7
both full name	0 28 5 -29
both given name	1 7 3 7
both job	5 10 6 -6
both kind	0 30 4 -23
both language	0 -7 5 9
both message	0 22 4 -15
both mobile	5 7
both month	0 18 5 -12
both name	0 38 2 -10 3 -14 4 -10 5 -15 6 14
both name suffix	0 13 5 -12
both organisation	0 11 6 -8
both phone	0 -8 1 11 5 -32 6 23
both postcode	1 9 2 6 5 -29 6 28
both reference	0 8 4 -32 5 18 6 10
both region	0 30 2 -6 4 -10
both search	0 11 5 -6
both start	0 16 4 -20 5 9
both status	0 7
both street	1 10 4 -6 5 -25 6 30
both subject	0 15 4 -8
both time	0 8
both title	5 6
both website	0 -13 5 -18 6 40
both year	5 7
c addresses	3 -7 5 15
c adresse	3 6
c azienda	5 -9 6 13
c bar	0 -8 3 -8 5 24
c bedrijf	5 -9 6 13
c bezorg	3 8
c bill	2 12 5 -7
c billing	2 24 5 -15
c birth	0 -12 5 16
c birthday	5 6
c club	5 -10 6 14
c company	5 -9 6 13
c consegna	3 7
c content	0 21 1 10 4 -11 5 -18
c ctl	0 26 1 9 4 -14 5 -19
c date	0 -12 5 16
c delivery	3 7
c dostawa	3 7
c dostawy	3 7
c email	0 -22 1 38 4 -18
c empresa	5 -9 6 13
c entrega	3 7
c entreprise	5 -9 6 13
c envio	3 8
c facturacion	2 9
c facturation	2 9
c factuur	2 9
c faktura	2 11 5 -6
c fatturazione	2 11 5 -6
c firm	5 -10 6 14
c firma	5 -10 6 14
c foo	0 29 5 -22
c invoice	2 11 5 -6
c levering	3 7
c lief	3 8
c liefer	3 14 5 -8
c lieferung	3 7
c livraison	3 7
c main	0 21 1 10 4 -11 5 -18
c organisation	5 -9 6 13
c payer	2 12 5 -7
c person	0 -12 5 16
c rech	2 12 5 -7
c rechnung	2 10 5 -6
c rechnungs	2 10 5 -6
c ship	3 8
c shipping	3 21 5 -13
c shipto	3 8
c spedizione	3 7
c unternehmen	5 -9 6 13
c verein	5 -10 6 14
c versand	3 7
c wysylka	3 7
c< addre	3 -7 5 15
c< adres	3 6
c< azien	5 -9 6 13
c< bedri	5 -9 6 13
c< billi	2 24 5 -15
c< birth	5 6
c< compa	5 -9 6 13
c< conse	3 7
c< conte	0 21 1 10 4 -11 5 -18
c< deliv	3 7
c< desti	1 6
c< dosta	3 14 5 -8
c< emerg	1 8
c< empre	5 -9 6 13
c< entre	3 6 5 -13 6 11
c< factu	2 27 5 -15
c< faktu	2 11 5 -6
c< fattu	2 11 5 -6
c< freun	1 6
c< invit	1 8
c< invoi	2 11 5 -6
c< lever	3 7
c< liefe	3 7
c< livra	3 7
c< notfa	1 6
c< odbio	1 6
c< organ	5 -9 6 13
c< rechn	2 19 5 -11
c< recip	1 6
c< shipp	3 21 5 -13
c< spedi	3 7
c< unter	5 -9 6 13
c< versa	3 7
c< wysyl	3 7
c< znajo	1 6
cm address	3 6
cm birth date	0 -16 5 23
cm email	0 -22 1 38 4 -18
cm organisation	1 -17 2 -8 3 -11 5 -102 6 145
cw birth date	5 6
cw email	0 -22 1 38 4 -18
cw organisation	1 -17 2 -8 3 -11 5 -102 6 145
first	0 45 1 -37 2 -35 3 -34 4 35 6 44
hidden	0 254 1 -12 4 -91 5 -132 6 -8
l 400px	0 7
l aantal	5 -6
l about	0 8 4 8 5 -13
l accepterer	0 -7 5 8
l account	4 7
l ad	5 14
l add	0 28 4 -9 5 -13
l additional	0 17 4 -15
l address	0 25 1 -7 2 12 3 6 4 -12
l addresses	0 -11 5 27
l adoszam	0 -9 5 -8 6 18
l adr	0 -8 5 14
l adres	3 11 5 7
l adresa	5 13
l adresse	2 20 3 22 4 -6 5 7 6 -6
l adı	5 7
l age	0 33 4 -6 5 -20
l agree	0 -20 5 27
l alerts	0 -8 5 30 6 -19
l am	4 10 5 -8
l amount	0 -10 4 20 5 -8
l ano	5 7
l anrede	5 6
l anzahl	5 -8
l apellidos	5 6
l api	0 43 4 -6 5 -25 6 -9
l area	0 22 5 -20
l array	0 6
l artist	0 11 5 -9
l at	0 -10 4 19
l author	0 49 5 -43
l azienda	5 -6 6 9
l azonosito	5 6
l bar	0 -11 5 22
l base	0 8
l be	0 7
l bedrijf	5 -6 6 8
l begindatum	4 9
l beginn	0 9 4 9 5 -13
l belob	0 -6 4 10
l belopp	0 -11 4 16
l below	0 6
l beosztas	0 -9 5 13
l bestellt	4 10
l betingelserne	0 -7 5 8
l betrag	0 -7 4 19 5 -7
l bezorg	3 10 5 -6
l bill	2 20 5 -11
l billing	2 30 5 -16
l bio	0 14 4 -7 5 -6
l birth	0 -13 4 -12 5 38
l blank	0 8
l bleiben	0 11 5 -6
l blog	0 6
l blossom	0 22 4 -13 5 -6
l body	4 11
l boletin	5 6
l bonus	0 7
l bounds	0 22 5 -13
l btn	0 12 5 -7
l bundesland	5 6
l business	0 22 5 31 6 -47
l by	5 6
l called	0 6
l cargo	5 6
l castka	0 -7 4 14 5 -7
l cc	0 15 4 -8
l cell	5 8
l change	0 8
l check	0 16 5 -9
l checked	0 6
l chip	0 6
l cim	5 7
l cislo	0 -11 4 16
l city	1 20 2 15 3 21 4 -12 5 -42
l client	0 10 4 11 5 -16
l club	5 -6 6 8
l code	0 62 1 -9 4 -24 5 -27
l codigo	5 7
l cognome	5 9
l colon	5 11
l color	0 10 5 -8
l commande	0 -6 4 33 5 -23
l comment	0 -6 4 13
l comments	0 -6 5 10
l company	5 -9 6 15
l complet	5 9
l conditions	0 -9 5 14
l confirmation	5 9
l consegna	3 9
l contact	5 15
l content	0 -8 4 19 5 -9
l contribution	0 15 4 -11
l copy	0 15 5 -8
l correo	5 10
l cortesia	0 -11 5 12
l count	5 -6
l country	0 -11 5 18
l county	0 37 5 -29
l created	0 8
l ctl	0 13 5 -7
l cui	0 -7 5 -6 6 15
l currency	0 6 4 8 5 -10
l custom	0 8 5 -6
l customer	5 -10 6 14
l cvr	5 -10 6 14
l danych	5 8
l dark	0 9 5 -8
l data	0 -20 4 42 5 -11
l date	0 62 5 -37 6 -8
l datenschutzerklarung	5 7
l datetime	0 6
l datum	0 -9 4 29 5 -16
l day	4 9
l debut	4 9
l default	0 8
l delivery	3 24 5 -13
l description	0 48 4 -42
l desktop	0 7
l diabetes	0 7
l dic	6 6
l did	4 14 5 -9
l dipendenti	5 -6 6 11
l direccion	5 8
l domu	5 6
l dostawa	3 7
l dostawy	3 19 5 -10
l dzien	0 -24 5 26
l edge的版本	0 8 5 -6
l eind	4 6
l electronico	5 8
l email	0 -28 1 15 3 8 4 -21 5 17 6 9
l emails	0 -18 1 25 4 -6
l embed	0 6
l empleados	5 -6 6 11
l employees	5 -6 6 10
l empresa	5 -6 6 11
l empty	0 7
l end	0 8 4 7 5 -11
l ende	4 9
l enquiry	1 -10 4 20
l entrega	3 9
l entreprise	5 -6 6 8
l envio	3 10 5 -6
l error	0 28 5 -19
l es	4 6
l estado	4 40 5 -35
l estate	0 10 5 -6
l euro	0 11
l expression	0 9 5 -8
l extension	0 40 5 -35
l facturacion	2 9
l facturation	2 21 5 -13
l factuur	2 9
l faktura	2 12 5 -7
l false	0 7
l fatturazione	2 12 5 -7
l favorite	0 11 5 -6
l fax	5 11
l fecha	0 -10 4 27 5 -12
l file	0 19 4 -7 5 -9
l fill	0 8
l filter	0 11 5 -6
l fim	4 7
l fin	0 -9 4 14
l fine	4 9
l firm	5 -6 6 7
l firma	5 -9 6 15
l first	0 -13 1 11 3 6 4 -8 5 18 6 -10
l fixed	0 8
l follow	5 8
l followup	5 6
l foo	0 8 5 -6
l fractional	0 11
l friend	1 6
l from	4 -13 5 25
l full	0 -9 2 42 3 10 5 -32
l funcao	0 7 5 -6
l function	0 28 4 -6 5 -14
l gade	0 -17 5 26
l geht	4 6
l gelesen	5 6
l gender	0 -8 5 12
l gesamt	0 -7 4 14
l get	0 -8 5 29 6 -19
l given	5 9
l godkanner	0 -7 5 7
l group	0 29 5 -22
l habe	5 6
l has	0 7
l hausnummer	5 -12 6 16
l headline	4 9
l hear	4 9 5 -6
l heard	4 8 5 -6
l here	4 12 5 -7
l hi	0 -27 4 29
l hier	0 -69 1 -6 4 -16 5 90 6 7
l hives	0 18 5 -8
l housing	0 21 4 -7 5 -9
l how	0 -8 4 19 5 -13
l html	0 -6 4 6
l https	0 19 5 -12
l human	0 46 4 -14 5 -28
l ich	5 6
l idioma	0 -6 5 8
l imie	0 -7 1 21 3 8 4 -10 5 -12
l income	0 38 4 -15 5 -15
l indirizzo	5 7
l information	0 15 4 -12
l inicio	4 9
l inizio	4 7
l internetseite	5 -8 6 11
l into	0 6
l invalid	0 11
l invoice	4 9 5 -8
l io	0 19 5 -12
l it	0 19 5 -10
l item	0 20 5 -10
l jag	0 -7 5 7
l jeg	0 -7 5 8
l jmeno	5 9
l job	5 8
l just	0 7
l keep	0 9
l kind	1 -12 4 21
l kod	0 16 5 -7
l kullanıcı	5 7
l kundennummer	4 -8 6 16
l label	0 9 5 -7
l landline	4 -6 5 15
l lang	0 7
l language	0 7
l last	0 -17 1 11 3 6 4 -9 5 22 6 -6
l leave	0 13 5 -9
l levering	3 9
l liczba	5 -11
l lief	3 10 5 -6
l liefer	3 27 5 -14
l lieferung	3 9
l light	0 9 5 -8
l line	0 -9 3 10 4 -9 5 17
l livraison	3 18 5 -11
l local	0 6
l location	0 37 4 -6 5 -23 6 -7
l log	0 13 5 -8
l looking	0 -17 4 27 5 -9
l m	0 -17 4 27 5 -9
l mail	0 -7 1 10 3 6 4 -18 5 8
l mailadres	5 6
l main	0 12 5 -10 6 6
l many	4 7
l may	0 -6 4 6
l me	0 29 4 -10 5 -6
l meddelande	0 -7 4 10
l medewerkers	5 -6 6 11
l member	0 -46 1 24 5 26
l membership	5 12
l mes	5 7
l mesaj	4 7
l mesajınız	0 -38 4 75 5 -31
l message	0 -19 4 32 5 -6
l messg	0 -10 4 14
l miasto	5 -17 6 24
l middle	5 6
l miesiac	5 6
l mitarbeiter	5 -6 6 11
l mm	0 22 5 -17
l mobil	5 7
l mobile	0 51 5 -39
l model	0 -9 4 -12 5 26
l moi	0 9
l mois	5 6
l monat	0 -12 5 14
l month	0 33 4 -6 5 -22
l mortgage	0 8 5 -6
l multiple	5 9
l multitopic	0 7
l naam	5 9
l nachname	1 21 2 11 3 15 4 -11 5 -24
l nacimiento	5 9
l naissance	4 -6 5 15
l name	0 -6 1 23 2 28 3 12 4 -54 5 -29 6 38
l namn	0 -10 5 19
l nascita	5 7
l navn	5 6
l nazwisko	0 -7 1 21 3 8 4 -10 5 -10
l ne	0 -11 4 -19 5 34
l nev	5 6
l newsletter	0 -11 5 19
l newslettera	5 7
l newsletters	5 6
l nif	6 6
l nip	6 9
l nls	0 -8 5 9
l no	5 15 6 -8
l nom	5 13
l nombre	0 -7 5 17
l nome	0 -8 4 -7 5 24
l note	0 16 4 -13
l notify	0 -6 5 13
l novinky	0 -7 5 9
l nr	4 6 5 -10 6 12
l num	0 32 5 -26
l numar	5 13 6 -7
l numarası	0 -6 5 -6 6 14
l number	0 15 1 -9 2 -13 4 -25 5 23 6 14
l nume	5 12
l numer	4 12
l numero	0 -6 4 17 5 -10 6 9
l nummer	4 8 5 -18 6 17
l nyelvek	0 -15 5 16
l objednavky	0 -8 4 19 5 -10
l occupation	0 21 5 -18
l office	0 37 5 -28
l op	4 6
l optional	4 6
l order	0 -64 4 122 5 -51
l ordered	0 -6 4 31 5 -22
l ordine	4 11 5 -8
l ordre	4 6
l organisation	5 -6 6 8
l ort	0 -6 1 25 2 10 3 9 4 -9 5 -43 6 16
l osobnich	0 -21 5 25
l other	0 6
l out	0 16 5 -10
l part	0 11
l password	0 11 5 -7
l paste	0 6
l pay	0 7
l payer	2 14 5 -8
l pedido	4 13 5 -10
l persisted	0 10
l person	5 8
l phone	0 -12 1 13 2 7 3 9 4 -10 5 -14 6 9
l place	6 8
l placed	0 -14 4 47 5 -29
l plz	5 6
l podcast	0 22 5 -18
l podmienkami	0 -6 5 6
l policy	0 -15 5 18
l politica	5 7
l poodle	0 8 5 -6
l position	5 7
l post	0 -41 1 -6 4 -23 5 89 6 -16
l posta	0 -45 4 -15 5 74 6 -9
l postal	0 -10 5 27
l postcode	1 17 2 9 3 9 4 -10 5 -15
l postleitzahl	5 -21 6 25
l prenom	5 8
l prenume	5 6
l preview	0 9
l privacy	0 -14 5 20
l produkt	4 9
l produs	0 -9 4 14
l produto	0 -6 4 10
l programmatically	0 8
l project	0 8
l province	4 -8 5 15
l przetwarzanie	5 7
l range	0 8
l rank	0 11 5 -8
l real	0 9
l reason	0 11 4 -7
l rech	2 14 5 -8
l rechnung	2 10
l rechnungs	2 23 5 -13
l recipient	1 11 5 -6
l region	0 19 4 -6
l regular	0 20 5 -15
l remember	0 16 5 -10
l required	0 -9 5 20
l reszleg	0 -9 5 19 6 -9
l robots	0 8
l rok	5 7
l rol	0 14 5 -12
l rola	0 7
l role	0 -13 5 19
l rolle	0 8 5 -7
l rss	0 22 5 -18
l rue	5 7
l s	0 -19 5 26
l say	0 -27 4 29
l se	0 -12 5 19
l search	0 28 5 -16
l select	0 18 5 -13
l selected	0 18 5 -17
l semi	5 11
l send	0 7
l sender	0 -7 5 21
l separate	5 9
l serial	0 29 4 -18 5 -11
l services	0 22 5 -18
l set	0 9 5 -7
l ship	3 10 5 -6
l shipping	3 9
l shipto	3 10 5 -6
l sidenav	0 7
l sign	0 13 5 -9
l signed	0 12 5 -7
l since	0 -23 5 30
l single	0 8
l siret	6 9
l song	0 15 5 -8
l sorting	0 8 4 -7
l souhlasim	0 -23 5 28
l source	4 13
l soyad	5 11
l spam	0 18 5 -10
l spedizione	3 9
l sprava	4 6
l st	5 -14 6 16
l start	0 6 4 10 5 -12
l starts	0 17 5 -9
l state	0 -23 2 6 3 15 4 23 5 -14
l status	0 8 5 -10
l storage	0 7
l strange	0 17 4 -9 5 -6
l strasse	1 17 2 9 4 -9 5 -33 6 16
l street	0 -11 1 22 2 18 3 8 4 -17 5 -24 6 7
l string	0 6
l style	0 -6 4 6
l subject	4 16 5 -7
l submit	0 13 5 -7
l submitted	0 33 5 -20
l subscribe	5 14
l subscription	0 22 5 -18
l success	0 17 5 -13
l suffiks	0 13 5 -13
l suffix	5 8
l suhlasim	0 -6 5 6
l supp	0 -11 5 15
l surname	5 7
l szerep	0 9 5 -8
l tabler	0 19 5 -12
l tag	4 -16 5 27
l tags	4 6
l tax	0 -7 4 -14 5 -29 6 52
l taxes	0 10 5 -6
l team	0 -13 1 26 5 -6
l tel	5 8
l telefon	0 -14 1 15 2 8 3 10 4 -8 5 -25 6 16
l telefono	5 12
l telefonu	5 7
l telephone	5 15
l tell	0 -38 1 -7 4 -28 5 77
l term	0 -22 4 28
l termek	0 -9 4 13
l terms	0 -7 5 18
l text	0 17 4 -7 5 -7
l textarea	0 9
l thise	0 7
l thread	0 -8 5 15
l three	0 6
l time	0 13 4 13 5 -20
l tip	0 -18 4 21
l titel	0 -13 5 16
l title	0 -11 4 9 5 7
l titolo	0 -11 5 12
l titulo	0 -8 5 9
l token	0 43 4 -6 5 -25 6 -9
l topic	0 27 1 -15 4 -8
l total	0 27 4 -7 5 -11
l town	5 8
l tresc	4 8
l try	5 8
l tutaj	0 -53 4 -12 5 68 6 8
l twitter	0 -11 1 38 5 -15 6 -9
l two	0 6
l type	0 41 4 -7 5 -21
l tytul	0 -7 5 9
l u	5 -14 6 16
l udaju	0 -21 5 25
l ulica	5 6
l unchecked	0 6
l unit	5 6
l up	0 13 4 -6
l update	0 9 5 -7
l url	5 12
l urodzenia	5 8
l urun	0 -14 4 23 5 -8
l us	0 -39 1 -7 4 -14 5 68
l use	0 -6 4 6
l username	5 6
l utilizator	5 8
l utm	4 12 5 -8
l utotag	0 14 5 -14
l valid	0 9 5 -6
l validate	0 22 5 -19
l validation	0 8 5 -6
l valor	0 -7 4 13 5 -6
l vat	5 -7 6 13
l verein	5 -6 6 7
l vergi	0 -6 5 -6 6 14
l verification	0 -7 5 13
l versand	3 9
l via	5 11
l view	0 8
l ville	5 6
l villkoren	0 -7 5 7
l visningsnavn	0 -6 5 7
l volker	0 6
l vor	5 7
l vorname	1 21 2 12 3 15 4 -10 5 -26
l wahrung	0 -11 4 21 5 -8
l wanted	0 7
l web	6 6
l website	0 -6 5 6 6 9
l week	0 13 5 -10
l wert	0 -69 1 -6 4 -16 5 90 6 7
l what	0 8
l when	0 15 5 -7
l whoops	0 7
l wiadomosci	4 8
l wide	0 9
l will	0 7
l wojewodztwo	5 7
l workspace	0 21 5 -15
l worum	4 6
l wpisz	0 -42 4 -14 5 60 6 7
l wyrazam	5 6
l wysylka	3 9
l x	0 6
l year	5 7
l yy	0 26 5 -23
l zakonczenia	4 6
l zamowienia	4 10 5 -7
l zapisz	5 6
l zgode	5 6
l zip	0 -12 1 21 2 16 3 15 4 -13 5 -22
l zipcode	0 -48 3 24 4 -9 5 39
l zpracovanim	0 -20 5 24
l zzyzx	0 -34 4 -63 5 93 6 11
l αφμ	0 -10 5 -9 6 21
l банкам	0 10 5 -7
l без	0 -6 5 9
l в	0 13 5 -6
l введите	5 7
l внутригородскои	0 12 5 -9
l город	0 -6 3 -6 5 24 6 -7
l департамент	0 -7 5 14 6 -7
l дом	0 -7 5 9
l инн	0 -8 5 -13 6 22
l искать	0 9
l на	0 -24 5 26
l населенныи	0 13 5 -11
l ограничении	0 -6 5 9
l однои	0 -9 5 12
l организациям	0 -33 5 -12 6 46
l планировочная	0 8 5 -6
l по	0 -63 5 41 6 34
l повідомлення	4 7
l подключаемыи	0 17 5 -10
l подписаться	0 -24 5 26
l подсказки	0 14 6 -7
l поиск	0 -43 5 20 6 34
l почта	5 6
l просто	0 22 5 -13 6 -6
l пункт	0 13 5 -11
l раион	0 59 5 -48
l рассылку	0 -24 5 26
l регион	0 -36 5 43
l роль	0 12 5 -11
l справочник	0 17 5 -10
l строкои	0 -9 5 12
l структура	0 8 5 -6
l сумма	0 -10 4 17 5 -7
l суффикс	0 19 5 -19
l тип	0 7 5 -7
l улица	5 9
l фиас	0 -9 5 12
l фио	0 -25 5 33
l גיל	0 18 5 -14
l שם	0 -46 5 54
l תאריך	0 24 5 -17
l اكتب	0 10 5 -7
l هنا	0 10 5 -7
l 中文	0 9 5 -6
l 兼容ie	0 8 5 -6
l 内联显示	0 11 5 -8
l 副标题	0 -18 5 21
l 卡号	0 14 5 -9
l 发出地	0 12 4 -6
l 国家	0 -37 5 39
l 地区	0 -25 5 26
l 城市	5 20 6 -11
l 多选	0 8 5 -6
l 学校	0 25 6 -20
l 微信号	0 34 5 -26
l 手机号	0 -38 5 45
l 持卡人	0 17 5 -11
l 日期	0 19 4 -6 5 -11
l 昵称	5 7
l 标题文字	0 8 5 -7
l 爱好	0 10 5 -8
l 目的地	0 9
l 相关条款	0 -12 5 15
l 省份	0 -8 5 12
l 称呼	0 -28 5 33
l 联系电话	0 -18 5 22
l 请输入号码	0 13 5 -10
l 请输入文本	0 12 5 -6
l 金额	0 -27 4 50 5 -21
l 阅读并同意	0 -11 5 14
l< accep	0 -7 5 9
l< accou	4 7
l< addit	0 17 4 -15
l< addre	0 14 1 -10 2 10 4 -16 5 30 6 -7
l< adosz	0 -9 5 -8 6 18
l< adres	0 -6 2 19 3 22 4 -8 5 9 6 -6
l< apell	5 9
l< auftr	4 7 5 -6
l< azien	5 -6 6 9
l< azono	5 6
l< bedri	5 -7 6 10
l< begin	4 9
l< beosz	0 -9 5 13
l< besch	6 7
l< beste	4 30 5 -19
l< betin	0 -7 5 9
l< billi	2 30 5 -16
l< birth	0 -6 5 13
l< bleib	0 11 5 -6
l< bloss	0 22 4 -13 5 -6
l< bolet	5 6
l< bunde	5 6
l< busin	0 22 5 31 6 -47
l< categ	4 8 5 -6
l< check	0 10 5 -8
l< cogno	5 9
l< comma	0 -6 4 33 5 -23
l< comme	0 -13 1 -6 4 14 5 13
l< compa	5 -10 6 17
l< compl	4 -6 5 18
l< condi	0 -10 5 18
l< confi	0 -8 5 20
l< conse	3 9
l< conta	5 16
l< conte	0 -8 4 19 5 -9
l< contr	0 15 4 -11
l< corte	0 -11 5 12
l< count	0 -11 5 18
l< creat	0 8
l< curre	0 9 4 8 5 -12
l< custo	5 -10 6 14
l< daten	5 9
l< datet	0 6
l< defau	0 8
l< deliv	3 24 5 -13
l< depar	4 -6 5 12
l< descr	0 48 4 -42
l< deskt	0 7
l< desti	1 7
l< diabe	0 7
l< dipen	5 -6 6 11
l< direc	5 8
l< dosta	3 26 5 -14
l< edge的	0 8 5 -6
l< elect	5 8
l< emerg	1 11
l< emple	5 -6 6 11
l< emplo	5 -9 6 16
l< empre	5 -6 6 11
l< enqui	1 -10 4 20
l< entre	3 9 5 -10 6 7
l< expre	0 9 5 -8
l< exten	0 40 5 -35
l< factu	2 40 5 -23
l< faktu	2 12 5 -7
l< fattu	2 12 5 -7
l< favor	0 11 5 -6
l< follo	5 6
l< fract	0 11
l< freun	1 7
l< funct	0 26 4 -7 5 -11
l< geboo	5 9
l< gebur	4 -12 5 21
l< geles	5 6
l< godka	0 -7 5 7
l< hausn	5 -12 6 16
l< headl	4 9
l< hecta	4 8 5 -6
l< housi	0 21 4 -7 5 -9
l< impor	4 9 5 -7
l< indir	5 7
l< infor	0 12 4 -13
l< inter	0 -6 4 19 5 -16 6 6
l< inval	0 11
l< invit	1 11
l< invoi	4 9 5 -8
l< kateg	4 8 5 -6
l< keywo	0 9
l< kulla	5 8
l< kunde	5 -8 6 16
l< landl	4 -6 5 15
l< langu	0 7
l< lever	3 9
l< liefe	3 9
l< livra	3 18 5 -11
l< locat	0 37 4 -6 5 -23 6 -7
l< looki	0 -17 4 27 5 -9
l< maila	5 7
l< medde	0 -7 4 10
l< medew	5 -6 6 11
l< membe	5 12
l< mensa	4 7
l< mesaj	0 -38 4 75 5 -31
l< messa	0 -21 4 35 5 -7
l< miesi	5 7
l< minut	5 6
l< mitar	5 -9 6 17
l< mitgl	4 10 5 -7
l< mortg	0 8 5 -6
l< multi	4 -7 5 7
l< nachn	1 21 2 11 3 15 4 -11 5 -24
l< nacim	5 9
l< naiss	4 -6 5 15
l< nasci	5 8
l< natio	0 -6 4 -15 5 25
l< nazwi	0 -7 1 21 3 8 4 -10 5 -10
l< newsl	0 -20 5 32
l< notfa	1 7
l< novin	0 -7 5 9
l< numar	0 -6 6 14
l< nyelv	0 -15 5 16
l< objed	0 -8 4 19 5 -10
l< occup	0 21 5 -18
l< odbio	1 7
l< optio	4 6
l< order	0 -6 4 31 5 -22
l< organ	5 -18 6 29
l< osobn	0 -21 5 25
l< passw	0 11 5 -7
l< persi	0 10
l< podca	0 22 5 -18
l< podmi	0 -9 5 11
l< pohla	5 7
l< polit	0 -6 5 12
l< posit	5 7
l< postc	1 17 2 9 3 9 4 -10 5 -15
l< postl	5 -21 6 25
l< praco	5 -7 6 13
l< praef	5 7
l< prefi	4 -7 5 14
l< prenu	5 6
l< previ	0 9
l< priva	0 -20 4 -8 5 33
l< produ	0 -13 4 31 5 -16
l< progr	0 8
l< proje	0 8
l< provi	0 -6 4 -13 5 25
l< przet	5 7
l< quant	4 12 5 -9
l< recap	0 7
l< reche	0 9
l< rechn	2 33 5 -18
l< recip	1 14 5 -8
l< refer	4 7 5 -8
l< regul	0 19 5 -12
l< remem	0 16 5 -10
l< requi	0 -9 5 20
l< reszl	0 -9 5 19 6 -9
l< secur	0 7
l< selec	0 18 5 -17
l< separ	5 9
l< servi	0 21 5 -14
l< shipp	3 9
l< siden	0 7
l< sorti	0 8 4 -7
l< souhl	0 -23 5 29
l< spedi	3 9
l< stora	0 7
l< stran	0 16 4 -9
l< stras	1 17 2 9 4 -9 5 -31 6 16
l< subje	4 16 5 -7
l< submi	0 34 5 -20
l< subsc	0 17
l< succe	0 17 5 -13
l< suffi	0 11
l< suhla	0 -6 5 6
l< surna	5 7
l< telef	0 -26 1 8 4 -17 5 21 6 8
l< telep	5 15
l< texta	0 9
l< twitt	0 -11 1 38 5 -15 6 -9
l< unche	0 6
l< urodz	5 9
l< usern	5 6
l< utili	5 10
l< valid	0 29 5 -25
l< verif	0 -7 5 13
l< versa	3 9
l< villk	0 -7 5 9
l< visni	0 -6 5 7
l< vorna	1 21 2 11 3 14 4 -11 5 -24 6 -6
l< wahru	0 -11 4 21 5 -8
l< websi	0 -6 5 6 6 9
l< wiado	4 8
l< wojew	5 7
l< works	0 21 5 -15
l< wyraz	5 6
l< wysyl	3 9
l< zakon	4 6
l< zamow	4 10 5 -7
l< zipco	0 -48 3 24 4 -9 5 39
l< znajo	1 7
l< zprac	0 -20 5 25
l< ταχυδ	5 7
l< введи	5 7
l< внутр	0 12 5 -9
l< депар	0 -7 5 14 6 -7
l< насел	0 13 5 -11
l< огран	0 -6 5 9
l< орган	0 -34 5 -17 6 53
l< плани	0 8 5 -6
l< повід	4 7
l< подкл	0 17 5 -10
l< подпи	0 -24 5 26
l< подск	0 14 6 -7
l< рассы	0 -24 5 27
l< справ	0 17 5 -10
l< строк	0 -9 5 12
l< струк	0 8 5 -6
l< суффи	0 19 5 -19
l< телеф	5 7
last	0 75 1 -6 5 10 6 -60
le city	0 20 2 6 3 9 5 -20
le country	2 6 3 6 5 -8
le email	0 -20 1 -6 5 22 6 14
le end	0 -12 4 14
le full name	0 -25 5 31
le given name	0 7
le house number	3 6 5 -18 6 16
le message	0 -13 4 19
le mobile	0 22 5 -18
le name	0 23 3 -17 5 -7
le phone	5 -17 6 20
le postcode	2 9 3 12 5 -10
le privacy	0 -7 5 8
le reference	0 -9 4 -7 5 22
le start	0 -9 4 12
le street	2 8 3 11 5 -9
length 0	0 21 1 -20 2 -32 3 -25 4 28 5 41 6 -16
length 1	1 -54 2 -57 3 -55 4 47 5 61 6 -6
length 2	0 -18 2 -7 3 -21 4 -34 5 52 6 -10
length 3	0 -6 1 26 2 20 3 27 4 -42 5 20 6 -15
length phrase	0 20 1 -8 4 -21 5 18 6 -7
length sentence	0 17 4 -7
lm address	2 36 3 31 4 -30 5 29 6 -12
lm address more	0 -8 4 -19 5 38
lm age	0 22 4 -24 5 17 6 -7
lm amount	0 6 4 67 5 -52 6 -9
lm area	4 63 5 -50 6 -6
lm birth date	0 -32 4 -14 5 65 6 -6
lm birth day	4 -6 5 11
lm birth month	4 -8 5 14
lm birth name	4 -14 5 30
lm birth place	4 -12 5 22
lm birth year	4 -9 5 16
lm captcha	0 110 4 -27 5 -62 6 -10
lm city	0 -23 1 30 2 22 3 17 4 -43 5 11
lm consent	0 -11 4 -24 5 47 6 -6
lm country	0 -50 4 -19 5 72
lm currency	0 -8 4 61 5 -44
lm date	0 30 4 49 5 -55 6 -10
lm day	0 -10 4 -12 5 29
lm department	0 -8 4 -20 5 37
lm dialling code	0 7 4 -20 5 28 6 -7
lm email	0 -35 1 20 3 10 4 -45 5 43 6 8
lm email again	0 -8 4 -11 5 32
lm employees	0 -10 4 -30 5 -58 6 107
lm end	0 -11 4 70 5 -47
lm family name	0 -24 1 28 2 7 3 18 4 -38 5 33 6 -16
lm fax	0 -6 4 -14 5 25
lm follow-up	0 -9 4 -16 5 41
lm full name	0 -19 1 7 2 30 3 6 4 -47 5 46 6 -20
lm gender	0 -15 4 -22 5 46
lm given name	0 -16 1 27 2 7 3 17 4 -37 5 33 6 -23
lm hour	4 -18 5 27
lm house number	0 -14 4 -21 5 24 6 16
lm identity number	4 -18 5 31
lm interests	4 67 5 -52 6 -7
lm job	0 -21 4 -17 5 59 6 -13
lm kind	0 30 1 -15 4 62 5 -58 6 -11
lm language	0 -11 4 -24 5 47 6 -6
lm message	1 -8 4 98 5 -73 6 -10
lm middle name	0 -7 4 -15 5 34 6 -6
lm minute	4 -16 5 24
lm mobile	0 -8 1 -7 4 -23 5 62 6 -11
lm month	0 14 4 -17 5 19 6 -6
lm name	0 50 1 11 2 -8 3 -11 4 -46 5 17 6 -11
lm name suffix	0 14 4 -20 5 16 6 -6
lm nationality	4 -19 5 30
lm newsletter	0 -40 4 -23 5 82 6 -6
lm nickname	0 -13 4 -21 5 46 6 -6
lm ordered	0 -15 4 71 5 -43 6 -6
lm organisation	0 -7 1 -9 4 -26 5 -79 6 128
lm owner	4 -15 5 23
lm phone	0 -33 1 14 2 8 3 9 4 -40 5 42 6 7
lm photo	4 56 5 -44
lm postcode	0 -30 1 29 2 26 3 20 4 -41 5 6 6 7
lm price	0 -6 4 60 5 -46
lm privacy	0 -34 4 -24 5 72
lm product	0 8 4 58 5 -52 6 -7
lm quantity	4 61 5 -53
lm reference	1 -9 2 -14 3 -7 4 65 5 -47 6 10
lm region	0 29 1 -9 4 -13 5 12 6 -17
lm remember	0 115 4 -26 5 -66 6 -10
lm search	0 107 1 -9 2 -6 3 -6 4 -36 5 -63 6 13
lm source	0 -9 4 81 5 -53 6 -10
lm start	0 10 1 -8 4 65 5 -49 6 -12
lm status	4 46 5 -42
lm street	0 -27 1 31 2 27 3 17 4 -47 5 16
lm subject	4 61 5 -46 6 -9
lm tax number	0 -11 4 -31 5 -61 6 113
lm terms	0 -32 4 -22 5 71 6 -6
lm time	0 10 4 44 5 -44
lm title	0 -8 4 -21 5 42 6 -7
lm username	0 -8 4 -15 5 35
lm website	0 -19 1 -6 4 -28 5 44 6 16
lm year	0 -19 4 -10 5 36
lw address	0 -22 4 -23 5 54 6 -7
lw address more	0 -6 4 -19 5 35
lw age	0 12 4 -24 5 24 6 -6
lw amount	0 -20 4 71 5 -41
lw area	0 -7 4 64 5 -47 6 -6
lw birth date	0 -26 4 -13 5 56 6 -6
lw birth day	4 -6 5 11
lw birth month	4 -8 5 14
lw birth name	4 -14 5 30
lw birth place	4 -12 5 22
lw birth year	4 -9 5 16
lw captcha	0 107 4 -27 5 -61 6 -10
lw city	0 -40 4 -29 5 65 6 10
lw consent	4 -24 5 37 6 -6
lw country	0 -25 4 -19 5 54
lw currency	0 -18 4 64 5 -39
lw date	0 31 4 16 5 -32 6 -8
lw day	0 -9 4 -12 5 28
lw department	0 -8 4 -20 5 37
lw dialling code	0 7 4 -20 5 28 6 -7
lw email	0 -47 4 -30 5 80 6 7
lw email again	0 -8 4 -11 5 32
lw employees	0 -10 4 -30 5 -58 6 107
lw end	4 56 5 -46
lw family name	0 -19 4 -27 5 73 6 -11
lw fax	0 -6 4 -14 5 25
lw follow-up	4 -15 5 24
lw full name	0 12 1 -9 2 28 4 -39 5 26 6 -14
lw gender	0 -15 4 -22 5 46
lw given name	0 -21 4 -26 5 76 6 -16
lw hour	4 -18 5 27
lw house number	0 -10 4 -19 5 53 6 -16
lw identity number	4 -18 5 31
lw interests	4 67 5 -52 6 -7
lw job	0 -19 4 -17 5 49 6 -8
lw kind	0 11 1 -31 4 73 5 -44 6 -6
lw language	0 -11 4 -24 5 47 6 -6
lw message	0 15 4 70 5 -61 6 -8
lw middle name	0 -7 4 -15 5 34 6 -6
lw minute	4 -16 5 24
lw mobile	0 -26 1 -6 4 -21 5 74 6 -10
lw month	0 -10 4 -17 5 39
lw name	0 -69 2 -8 4 -31 5 106
lw name suffix	0 14 4 -20 5 16 6 -6
lw nationality	4 -19 5 30
lw newsletter	0 -13 4 -21 5 47 6 -6
lw nickname	0 -13 4 -21 5 46 6 -6
lw ordered	0 -15 4 71 5 -43 6 -6
lw organisation	4 -24 5 -67 6 98
lw owner	4 -15 5 23
lw phone	0 -8 1 -8 4 -27 5 68
lw photo	4 56 5 -44
lw postcode	0 -26 3 -10 4 -25 5 60 6 10
lw price	0 -6 4 60 5 -46
lw privacy	4 -17 5 31
lw product	0 -12 4 67 5 -45
lw quantity	0 -6 4 62 5 -46 6 -6
lw reference	0 -6 1 -7 2 -12 4 70 5 -44
lw region	0 -34 3 6 4 -9 5 54 6 -15
lw remember	0 108 4 -25 5 -61 6 -10
lw search	0 149 4 -34 5 -85 6 -20
lw source	0 -11 4 82 5 -52 6 -10
lw start	0 -18 1 -6 4 68 5 -32 6 -7
lw status	4 46 5 -41
lw street	0 -20 2 6 4 -33 5 62 6 -9
lw subject	0 7 4 53 5 -44 6 -8
lw tax number	0 -11 4 -31 5 -61 6 113
lw terms	0 -6 4 -21 5 38 6 -6
lw time	4 47 5 -42
lw title	0 -8 4 -21 5 42 6 -7
lw username	0 -13 4 -14 5 39
lw website	0 -32 4 -25 5 51 6 16
lw year	0 -18 4 -10 5 35
l~ a	1 -6 4 14
l~ an	0 -7 4 -8 5 17
l~ by	5 9
l~ cc	0 24 4 -11 5 -11
l~ de	0 -24 1 -11 4 12 5 24
l~ do	4 42 5 -34
l~ from	4 -18 5 33
l~ od	4 10 5 -7
l~ to	0 14 1 108 4 -53 5 -41 6 -19
l~ von	0 -6 4 27 5 -17
m address again	0 -6 3 8
m address more t text	0 -13 4 -30 5 61 6 -8
m address sm address	0 19 3 -19
m address sm date	0 18 5 -17
m address t long text	0 -18 5 24
m address t text	1 -8 2 36 3 35 4 -42 5 45 6 -15
m address with city	0 24 3 -18
m address with day	5 7
m address with email	2 7 3 6 5 -9
m address with family name	0 6
m address with full name	0 20 3 -19
m address with given name	0 -11 5 15
m address with job	5 6
m address with message	2 6
m address with month	0 -7 5 9
m address with organisation	0 -10 5 16
m address with street	0 41 3 -21 5 -11
m address with year	0 -7 5 9
m age t text	0 19 1 -6 4 -40 5 46 6 -12
m age with email	0 44 5 -34
m age with family name	0 39 5 -34
m age with given name	0 39 5 -34
m age with job	0 10 5 -10
m age with message	0 11 5 -7
m age with website	0 15 5 -9
m amount again	0 44 4 -25 5 -10
m amount t number	0 -11 4 18
m amount t text	0 10 1 -6 4 98 5 -80 6 -12
m amount with city	0 40 4 -20 5 -10
m amount with email	0 -12 4 22
m amount with message	0 -6 4 8
m area t long text	0 13 4 -9
m area t text	0 -13 4 118 5 -80 6 -11
m area with city	0 15 4 -9
m area with email	0 13 4 -9
m area with family name	0 13 4 -9
m area with given name	0 13 4 -9
m area with street	0 15 4 -9
m birth date again	0 -10 5 17
m birth date t date	0 -13 5 21
m birth date t option	0 -9 5 12
m birth date t text	0 -18 4 -18 5 53 6 -7
m birth date with city	0 -8 5 12
m birth date with email	0 -12 5 19
m birth date with family name	0 -14 5 21
m birth date with given name	0 -11 5 18
m birth date with message	0 -8 5 12
m birth date with street	0 -7 5 10
m birth day t text	4 -11 5 22
m birth month t text	0 -6 4 -13 5 26
m birth name t text	0 -12 4 -24 5 56 6 -9
m birth place t text	0 -9 4 -21 5 42 6 -6
m birth year t text	0 -6 4 -15 5 30
m captcha t text	0 168 1 -7 4 -42 5 -94 6 -15
m city again	0 22 2 11 5 -27
m city sm address	3 11
m city sm date	2 8
m city sm organisation	5 -27 6 35
m city sm start	2 12 3 9 5 -17
m city t option	0 7 5 -6
m city t text	0 -68 1 51 2 24 3 20 4 -64 5 61 6 -27
m city with birth date	5 8
m city with email	0 -8 1 -8 2 6 4 -8 5 18
m city with family name	0 -14 1 -6 3 -7 4 -6 5 49 6 -18
m city with full name	3 13
m city with given name	0 -11 5 14
m city with job	5 -19 6 23
m city with organisation	5 11
m city with street	1 -12 3 20 4 -10
m city with subject	5 8
m city with website	6 7
m consent hidden	0 14 5 -13
m consent t text	4 -38 5 65 6 -11
m consent t yes/no	0 -13 5 15
m consent with email	0 6
m country t option	0 -48 5 52
m country t text	0 -15 4 -30 5 64 6 -8
m country with city	5 8
m country with family name	5 8
m country with given name	5 7
m country with month	0 -10 5 12
m currency again	0 11
m currency t option	0 -15 4 21
m currency t text	4 81 5 -65 6 -7
m currency with email	0 -15 4 21
m currency with family name	0 11
m currency with given name	0 11
m currency with job	0 11
m date again	0 24 4 6 5 -22
m date in a sentence	0 7
m date sm birth date	0 -6 5 8
m date t date	4 23 5 -19
m date t long text	0 7
m date t option	5 6
m date t text	0 29 1 -12 2 -8 3 -9 4 54 5 -46 6 -9
m date with birth date	0 19 5 -12
m date with email	0 -23 4 43 5 -14
m date with family name	0 -22 4 29
m date with full name	0 26 4 -20
m date with given name	0 -26 4 34
m date with message	0 10 4 15 5 -20
m date with month	0 11 4 -9
m date with website	0 14 5 -8
m date with year	0 -8 5 12
m day t option	0 -11 5 15
m day t text	0 -7 4 -17 5 33
m day with city	0 -7 5 10
m day with family name	0 -7 5 10
m day with given name	0 -6 5 8
m day with job	0 -6 5 8
m day with month	0 -12 5 17
m day with organisation	0 -7 5 10
m day with year	0 -12 5 17
m department t text	0 -17 4 -31 5 66 6 -9
m dialling code sm date	0 21 5 -19
m dialling code t text	1 -6 4 -33 5 59 6 -12
m dialling code with city	0 29 5 -26
m dialling code with email	0 29 5 -26
m dialling code with family name	0 29 5 -26
m dialling code with street	0 29 5 -26
m email again	0 19 1 43 5 -54
m email again t email	5 7
m email again t text	0 -11 4 -21 5 52 6 -9
m email hidden	0 43 5 -37
m email sm date	5 15
m email sm email	1 12 5 -9
m email sm start	5 9
m email t email	0 -33 1 19 2 20 3 33 4 -33 5 9
m email t option	0 9 5 -6
m email t text	1 57 2 -9 3 -15 4 -43 5 49 6 -29
m email with birth date	5 6
m email with city	0 34 1 -9 3 -13 5 6 6 -7
m email with family name	0 11 1 -12 3 -9 5 33 6 -9
m email with full name	0 -8 4 -8 5 30
m email with given name	0 17 1 -13 3 -9 5 31 6 -10
m email with job	5 6
m email with message	1 7 4 -16 5 35 6 -7
m email with month	5 8
m email with organisation	0 -8 1 18 5 13 6 -16
m email with street	0 14 1 -7 2 -8 3 -12 5 25
m email with subject	0 17 1 8 4 -11
m email with username	1 7
m email with website	0 7 5 9 6 -8
m employees t number	6 7
m employees t text	0 -22 1 -7 3 -6 4 -47 5 -95 6 182
m employees with given name	6 7
m employees with job	6 7
m employees with organisation	6 7
m employees with website	6 6
m end t date	0 14 4 -6
m end t text	0 -15 4 114 5 -77 6 -11
m end with city	0 14 4 -9
m end with email	0 -10 4 15
m end with family name	0 -10 4 15
m end with given name	0 -10 4 15
m end with message	0 13
m family name again	4 12 5 -6
m family name sm date	2 -8 3 -6 4 12
m family name sm start	5 11
m family name t text	0 -46 1 40 2 14 3 25 4 -48 5 40 6 -24
m family name with birth date	5 7
m family name with city	0 -9 3 -9 4 20 5 11
m family name with email	0 -10 1 -8 2 -6 3 -8 4 18 5 28
m family name with given name	0 -11 1 -10 2 -8 3 -9 4 -8 5 61 6 -6
m family name with job	5 7
m family name with message	5 13
m family name with organisation	5 12
m family name with street	0 -6 2 -8 3 -8 4 20 5 10
m family name with subject	5 9
m family name with website	5 8
m fax t text	0 -11 4 -21 5 41
m fax with email	5 7
m fax with family name	5 7
m fax with given name	5 7
m follow-up sm email	0 9 5 -8
m follow-up t text	0 -15 4 -25 5 59 6 -8
m follow-up t yes/no	5 8
m follow-up with email	0 7
m full name again	4 10
m full name sm address	3 14 5 -8
m full name sm city	0 6
m full name t option	0 6
m full name t text	0 -8 1 15 2 32 3 6 4 -72 5 53 6 -23
m full name with city	0 -9 3 10 5 11
m full name with email	0 -22 2 -7 4 -11 5 56
m full name with message	0 -15 4 -11 5 38
m full name with month	2 52 5 -43
m full name with organisation	0 -8 5 18
m full name with street	0 -9 3 10 5 10
m full name with subject	0 -8 4 -8 5 20
m full name with website	0 -6 5 11
m gender sm gender	0 -7 5 9
m gender t option	0 -11 5 14
m gender t text	0 -15 4 -32 5 65 6 -9
m gender with job	0 -6 5 7
m given name sm date	5 10
m given name t text	0 -40 1 42 2 16 3 25 4 -57 5 45 6 -32
m given name with city	5 19
m given name with email	0 -11 1 -8 3 -6 4 -13 5 55 6 -6
m given name with family name	0 -14 1 -11 3 -8 4 -17 5 70 6 -9
m given name with job	5 12
m given name with message	4 -10 5 21
m given name with organisation	5 23 6 -8
m given name with street	3 -6 5 22
m given name with subject	5 9
m given name with website	5 10
m hour t text	0 -10 4 -27 5 49 6 -6
m house number again	5 -12 6 14
m house number t text	0 -22 4 -32 5 74
m house number with city	0 -9 5 7 6 7
m house number with email	6 7
m house number with family name	6 9
m house number with given name	6 9
m house number with organisation	6 7
m house number with street	0 -9 5 7 6 7
m identity number t text	0 -13 4 -28 5 58 6 -8
m interests t option	0 23 4 -12 5 -9
m interests t text	0 -24 1 -6 4 135 5 -85 6 -13
m job t option	0 -18 5 18
m job t text	0 -6 4 -30 5 68 6 -20
m job t yes/no	0 10 5 -9
m job with city	0 27 5 -19 6 -6
m job with day	0 33 5 -30
m job with email	0 -29 5 37
m job with family name	0 32 5 -21 6 -7
m job with full name	0 28 5 -25
m job with given name	0 32 5 -16 6 -10
m job with month	0 33 5 -30
m job with organisation	0 15 6 -10
m job with street	0 23 5 -16
m job with website	0 -9 5 12
m job with year	0 33 5 -30
m kind again	0 22 4 -13
m kind hidden	0 8 4 -6
m kind sm date	0 23 4 -21
m kind t long text	0 -6 4 7
m kind t option	0 18 5 -11
m kind t text	0 10 1 -25 3 -6 4 117 5 -77 6 -14
m kind t yes/no	0 10
m kind with city	0 43 4 -27 5 -12
m kind with day	0 6
m kind with email	0 27 4 -19
m kind with family name	0 37 4 -26 5 -8
m kind with job	0 7
m kind with message	0 7 4 -6
m kind with month	0 6
m kind with organisation	0 9 5 -6
m kind with street	0 34 4 -26
m kind with year	0 6
m language sm username	0 -15 5 18
m language t option	0 -34 5 39
m language t text	0 24 4 -40 5 39 6 -11
m language with email	0 19 4 -10
m language with family name	0 -31 5 37
m language with given name	0 -28 5 33
m language with subject	0 53 4 -7 5 -44
m message again	0 56 1 -7 4 -41 5 -6
m message hidden	0 34 1 -6 4 -25
m message sm message	0 7
m message sm organisation	0 -6 4 6
m message sm product	0 8 4 -8
m message sm username	0 -6 4 6
m message t long text	0 15 4 11 5 -13
m message t option	0 19 4 -14
m message t text	0 -16 1 -11 4 140 5 -101 6 -11
m message with birth date	0 -7 4 13
m message with city	0 -11 4 14
m message with email	0 -33 4 62 5 -17
m message with family name	0 -25 4 38 5 -9
m message with full name	0 -17 4 26 5 -6
m message with given name	0 -21 4 31 5 -6
m message with organisation	0 6
m message with street	0 -7 4 9
m message with username	0 7
m message with website	4 12
m middle name t text	0 -16 4 -27 5 65 6 -10
m minute t text	0 -9 4 -24 5 43
m mobile again	0 -13 5 16
m mobile sm date	5 6
m mobile t number	0 -34 5 39
m mobile t phone	0 -16 4 -13 5 49 6 -8
m mobile t text	4 -24 5 39 6 -7
m mobile with birth date	0 -6 5 7
m mobile with city	5 8
m mobile with email	0 14 4 -8
m mobile with family name	0 -16 4 -6 5 27
m mobile with given name	0 -11 5 21
m mobile with message	0 -10 4 -6 5 18
m mobile with street	5 8
m month sm birth date	0 -13 5 14
m month t option	0 -25 5 28
m month t phone	0 26 5 -23
m month t text	4 -25 5 48 6 -8
m month with city	0 -8 5 9
m month with day	0 -15 5 19
m month with email	0 36 5 -32
m month with family name	0 -8 5 9
m month with full name	0 24 5 -21
m month with given name	0 -6 5 8
m month with job	0 -6 5 8
m month with organisation	0 -8 5 9
m month with website	0 36 5 -32
m month with year	0 -28 5 32
m name again	0 33 1 -10 3 -6 4 -14 5 20 6 -17
m name sm date	0 9
m name sm message	0 -9 5 10
m name sm organisation	0 -13 5 -29 6 46
m name sm product	0 27 5 -26
m name sm quantity	0 15 5 -8
m name sm start	0 9
m name suffix t text	0 11 4 -30 5 37 6 -10
m name suffix with city	0 33 5 -31
m name suffix with day	0 30 5 -28
m name suffix with family name	0 33 5 -31
m name suffix with given name	0 27 5 -25
m name suffix with job	0 23 5 -21
m name suffix with month	0 33 5 -31
m name suffix with organisation	0 33 5 -31
m name suffix with street	0 13 5 -11
m name suffix with year	0 33 5 -31
m name t long text	0 -11 4 12 5 11
m name t option	0 16 5 -10
m name t text	0 9 1 28 2 8 3 27 4 -67 5 23 6 -26
m name with birth date	0 -6 5 8
m name with city	0 -26 3 23 5 -14 6 19
m name with day	0 -7 5 9
m name with email	0 -20 1 -9 4 7 5 39 6 -14
m name with family name	0 12 4 -7 5 7
m name with full name	0 52 5 -36
m name with given name	1 -7 2 -8 3 -7 4 9 5 27 6 -12
m name with job	0 -6 5 10
m name with message	0 34 1 -7 4 -22 5 6 6 -13
m name with month	0 -8 5 10
m name with organisation	0 -15 5 27 6 -8
m name with street	0 -12 3 18 5 7 6 -9
m name with subject	0 -6 5 14
m name with website	0 15 5 -21 6 15
m name with year	0 -8 5 10
m nationality t text	0 -12 4 -29 5 56 6 -8
m newsletter hidden	0 17 5 -15
m newsletter sm newsletter	0 16 5 -14
m newsletter t option	0 34 5 -29
m newsletter t options	0 -9 5 10
m newsletter t text	0 -6 1 -6 4 -33 5 64 6 -11
m newsletter t yes/no	0 -48 4 -7 5 62
m newsletter with birth date	0 -6 5 7
m newsletter with email	4 -9 5 15
m newsletter with family name	5 6
m newsletter with full name	0 -12 5 16
m newsletter with given name	0 7
m newsletter with message	0 -19 5 26
m newsletter with subject	0 9 5 -8
m newsletter with username	0 -6 5 8
m newsletter with website	0 6
m nickname t text	0 -23 4 -34 5 79 6 -11
m ordered t date and time	0 -11 4 16
m ordered t text	0 -14 4 105 5 -71 6 -9
m ordered with email	0 -11 4 16
m organisation again	0 10 5 23 6 -30
m organisation sm organisation	0 20 6 -18
m organisation t email	5 -36 6 47
m organisation t phone	5 -29 6 38
m organisation t text	0 -26 1 -11 3 -6 4 -37 5 -80 6 150
m organisation t yes/no	0 17 6 -14
m organisation with city	0 17 5 -7 6 -6
m organisation with day	0 -11 6 10
m organisation with email	0 -16 4 -9 6 29
m organisation with family name	0 -17 6 20
m organisation with full name	0 -12 4 -7 5 -12 6 32
m organisation with given name	0 -15 6 17
m organisation with job	0 -13 5 15
m organisation with message	0 6 4 -9 5 -7 6 11
m organisation with month	0 -11 6 11
m organisation with street	0 -12 6 10
m organisation with username	6 6
m organisation with website	0 -11 4 -8 5 8 6 12
m organisation with year	0 -11 6 11
m owner t text	0 -9 4 -22 5 40
m phone again	0 20 5 -17
m phone sm date	0 35 5 -32
m phone sm organisation	5 -16 6 23
m phone t number	0 -18 5 21
m phone t phone	0 -43 1 33 2 19 3 20 4 -32 5 21 6 -13
m phone t text	0 11 1 -9 3 -6 4 -31 5 67 6 -23
m phone with birth date	5 9
m phone with city	0 22 3 -7 5 -20 6 16
m phone with email	4 -11 5 46 6 -15
m phone with family name	0 32 6 -9
m phone with full name	5 15
m phone with given name	5 32 6 -11
m phone with job	0 14 5 -6
m phone with message	0 -12 4 -9 5 39 6 -10
m phone with month	0 -7 5 11
m phone with organisation	0 -22 5 39 6 -8
m phone with street	0 24 5 -11
m phone with website	0 -11 5 17
m photo t text	0 -14 4 102 5 -72 6 -8
m postcode again	2 11 3 7 5 -12
m postcode sm address	3 7
m postcode sm start	2 7 3 8 5 -10
m postcode t text	0 -58 1 41 2 25 3 33 4 -67 5 50 6 -21
m postcode t yes/no	0 15 5 -11
m postcode with birth date	5 10
m postcode with city	0 -25 1 -8 3 14 4 -6 5 16 6 11
m postcode with day	5 6
m postcode with email	0 -12 1 -7 3 -11 5 30 6 6
m postcode with family name	0 -15 3 -7 5 48 6 -16
m postcode with given name	0 -11 5 12 6 6
m postcode with job	5 -17 6 23
m postcode with month	5 6
m postcode with organisation	0 -7 5 -7 6 22
m postcode with street	0 -15 1 -6 3 17 6 16
m postcode with website	5 -6 6 10
m postcode with year	5 6
m price t text	0 -15 4 112 5 -77 6 -10
m privacy t text	0 -14 4 -32 5 67 6 -10
m privacy t yes/no	0 -24 4 -7 5 34
m privacy with email	0 -24 4 -7 5 34
m privacy with full name	0 -13 4 -6 5 20
m privacy with message	0 -16 4 -6 5 23
m privacy with subject	0 -16 4 -6 5 23
m product again	0 20 4 -9 5 -7
m product sm amount	0 20 4 -9 5 -7
m product t text	4 110 5 -84 6 -11
m product with email	0 19 5 -9
m product with family name	0 23 4 -12 5 -7
m product with given name	0 23 4 -12 5 -7
m product with message	4 9
m quantity t number	0 17 5 -9
m quantity t text	0 -18 4 116 5 -77 6 -11
m quantity with email	0 17 5 -9
m quantity with family name	0 17 5 -9
m quantity with given name	0 17 5 -9
m quantity with organisation	0 10
m reference again	4 -21 5 24
m reference sm date	4 -6 5 11
m reference t number	0 35 4 -8 5 -20
m reference t text	0 -40 1 -12 2 -20 3 -9 4 160 5 -82
m reference with birth date	4 -20 5 12 6 14
m reference with city	0 -6 4 -14 5 11 6 12
m reference with email	4 -41 5 24 6 19
m reference with family name	4 -37 5 17 6 25
m reference with full name	4 -6 5 15 6 -6
m reference with given name	4 -24 6 27
m reference with job	0 10 5 -6
m reference with message	4 -15 5 10 6 11
m reference with month	0 29 4 -7 5 -17
m reference with organisation	4 -33 5 12 6 26
m reference with street	4 -13 5 21
m reference with subject	4 -32 5 21 6 12
m reference with website	0 14 4 -27 5 -16 6 31
m region again	0 86 2 6 3 -8 4 -15 5 -62
m region sm address	3 14 5 -14
m region sm date	0 -16 2 10 4 -7 5 11
m region sm start	0 -6 2 14 3 10 5 -16
m region t option	0 -20 5 25
m region t text	0 34 1 -14 3 14 4 -10 5 7 6 -26
m region with birth date	0 -6 5 8
m region with city	0 -7 2 7 3 27 4 -20 6 -6
m region with email	0 -13 2 9 4 -12 5 26
m region with family name	0 -34 2 11 4 -10 5 36
m region with full name	3 18 5 -11
m region with given name	0 -28 2 12 5 20
m region with organisation	0 -6 5 11
m region with street	0 -10 2 6 3 33 4 -16 5 -8
m region with subject	0 -10 5 15
m region with website	0 -11 5 16
m remember t text	0 162 1 -7 4 -39 5 -91 6 -14
m remember t yes/no	0 15 5 -11
m remember with email	0 15 5 -11
m search again	0 -14 5 -8 6 34
m search sm birth date	0 -8 5 8
m search sm username	0 9 5 -6
m search t option	0 6
m search t text	0 163 1 -16 2 -11 3 -12 4 -65 5 -73 6 16
m search with birth date	0 7 5 -6
m search with email	5 -14 6 24
m search with family name	0 17 5 -16
m search with given name	0 17 5 -16
m search with job	0 16 5 -15
m search with month	5 6
m search with organisation	0 26 5 -21
m search with website	0 33 5 -28
m search with year	0 -8 5 8
m source hidden	0 18 4 -14
m source t text	0 -10 1 -7 3 -6 4 132 5 -88 6 -16
m source with email	0 14 4 -6
m source with subject	0 7
m start sm email	4 -23 5 35
m start sm product	4 -17 5 23
m start t date	0 28 5 -16
m start t email	4 -6 5 13
m start t text	0 -19 1 -10 4 123 5 -69 6 -14
m start with city	0 18 4 -13
m start with email	1 -6 4 -11 5 25 6 -7
m start with family name	4 20 5 -16
m start with given name	4 20 5 -16
m start with message	0 24 4 -16
m start with organisation	0 27 4 -8 5 -12
m start with subject	0 17 4 -19 5 7
m start with website	4 -14 5 22
m status t option	0 11
m status t text	0 -13 4 89 5 -64 6 -7
m status with message	0 11
m status with organisation	0 11
m street again	2 8 3 55 5 -51
m street sm address	3 10
m street sm date	0 -6 2 7 3 7
m street sm start	2 9 3 10 5 -16
m street t long text	4 -7 5 24 6 -6
m street t text	0 -41 1 46 2 31 3 28 4 -71 5 33 6 -21
m street with birth date	5 9
m street with city	0 -20 1 -10 3 33 4 -6
m street with day	5 7
m street with email	0 -13 1 -6 5 23
m street with family name	0 -13 5 39 6 -13
m street with full name	3 9
m street with given name	0 -10 1 -6 4 -10 5 29
m street with job	5 -8 6 14
m street with message	5 7
m street with month	5 7
m street with organisation	6 13
m street with website	6 6
m street with year	5 7
m subject hidden	0 14 4 -12
m subject t option	0 32 4 -29
m subject t text	0 -35 1 -7 4 136 5 -71 6 -14
m subject with city	0 7
m subject with email	0 28 4 -14 5 -8
m subject with full name	0 -6 4 9
m subject with message	0 -14 4 22
m subject with organisation	0 -8 4 12
m subject with street	0 7
m subject with website	0 9
m tax number t text	0 -26 1 -8 3 -6 4 -50 5 -103 6 199
m terms t text	0 -16 1 -6 4 -35 5 75 6 -11
m terms t yes/no	0 -32 5 42
m terms with email	0 -21 5 28
m terms with full name	5 6
m terms with message	5 6
m time t text	0 -12 4 89 5 -63 6 -7
m time t time	0 19 4 -8 5 -8
m time with email	0 21 4 -9 5 -8
m time with month	0 19 4 -8 5 -8
m time with website	0 17 4 -6 5 -8
m title t text	0 -17 4 -33 5 71 6 -10
m title with city	5 10
m title with email	5 7
m title with family name	5 9
m title with given name	5 12
m title with job	5 10
m title with month	5 6
m title with organisation	5 9
m title with street	5 9
m title with year	5 6
m username again	0 10
m username sm message	0 7 5 -6
m username t option	0 19 5 -15
m username t text	0 -29 4 -22 5 73 6 -9
m username with email	0 10 4 -6
m username with family name	0 -6 5 8
m username with given name	0 -6 5 8
m username with message	0 7
m website again	0 10 5 -6
m website hidden	0 18 5 -13
m website in a sentence	0 6
m website sm organisation	5 -9 6 15
m website t long text	0 6
m website t option	0 20 5 -15
m website t text	1 -8 4 -37 5 73 6 -23
m website t web address	0 -26 4 -7 5 20 6 19
m website with birth date	5 -9 6 11
m website with city	0 10 6 -11
m website with email	0 -19 4 -12 5 35
m website with family name	0 8 5 -30 6 29
m website with full name	0 -6 4 -6 5 20 6 -7
m website with given name	0 8 5 -30 6 29
m website with message	4 -11 6 13
m website with month	0 -8 5 11
m website with organisation	0 -9 4 -7 6 21
m website with street	0 10 6 -11
m website with subject	0 13 5 -40 6 33
m year sm birth date	0 -11 5 12
m year t number	5 8
m year t option	0 -11 5 13
m year t text	0 -6 4 -16 5 30
m year with city	5 8
m year with day	0 -14 5 18
m year with family name	5 8
m year with given name	5 7
m year with month	0 -19 5 23
m year with organisation	5 8
max more	0 29 1 6 4 -22
n 08eurde	0 16 5 -13
n 1nasd	0 9 5 -6
n 92348hu	0 9 5 -6
n 984353hfid	0 9 5 -6
n about	0 10 5 -10
n accept	5 7
n add	0 25 4 -9 5 -13
n additional	0 21 4 -18
n addr	0 13 5 -11
n address	0 -6 1 18 3 18 4 -14 6 -14
n adr	0 -13 4 -11 5 34
n adres	5 6
n adresse	3 8 5 8
n afile	0 12 5 -10
n age	0 36 4 -8 5 -21
n agree	0 -18 5 27
n akismet	0 6
n album	0 12 5 -10
n all	0 6
n am	4 8
n area	0 54 4 -16 5 -28
n arguments	0 27 5 -22
n array	0 23 5 -20
n asset	0 6
n author	0 47 5 -36
n autocomplete	0 18 4 -9 5 -7
n azienda	6 7
n bank	0 10 5 -7
n base	0 9 5 -6
n bdate	0 16 4 -7 5 -8
n bday	5 7
n bdesc	0 14 4 -6 5 -7
n bedrijf	6 7
n bestellt	4 8
n betrag	0 -8 4 18 5 -6
n betreff	4 6
n bezorg	3 8
n bill	0 -12 2 44 5 -19
n billing	2 11
n billtocity	2 27 3 -10 5 -11
n billtostate	2 27 3 -10 5 -11
n billtostreet	2 23 3 -7 5 -10
n billtozip	0 -6 2 24 3 -7 5 -9
n bio	0 14 4 -7 5 -7
n birth	0 -14 4 -12 5 34
n bleiben	0 6
n bloc	0 10 5 -8
n bluete	0 13 5 -8
n bmonth	0 -12 5 12
n bname	0 -16 5 19
n body	0 -34 1 31 4 44 5 -33 6 -6
n bonus	0 7
n borrower	0 -7 5 9
n btn	0 25 4 -7 5 -15
n budget	0 6
n business	0 13 6 -8
n button	0 36 5 -22
n byear	0 -10 5 11
n card	0 -7 5 11
n cc	0 18 4 -7 5 -9
n cell	5 6
n check	0 12
n checkbox	0 20 5 -13
n checklist	0 6
n chip	0 10 5 -6
n chk	0 20 5 -19
n cislo	5 8
n city	0 21 1 15 3 11 4 -16 5 -9 6 -24
n client	0 13 5 -14
n club	6 8
n code	0 22 1 -6 3 -6 4 -18 5 16 6 -10
n color	0 18 5 -15
n commande	0 -8 4 24 5 -14
n comment	0 13 1 -6 5 -6
n comments	0 -9 5 16
n company	6 12
n compose	0 -23 4 25
n conditions	5 7
n configuration	0 10 5 -8
n consegna	3 7
n contact	4 8
n content	0 -19 4 22
n country	0 -9 5 16
n county	0 36 5 -30
n cp	0 15 5 -6
n create	0 24 5 -19
n currency	4 9
n current	0 -22 4 45 5 -20
n custom	5 14
n customer	4 -6 6 15
n d	0 7
n dark	0 9 5 -7
n data	0 -41 1 -7 4 -6 5 60
n date	0 90 4 -23 5 -46 6 -8
n datepicker	0 -6 5 7
n datetime	0 11 5 -8
n datetimepicker	0 9 5 -7
n datum	0 -7 4 25 5 -15
n day	0 -14 5 19
n default	5 9
n delivery	3 7
n desc	0 17 4 -10
n description	0 22 4 -20
n dialog	0 6
n did	4 9
n dipendenti	6 8
n direct	5 6
n display	5 7
n district	0 42 5 -32
n dob	5 9
n dostawa	3 7
n dostawy	3 7
n editor	0 16 4 -11
n email	0 -17 1 20 4 -20 5 30 6 -11
n emails	0 -22 1 29 4 -7
n empleados	6 8
n employees	6 8
n empresa	6 7
n enabled	0 7
n end	0 24 4 -10 5 -8
n enquiry	1 -7 4 14
n entrega	3 7
n entreprise	6 7
n envio	3 8
n error	0 25 5 -18
n estado	4 20 5 -16
n expiry	0 21 5 -18
n ext	0 29 5 -24
n f	0 -68 2 -15 3 -13 4 29 5 65 6 -28
n facturacion	2 9
n facturation	2 9
n factuur	2 9
n faktura	2 11
n fatturazione	2 11
n fav	0 15 5 -11
n fax	5 10
n fecha	4 19 5 -12
n file	0 18 4 -7 5 -8
n filter	0 10 5 -6
n fio	0 -23 5 29
n firm	6 7
n firma	6 9
n first	0 -10 1 13 3 8 4 -12 6 -6
n firstname	5 8
n fixed	0 11 5 -9
n flex	0 -17 5 17
n fname	0 -6 5 10
n footer	0 9 5 -6
n four	0 10 5 -8
n from	0 -8 1 -6 4 -19 5 39
n fruit	0 17 4 -6 5 -9
n full	5 12
n fulltext	0 8
n functio	0 12 5 -6
n function	0 9 4 -7
n g	0 9 5 -6
n gender	0 -7 5 10
n given	5 9
n google	0 8 5 -6
n group	0 28 5 -20
n header	0 21 5 -17
n hear	4 7
n helper	0 8 5 -6
n here	0 20 4 -15
n hives	0 7
n home	5 9
n house	0 -15 5 21
n housing	0 29 4 -8 5 -15
n how	4 11 5 -6
n human	0 18 5 -13
n imie	0 -9 1 23 2 7 3 11 4 -12 5 -16
n income	0 31 5 -23
n information	0 17 4 -14
n inline	0 11 5 -8
n inp	0 -12 5 18
n inputx	5 6
n inqbot	0 6
n invalid	0 12
n invoice	2 7
n jmeno	5 6
n job	5 7
n js	0 -25 5 43 6 -10
n key	0 -13 5 19
n keywords	0 32 5 -24
n kind	0 -6 1 -7 4 16
n kod	0 6
n kontakt	5 6
n l	0 6
n label	0 37 5 -30
n lang	0 -21 5 27
n language	0 29 4 -9 5 -16
n last	0 -9 1 13 3 7 4 -12
n lastname	4 22 5 -10
n leave	0 6 5 -6
n levering	3 7
n lief	3 11
n liefer	3 15 5 -7
n lieferung	3 7
n line	0 -11 3 36 5 -11
n livraison	3 7
n lname	0 -7 5 11
n loc	0 6
n location	0 32 5 -26
n login	0 18 5 -9
n looking	0 -17 4 27 5 -9
n ltr	0 11 4 -7
n m	0 -17 4 27 5 -9
n mail	0 -15 1 24 2 7 3 9 4 -19 5 -20 6 15
n master	0 8
n me	0 25 4 -8 5 -9
n medewerkers	6 8
n member	0 -19 1 28 4 -7
n membership	4 6
n message	0 -16 4 25 5 -6
n miasto	5 -16 6 25
n middle	5 8
n mitarbeiter	6 8
n mobile	5 8
n model	0 13 4 -9
n month	0 29 4 -6 5 -13
n msg	4 12
n multitopic	0 6
n mytext	0 10 5 -8
n n	0 15 5 -8
n nachname	0 -7 1 21 2 11 3 14 4 -12 5 -22
n naissance	5 12
n name	0 -7 1 31 2 36 3 27 4 -49 5 -28
n navbar	0 11 5 -9
n navn	5 6
n nazwisko	0 -10 1 22 2 7 3 10 4 -13 5 -12
n ne	0 -12 5 17
n new	0 11
n newsletter	5 6
n newsletters	0 -7 5 8
n nick	5 6
n nip	6 7
n nls	0 -23 5 26
n no	4 9
n nom	5 11
n nombre	5 9
n nome	5 15
n nonce	0 6
n note	0 23 4 -20
n notify	5 7
n nr	5 7
n num	0 29 5 -23
n number	1 -6 2 -9 4 -29 5 27 6 20
n nume	5 6
n numer	4 6
n numero	0 -7 4 7 6 11
n occupation	0 22 5 -19
n office	0 38 5 -31
n one	0 11
n only	0 8 5 -7
n optin	0 11 5 -8
n order	0 -14 4 37 5 -19
n ordered	0 -7 4 22 5 -13
n ordine	4 8 5 -6
n org	0 -11 5 10
n organisation	6 8
n ort	0 -11 1 24 2 10 3 8 4 -9 5 -40 6 18
n other	0 6
n outward	0 15 5 -9
n p	0 -10 2 8
n params	0 16 4 -7 5 -8
n parent	0 20 1 -10 4 -7
n party	0 -31 5 -24 6 59
n password	0 11 5 -8
n payer	2 13
n pedido	4 7
n pet	0 9 5 -6
n pg	0 10 5 -6
n phone	1 12 2 6 3 7 4 -13 5 -21 6 9
n place	6 9
n placed	0 -16 4 35 5 -16
n planning	0 10 5 -7
n plz	5 -19 6 24
n policy	5 6
n position	5 8
n post	0 26 1 -7 4 -10 6 -8
n posta	0 -7 5 12
n postal	5 7 6 10
n postcode	0 -6 1 17 2 9 3 8 4 -9 5 -19
n prefix	5 10
n privacy	5 8
n project	0 13 5 -9
n property	0 15 5 -9
n province	0 -6 5 16
n q	0 -96 1 -7 2 -6 3 -6 4 -20 5 127 6 9
n qname	0 29 5 -26
n quicksearch	0 35 4 -7 5 -27
n radio	0 17 5 -11
n range	0 12
n rank	0 13 5 -10
n read	0 8 5 -7
n rech	2 13
n rechnung	2 10
n rechnungs	2 10
n recipients	1 7
n recp	1 13 5 -11
n region	3 -8 5 19
n register	0 -16 5 16
n reglogin	0 9 5 -6
n regular	0 17 5 -14
n remember	0 12 5 -7
n rememberme	0 6
n report	0 15 5 -12
n required	5 7
n response	0 11 5 -8
n role	0 28 5 -17
n rtl	4 -10 5 16
n sample	0 6
n school	0 31 6 -28
n search	0 29 5 -22
n select	0 18 4 -11
n sender	0 -7 4 -8 5 20
n serial	0 -28 4 62 5 -30
n settlement	0 18 5 -14
n ship	3 10
n shipping	3 7
n shipto	3 8
n shiptocity	2 -10 3 27 5 -11
n shiptostate	2 -9 3 27 5 -11
n shiptostreet	0 -6 2 -7 3 24 5 -10
n shiptozip	2 -8 3 23 5 -9
n signed	0 6
n siret	6 7
n slider	0 6
n some	0 15 5 -9
n source	0 8 5 -6
n spam	0 9
n spedizione	3 7
n staff	6 11
n start	0 32 4 -14 5 -13
n state	3 20 5 -14
n status	0 10 5 -9
n str	5 -13 6 17
n strange	0 15 4 -7 5 -6
n strasse	1 18 2 11 4 -9 5 -19
n street	0 -16 1 20 2 9 3 -10 4 -19 5 12
n structure	0 10 5 -7
n subject	4 15 5 -12
n submit	0 36 4 -11 5 -22
n subscribe	0 10 4 -6 5 16 6 -12
n success	0 22 5 -19
n suffix	0 18 5 -12
n suggestions	0 18 5 -11
n supp	0 -23 4 -8 5 35
n switch	0 15 5 -11
n t	0 9
n tabler	0 22 5 -17
n tag	0 7
n tax	0 -8 5 -14 6 25
n taxes	0 12 5 -9
n team	0 -15 1 29 4 -6 5 -6
n tel	0 -8 5 22
n telefon	0 -8 1 12 2 7 3 8 4 -7 5 -31 6 20
n telefono	5 6
n telefonu	5 6
n telephone	5 6
n template	0 18 4 -9 5 -7
n term	0 -68 4 87 5 -15
n terms	0 -6 5 18
n test	0 6
n text	0 39 5 -46 6 11
n textarea	0 40 4 -21 5 -12
n three	0 13 5 -9
n ticket	0 11 5 -10
n time	0 17 4 6 5 -16
n tip	0 -21 4 27
n title	0 -57 4 34 5 33 6 -6
n token	0 46 4 -7 5 -30 6 -7
n topic	0 25 1 -9 4 -13
n total	0 30 4 -11 5 -9
n two	0 13 5 -8
n type	0 51 4 -24 5 -18
n u	0 19 5 -13
n uname	0 8 5 -7
n unit	0 -9 5 35 6 -23
n unternehmen	6 6
n url	0 19 4 -8 6 -8
n urodzenia	5 6
n us	4 9
n user	5 14 6 -12
n username	5 8
n utm	4 8
n v	0 -8 5 20
n val	0 -53 4 -12 5 68 6 8
n valid	0 12 5 -8
n validation	0 -19 5 28
n vat	6 10
n vcard	0 15 5 -8
n verein	6 7
n versand	3 7
n version	0 9 5 -7
n via	5 6
n voelker	0 6
n vorname	1 20 2 11 3 13 4 -9 5 -22
n web	0 6 4 -6 5 -7 6 11
n website	6 10
n week	0 22 5 -17
n weekly	0 6
n weui	0 -11 5 14
n who	5 8
n work	6 7
n workspace	0 23 5 -17
n wsj	0 18 4 -9 5 -7
n wysylka	3 7
n x	0 -186 2 -19 4 98 5 83
n year	0 -8 5 16
n zamowienia	4 8 5 -6
n zip	0 -19 1 18 2 9 3 24 4 -16 5 -9
n тип	0 8 5 -8
n اكتب	0 11 5 -7
n هنا	0 11 5 -7
n 请输入qq号	0 6
n 请输入号码	0 15 5 -13
n 请输入手机号	0 -11 5 12
n 请输入文本	0 29 4 -6 5 -21
n< 08eur	0 16 5 -13
n< 92348	0 9 5 -6
n< 98435	0 9 5 -6
n< addit	0 20 4 -18
n< addre	0 -6 1 18 3 18 4 -14 6 -14
n< adres	3 8 5 10
n< akism	0 6
n< anspr	5 6
n< argum	0 27 5 -22
n< auftr	4 7
n< autoc	0 18 4 -9 5 -7
n< azien	6 7
n< bedri	6 8
n< beste	0 -6 4 24 5 -12
n< billi	2 11
n< billt	0 -18 2 101 3 -34 4 -6 5 -41
n< birth	5 6
n< bleib	0 6
n< borro	0 -7 5 9
n< busin	0 13 6 -8
n< categ	4 9
n< check	0 29 5 -20
n< comma	0 -8 4 24 5 -14
n< comme	1 -8 5 9
n< compa	6 13
n< compl	5 8
n< compo	0 -23 4 25
n< condi	5 10
n< confi	0 7
n< conse	3 7
n< conta	4 8
n< conte	0 -19 4 22
n< count	0 -9 5 16
n< curre	0 -23 4 53 5 -26
n< custo	4 -6 6 15
n< datep	0 -6 5 7
n< datet	0 20 5 -15
n< defau	5 9
n< deliv	3 7
n< depar	5 8
n< descr	0 22 4 -20
n< desti	1 7
n< dipen	6 8
n< displ	5 7
n< distr	0 42 5 -32
n< dosta	3 13
n< emerg	1 10
n< emple	6 8
n< emplo	5 -6 6 13
n< empre	6 7
n< enabl	0 7
n< enqui	1 -7 4 14
n< entre	3 7 5 -7 6 6
n< event	0 7
n< factu	2 28 5 -11
n< faktu	2 11
n< famil	5 6
n< fattu	2 11
n< first	5 8
n< freun	1 7
n< fullt	0 8
n< funct	0 19 4 -9
n< gebur	4 -7 5 15
n< hecta	4 8
n< housi	0 29 4 -8 5 -15
n< impor	4 10
n< infor	0 15 4 -15
n< inter	0 -10 4 18
n< inval	0 12
n< invit	1 10
n< invoi	2 7
n< kateg	4 9
n< keywo	0 36 5 -27
n< konta	5 8
n< kunde	4 6
n< langu	0 29 4 -9 5 -16
n< lastn	4 22 5 -10
n< lever	3 7
n< liefe	3 7
n< livra	3 7
n< local	5 7
n< locat	0 32 5 -26
n< looki	0 -17 4 27 5 -9
n< medew	6 8
n< membe	4 6
n< messa	0 -16 4 26 5 -6
n< mitar	5 -6 6 13
n< mitgl	4 8
n< multi	0 8
n< nachn	0 -7 1 21 2 11 3 14 4 -12 5 -22
n< naiss	5 12
n< natio	0 -8 5 15
n< nazwi	0 -10 1 22 2 7 3 10 4 -13 5 -12
n< newsl	0 -7 5 18
n< notfa	1 7
n< occup	0 22 5 -19
n< odbio	1 7
n< order	0 -7 4 22 5 -13
n< organ	0 -6 5 -9 6 21
n< outwa	0 15 5 -9
n< passw	0 11 5 -8
n< plann	0 10 5 -7
n< posit	5 8
n< postc	0 -6 1 17 2 9 3 8 4 -9 5 -19
n< praco	6 10
n< prefe	5 6
n< prefi	5 12
n< priva	5 13
n< produ	4 15 5 -8
n< proje	0 13 5 -9
n< prope	0 15 5 -9
n< provi	0 -8 4 -7 5 22
n< quant	4 11 5 -7
n< quick	0 35 4 -7 5 -27
n< reche	0 10 5 -7
n< rechn	2 21 5 -8
n< recip	1 10
n< refer	4 6 5 -7
n< regis	0 -16 5 14
n< reglo	0 9 5 -6
n< regul	0 17 5 -12
n< remem	0 19 5 -13
n< repor	0 7 5 -6
n< requi	5 7
n< respo	0 9
n< secur	0 7
n< settl	0 18 5 -14
n< shipp	3 7
n< shipt	0 -18 2 -34 3 102 4 -6 5 -41
n< spedi	3 7
n< start	5 -6
n< stran	0 14 4 -8
n< stras	1 17 2 11 4 -9 5 -17
n< struc	0 10 5 -7
n< subje	4 15 5 -12
n< subsc	0 10 4 -6 5 16 6 -12
n< succe	0 22 5 -19
n< suffi	5 6
n< sugge	0 18 5 -11
n< telef	0 -16 1 9 4 -16 6 13
n< telep	5 6
n< templ	0 18 4 -9 5 -7
n< texta	0 40 4 -21 5 -12
n< unter	6 7
n< urodz	5 6
n< usern	5 8
n< valid	0 -19 5 28
n< versa	3 7
n< versi	0 9 5 -7
n< voelk	0 6
n< vorna	0 -6 1 20 2 11 3 13 4 -10 5 -20
n< websi	6 10
n< works	0 23 5 -17
n< wysyl	3 7
n< zamow	4 8 5 -6
n< znajo	1 7
ne address more	0 -8 5 32 6 -22
ne city	0 23 5 -21
ne email	6 15
ne message	0 -14 4 10 5 8
ne name	0 27 3 -16 5 -11
ne phone	5 -11 6 18
ne postcode	6 6
ne start	4 -7 5 12
ne street	6 6
ne subject	4 8 5 -7
nm address	3 -10 4 -15 5 42 6 -8
nm address more	0 -16 4 -10 5 58 6 -25
nm age	0 18 4 -17 5 14
nm amount	0 8 4 52 5 -38 6 -8
nm area	0 22 4 43 5 -46 6 -7
nm birth date	0 -21 4 -11 5 45
nm birth day	5 11
nm birth month	5 12
nm birth name	0 -7 4 -10 5 26
nm birth place	0 -6 4 -8 5 20
nm birth year	4 -6 5 14
nm captcha	0 61 4 -15 5 -34
nm city	0 -9 1 27 2 7 3 6 4 -36 5 -6 6 15
nm consent	0 -13 4 -15 5 42
nm country	0 -16 4 -13 5 41
nm currency	0 -11 4 45 5 -26
nm date	0 36 1 -11 2 -8 3 -8
nm day	0 -15 4 -7 5 31
nm department	0 -9 4 -11 5 29
nm dialling code	4 -13 5 25
nm email	0 -37 1 39 2 8 3 10 4 -39 5 20
nm email again	0 -8 4 -10 5 27
nm employees	0 -18 4 -18 5 -38 6 83
nm end	0 10 4 41 5 -35 6 -6
nm family name	0 -32 1 24 2 7 3 14 4 -17 5 23 6 -12
nm fax	0 -7 4 -8 5 20
nm follow-up	0 -9 4 -10 5 27
nm full name	1 11 4 -27 5 28 6 -11
nm gender	0 -16 4 -12 5 38
nm given name	0 -26 1 25 2 9 3 15 4 -29 5 27 6 -15
nm hour	0 -7 4 -9 5 22
nm house number	0 -9 4 -13 5 31
nm identity number	0 -8 4 -11 5 27
nm interests	4 56 5 -42 6 -7
nm job	0 12 4 -14 5 26 6 -13
nm kind	0 29 1 -10 4 41 5 -44 6 -9
nm language	0 -6 4 -20 5 41
nm message	0 17 1 -11 4 56 5 -42 6 -8
nm middle name	0 -11 4 -12 5 33
nm minute	0 -6 4 -8 5 19
nm mobile	0 -18 4 -18 5 56 6 -8
nm month	4 -10 5 28
nm name	0 25 1 6 2 25 3 7 4 -28 5 -27 6 -6
nm name suffix	0 10 4 -10 5 9
nm nationality	0 -8 4 -10 5 26
nm newsletter	1 -7 4 -21 5 55 6 -17
nm nickname	0 -12 4 -13 5 36
nm ordered	0 -13 4 55 5 -31
nm organisation	1 -10 3 -6 4 -15 5 -64 6 103
nm owner	4 -7 5 18
nm phone	0 -30 1 17 2 8 3 9 4 -34 5 18 6 16
nm photo	0 -9 4 46 5 -29
nm postcode	0 -23 1 24 2 11 3 21 4 -39 6 9
nm price	0 -10 4 51 5 -31
nm privacy	0 -12 4 -15 5 39
nm product	0 -9 4 53 5 -32
nm quantity	0 -6 4 53 5 -34 6 -6
nm reference	1 -7 2 -9 4 53 5 -27
nm region	0 15 1 -9 2 -8 3 6 4 -9 5 19 6 -14
nm remember	0 65 4 -15 5 -37
nm search	0 92 1 -13 2 -9 3 -10 4 -35 5 -18
nm source	4 56 5 -37 6 -9
nm start	0 11 1 -9 4 35 5 -18 6 -10
nm status	4 34 5 -29
nm street	0 -30 1 25 2 12 3 16 4 -42 5 11 6 11
nm subject	0 9 4 46 5 -36 6 -8
nm tax number	0 -15 4 -19 5 -42 6 86
nm terms	0 -20 4 -16 5 51
nm time	0 11 4 31 5 -31
nm title	0 -13 4 -13 5 40 6 -7
nm username	4 -12 5 35 6 -16
nm website	0 9 1 -8 4 -25 5 12 6 21
nm year	0 -10 4 -6 5 24
no label	0 21 1 -20 2 -32 3 -25 4 28 5 41 6 -16
nw address	0 -31 4 -14 5 56 6 -6
nw address more	0 -8 4 -10 5 27
nw age	0 14 4 -16 5 16
nw amount	4 45 5 -32 6 -6
nw area	4 53 5 -41 6 -6
nw birth date	0 -17 4 -10 5 37
nw birth day	5 11
nw birth month	5 12
nw birth name	0 -7 4 -10 5 26
nw birth place	0 -6 4 -8 5 20
nw birth year	4 -6 5 14
nw captcha	0 59 4 -15 5 -33
nw city	0 -37 1 -6 2 -7 4 -21 5 56 6 19
nw consent	4 -14 5 28
nw country	0 -16 4 -13 5 41
nw currency	0 -11 4 45 5 -26
nw date	1 -10 2 -6 3 -7 4 16 5 9
nw day	0 -14 4 -7 5 29
nw department	0 -9 4 -11 5 29
nw dialling code	4 -13 5 25
nw email	0 -35 4 -29 5 54 6 14
nw email again	0 -8 4 -10 5 27
nw employees	0 -18 4 -18 5 -38 6 83
nw end	0 10 4 41 5 -35 6 -6
nw family name	0 -22 2 -6 5 51 6 -9
nw fax	0 -7 4 -8 5 20
nw follow-up	0 -9 4 -10 5 27
nw full name	0 17 2 -9 4 -27 5 38 6 -7
nw gender	0 -16 4 -12 5 38
nw given name	0 -17 4 -17 5 54 6 -9
nw hour	0 -7 4 -9 5 22
nw house number	0 -9 4 -13 5 31
nw identity number	0 -8 4 -11 5 27
nw interests	4 56 5 -42 6 -7
nw job	0 9 4 -14 5 27 6 -12
nw kind	1 -26 4 66 5 -33 6 -6
nw language	0 -6 4 -20 5 41
nw message	0 8 4 61 5 -48 6 -7
nw middle name	0 -9 4 -12 5 30
nw minute	0 -6 4 -8 5 19
nw mobile	0 -18 4 -18 5 56 6 -8
nw month	4 -9 5 25
nw name	0 -69 1 -8 2 26 3 19 4 -15 5 46
nw name suffix	0 -11 4 -10 5 29
nw nationality	0 -8 4 -10 5 26
nw newsletter	4 -19 5 32
nw nickname	0 -10 4 -13 5 33
nw ordered	0 -13 4 55 5 -31
nw organisation	0 19 4 -12 5 -50 6 54
nw owner	4 -7 5 18
nw phone	0 -20 4 -26 5 41 6 6
nw photo	0 -9 4 46 5 -29
nw postcode	0 -26 3 11 4 -22 5 39 6 12
nw price	0 -10 4 51 5 -31
nw privacy	0 -11 4 -15 5 38
nw product	0 -12 4 55 5 -32
nw quantity	0 -6 4 53 5 -34 6 -6
nw reference	1 -7 2 -9 4 53 5 -27
nw region	0 -50 1 -6 2 -7 3 11 5 66 6 -11
nw remember	0 58 4 -14 5 -32
nw search	0 38 1 -10 2 -7 3 -9 4 -30 5 21
nw source	0 -12 4 65 5 -36 6 -8
nw start	1 -7 4 50 5 -26 6 -8
nw status	0 -8 4 39 5 -25
nw street	0 -20 1 -6 2 -6 3 9 4 -25 5 40 6 13
nw subject	0 10 4 38 5 -29 6 -8
nw tax number	0 -15 4 -19 5 -42 6 86
nw terms	0 -14 4 -16 5 43
nw time	0 6 4 34 5 -30
nw title	0 -10 4 -13 5 35 6 -6
nw username	0 -18 4 -9 5 39
nw website	0 -41 4 -18 5 47 6 25
nw year	0 -8 4 -6 5 21
n~ a	0 -70 4 -28 5 89 6 21
n~ an	0 -6 5 9
n~ cc	0 18 4 -7 5 -9
n~ de	5 10
n~ do	4 14 5 -13
n~ from	0 -8 1 -6 4 -19 5 39
n~ to	0 -9 1 73 4 -22 5 -28 6 -9
n~ von	4 13 5 -8
options few	0 71 1 -7 2 -6 3 -6 4 21 5 -62 6 -9
options genders	0 -10 5 13
options some	0 85 1 -16 3 -10 4 -43 6 -16
options titles	0 -22 5 25
options yes or no	0 6
p 16位数卡号	0 11 5 -7
p 92348h	0 7
p 984353hfid	0 7
p acme	0 29 5 -21
p add	0 17 4 -6 5 -8
p address	0 -15 1 11 4 -9 5 16
p az	5 9
p captain	0 11 5 -8
p com	0 -14 1 19 5 7
p company	0 -14 1 22
p cool	0 -9 5 14
p corp	0 21 5 -15
p date	0 12 5 -6
p eg	0 35 5 -24
p em	0 7 5 -6
p email	0 -14 5 20 6 -6
p emprego	0 -8 5 9
p felhasznaloi	5 6
p full	5 6
p functietitel	0 -8 5 9
p here	0 9 5 -6
p https	5 8
p james	5 7
p keywords	0 11 5 -7
p kirk	5 7
p like an address	5 8
p like an e-mail	0 -14 1 19 5 7
p love	0 -17 4 27 5 -9
p message	0 -10 4 14
p michael	0 -13 1 26
p name	5 12
p nasd	0 7
p neve	0 -8 5 10
p note	0 21 4 -20
p numele	5 7
p papel	0 7 5 -6
p problem	0 19 4 -18
p projectrol	0 8 5 -7
p projekcie	0 7
p projekt	0 8 5 -7
p projektben	0 9 5 -8
p projeto	0 7 5 -6
p proyecto	0 6
p redesign	0 8
p report	0 10 5 -10
p required	5 12
p rol	0 6
p rola	0 7
p rolle	0 8 5 -7
p sarah	0 -13 1 26
p select	0 8
p solving	0 19 4 -19
p stanowisko	0 -7 5 8
p stillingsbetegnelse	5 6
p szerepkor	0 9 5 -8
p t	5 7
p tag	0 11
p title	0 11 5 -7
p titulo	0 -8 5 9
p type	0 25 4 -21
p u	0 7
p um	0 7 5 -6
p un	0 6
p untouched	0 8
p url	5 8
p utilizator	5 7
p website	0 8
p what	4 8 5 -9
p в	0 12 5 -11
p проекте	0 12 5 -11
p роль	0 12 5 -11
p 填写本人微信号	0 25 5 -19
p 填写本人微信号的昵称	5 7
p 填写绑定的电话号码	0 -18 5 21
p 请输入	0 11 5 -7
p 请输入号码	0 24 4 -6 5 -13
p 请输入手机号	0 -17 5 21
p 请输入持卡人姓名	0 17 5 -11
p 请输入金额	0 -27 4 50 5 -21
p< 98435	0 7
p< addre	0 -15 1 11 4 -9 5 16
p< capta	0 11 5 -8
p< compa	0 -14 1 22
p< empre	0 -9 5 6
p< felha	5 6
p< funct	0 -8 5 9
p< keywo	0 11 5 -7
p< messa	0 -10 4 14
p< micha	0 -13 1 26
p< probl	0 19 4 -18
p< proje	0 39 5 -33
p< proye	0 6
p< redes	0 8
p< requi	5 12
p< solvi	0 19 4 -19
p< stano	0 -7 5 8
p< still	5 6
p< szere	0 9 5 -8
p< untou	0 8
p< utili	5 7
p< websi	0 8
p< проек	0 12 5 -11
p< 填写本人微	0 20 5 -12
p< 填写绑定的	0 -18 5 21
p< 请输入持卡	0 17 5 -11
pe message	0 11 4 -6
pm address	0 -12 5 18
pm city	0 9
pm date	0 23 4 -9 5 -11
pm email	0 -16 5 31 6 -8
pm full name	5 6
pm job	0 -14 5 16
pm kind	0 25 4 -21
pm message	0 16 4 -7 5 -7
pm organisation	0 -16 1 22 6 6
pm search	0 14 5 -9
pw address	0 -12 5 17
pw email	1 8 4 -7 5 9
pw full name	5 6
pw job	0 -7 5 8
q billing	0 -45 1 -57 2 424 3 -39 4 -25 5 -260 6 -42
q delivery	0 -41 1 -68 2 -37 3 435 4 -40 5 -279 6 -48
q else	0 -68 1 425 2 -71 3 -84 4 -62 5 -343 6 -88
q home	5 14
q second	4 -7 5 12
q work	0 72 1 -7 4 -12 5 -13 6 -34
qs billing	0 17 4 -12
qs delivery	2 -6 3 74 4 -6 5 -61
qs else	0 -6 5 11
qs work	0 42 1 -6 4 6 6 -36
s 600px	0 6
s abide	5 12
s account	0 -15 5 23
s add	0 32 5 -28
s address	2 -6 3 74 4 -6 5 -61
s advanced	0 37 4 -10 5 -21
s alerts	0 6
s all	5 10
s article	0 -9 1 25 4 -18
s b	5 10
s bar	0 9
s be	0 7
s beallitasok	0 -15 5 17
s big	0 13 5 -6
s billing	0 17 4 -12
s bind	0 9 4 -9 5 6
s binding	0 11 1 -6 2 -13 3 -23 4 26 5 14 6 -8
s borrower	0 8 3 -7 5 11
s box	0 -13 1 11 4 7
s business	0 42 6 -36
s by	0 8 5 -6
s calendar	0 25 4 -6 5 -17
s cambodia	0 8 4 -7
s changed	0 20 4 -9 5 -7
s chat	4 6
s check	0 29 5 -25
s cim	5 7
s city	0 24 4 -11 5 -9
s comment	4 -7 5 12
s company	5 -32 6 35
s complex	5 9
s components	0 -7 5 11
s connect	0 8
s contact	0 -7 5 13
s container	0 15 3 -6
s controls	0 37 4 -10 5 -21
s count	0 31 5 -19
s create	0 -21 5 25
s crunchbase	0 -15 4 21
s data	1 -10 2 8 4 20 6 -13
s datepicker	0 17 5 -10
s david	0 13 5 -6
s deadline	0 13 5 -6
s default	5 11
s demo	0 43 5 -29
s detail	0 13 5 -8
s dialog	0 24 4 -19
s dialogs	0 38 4 -46 5 13
s dijit	0 50 5 -34
s direccion	5 7
s discussion	0 -11 5 10
s dojo	0 -10 2 24 3 24 5 -29
s dropdown	0 6
s editor	0 24 4 -19
s elements	0 56 4 -26 5 -11 6 -18
s email	0 -15 1 36 4 -8 5 -7
s emails	0 6
s enquiry	0 11 4 -8
s episode	0 13 5 -6
s error	0 -9 5 19
s europe	0 33 5 -30
s example	0 33 1 -8 2 -14 3 -26 4 13 5 13 6 -10
s expenses	0 35 4 -8 5 -19
s faceboo	0 -11 5 10
s felhasznaloi	0 -15 5 17
s fields	0 40 4 -15 5 -16
s find	0 13
s firma	0 -7 5 -50 6 68
s fixed	0 7
s forms	0 69 4 -50 5 -10
s free	0 33 5 -30
s friend	0 -6 5 11
s from	2 44 3 21 4 -7 5 -42 6 -6
s game	0 6
s geburtsdatum	0 -15 5 18
s general	0 38 4 -46 5 13
s generate	0 13 4 -9
s get	0 6
s got	4 9
s group	3 -6 5 9
s haswell	0 14
s hello	0 17 5 -14
s hi	0 -20 4 26
s hierarchical	0 27 3 -9 4 9 5 -16
s income	0 36 4 -14 5 -14
s information	0 7 3 -7 5 14
s inputs	0 80 4 -10 5 -59 6 -7
s inregistrare	5 8
s inside	0 9
s insider	0 -11 5 10
s intel	0 14
s invalid	0 -8 5 6
s invites	0 -13 1 11 4 7
s item	0 42 4 -10 5 -30
s jobs	0 16 5 -11
s join	0 -11 5 10
s json	0 -10 2 24 3 24 5 -29
s kitchen	5 10
s launches	0 -13 1 11 4 7
s layout	5 9
s lead	0 -14 4 13 5 23 6 -19
s learn	5 8
s liberty	0 33 5 -30
s lieberman	0 13 5 -6
s list	0 13
s lists	0 12 5 -8
s logged	0 7
s login	0 -7 5 8
s ltr	0 11 4 -8
s management	0 12 5 -7
s master	0 13 5 -8
s md	0 -24 5 27
s media	0 13 5 -6
s member	0 -34 5 41
s memory	0 -10 2 24 3 24 5 -29
s menu	0 -9 5 14
s message	0 15 4 10 5 -18
s messages	0 -9 5 19
s mixed	5 10
s model	2 21 3 22 4 -6 5 -31
s models	0 13
s money	0 6
s more	5 8
s multiline	4 -9 5 28
s must	0 7
s nak	0 -15 5 17
s navbar	0 7
s nested	5 6
s new	0 90 4 -24 5 -54
s newsletter	0 16 5 -12
s newsletters	0 -24 5 27
s no	0 8 4 -7
s nod	0 -15 5 16
s non	0 10
s office	0 8 4 -7
s onboarding	0 10 1 22 5 -20
s one	0 12 5 -8
s order	0 -20 4 22
s organisation	0 -9 4 -14 5 -23 6 50
s original	0 13
s partners	0 -7 2 22 5 -11
s people	0 12 5 -8
s persisted	0 10
s person	0 -8 4 -10 5 24
s phon	0 12 5 -8
s picker	4 -14 5 17
s post	0 -7 4 -6 5 20
s preview	0 6
s pro	0 14
s profile	0 34 4 -9 5 10 6 -26
s push	0 8 4 -7
s radio	0 33 5 -30
s rainsy	0 8 4 -7
s ref	5 10
s refs	5 10
s register	5 7
s regisztracio	5 7
s related	0 20 6 -12
s repeat	0 11
s replace	0 13
s report	0 42 4 -18 5 -20
s rev	0 -13 1 11 4 7
s rows	0 31 5 -19
s rtl	4 -11 5 15 6 -6
s run	0 8 4 -7
s sam	0 8 4 -7
s say	0 -20 4 26
s sdk	0 -13 1 11 4 7
s search	0 19 5 -12
s select	0 -9 4 24
s selected	0 51 4 -10 5 -33
s self	0 9 4 -9 5 6
s send	0 9 4 7 5 -7
s services	0 22 5 -18
s set	5 8
s share	1 38 6 -31
s shipping	2 -6 3 74 4 -6 5 -61
s sign	0 -7 5 14
s signup	5 6
s simple	2 24 3 24 4 -12 5 -32
s simulated	0 24 4 -19
s sink	5 10
s sony	0 14
s specify	5 10
s sponsors	0 -20 4 32
s start	0 -15 5 16
s state	0 -8 5 6
s states	0 30 5 -12
s store	0 -10 2 24 3 24 5 -29
s story	1 38 6 -31
s submit	0 33 5 -20
s subscribe	0 8
s sug	0 -6 5 13
s suggestions	5 7
s tabler	0 17 5 -11
s take	0 24 4 -15 5 -6
s team	0 29 5 -25
s tell	4 9
s term	0 -16 4 26 5 6
s test	0 25 5 -14
s tests	0 9 4 -9 5 6
s text	0 9
s their	0 12 5 -8
s time	0 8
s tip	4 9
s top	0 9
s total	0 20 4 -9 5 -7
s transactions	4 13 5 -8
s ui	0 56 4 -26 5 -11 6 -18
s underlined	5 9
s up	0 -8 5 12
s update	0 20 4 -9 5 -6
s urodzenia	0 -12 5 13
s us	0 -14 4 22
s user	0 12 5 -7
s username	0 -29 5 37
s using	0 -25 2 23 3 24 5 -13
s usuario	0 -6 5 8
s vaio	0 14
s valid	0 -8 5 6
s validate	0 29 5 -25
s validation	0 78 1 -6 3 -6 4 -13 5 -37 6 -10
s video	0 14
s videos	0 26 5 -8 6 -11
s voa	0 13 5 -9
s want	0 -9 4 13
s ways	5 10
s web	0 -24 5 27
s week	0 16 5 -12
s welcome	0 17 5 -11
s when	0 20 4 -9 5 -6
s wide	0 6
s widget	0 12 5 -8
s widgets	0 58 4 -8 5 -40
s within	0 -9 5 14
s wizard	0 10 1 22 5 -20
s work	0 -9 4 13
s yet	0 8 4 -7
s адреса	0 14 1 -6 3 -12 5 12
s адресу	0 6 5 11
s в	0 -6 5 9
s ввод	0 6
s ввода	0 8 3 -11 5 11
s все	0 26 3 -8 5 -6
s вызове	5 7
s город	5 6
s гранулярные	0 24 3 -9 6 -8
s для	0 7 3 -11 5 12
s и	5 6
s ограничиваем	0 -6 5 9
s однои	0 6
s ошибка	5 7
s по	0 19 3 -9 5 9 6 -8
s подсказках	0 -6 5 9
s подсказки	0 24 3 -9 6 -8
s поиска	0 -6 5 9
s поля	0 26 3 -8 5 -6
s при	5 7
s сектор	0 -6 5 9
s строкои	0 6
s улица	5 6
s фиас	0 13
s форма	0 8 3 -11 5 11
s 内联日历	0 6
s 原生选择框	0 15 5 -10
s 底部悬浮表单	0 -18 5 23
s 模拟选择框	0 27 5 -19
s 表单	0 52 4 -14 5 -26
s 表单结构	0 7 4 -11 5 13
s 输入框状态	4 41 5 -36
script cyrillic	0 -13 1 -28 2 -14 3 -30 4 -15 5 106
script east asian	0 51 1 -19 2 -14 3 -17 4 -18 5 68 6 -49
script other	0 -17 1 -10 2 -35 3 -26 4 16 5 40 6 -10
script right to left	0 10 4 -16 5 27 6 -11
several	0 32 4 -19 5 6 6 -7
sm address	0 7 1 -9 2 -9 3 58 4 -7 5 -24 6 -13
sm amount	0 20 4 -9 5 -7
sm birth date	0 -41 5 47
sm city	0 30 4 -12 5 -10
sm date	0 14 1 -10 2 9 4 20 5 -17 6 -13
sm email	0 -15 1 36 4 -8 5 -7
sm full name	0 -7 5 13
sm message	0 30 1 -8 5 -10 6 -6
sm newsletter	5 10
sm organisation	0 28 1 -11 3 -8 4 -15 5 -105 6 117
sm product	0 33 1 25 4 -28 5 -26
sm quantity	0 31 5 -19
sm region	0 -8 5 6
sm search	0 19 5 -12
sm start	0 -19 2 42 3 20 4 -7 5 -26
sm street	5 6
sm time	0 8
sm username	0 -24 5 39
sm website	0 -26 5 29
strange label	0 125 1 -17 2 -45 3 -32 4 8 5 -67 6 21
strange name	0 169 1 -25 2 -30 3 -30 5 16
t date	0 6 1 -6 4 8 5 9 6 -7
t date and time	0 8 4 12 5 -14
t email	0 -81 1 23 2 13 3 23 4 -66 5 63 6 20
t file	0 27 4 -12 5 -12
t long text	0 -11 1 11 2 -17 3 -16 4 147 5 -80 6 -32
t number	0 53 1 -10 2 -9 3 -7 4 -19 5 8 6 -15
t option	0 76 1 -24 2 -11 3 -15 5 12 6 -32
t options	0 19 4 -13
t phone	0 -60 1 22 2 12 3 14 4 -53 5 57 6 11
t text	0 -50 1 -42 2 -41 3 -42 4 31 5 54 6 9
t time	0 19 4 -8 5 -8
t web address	0 -50 4 -15 5 61 6 14
t yes/no	0 69 1 -21 2 -10 3 -11 4 -44 5 55 6 -34
with birth date	0 21 1 -16 2 -16 3 -20 4 -51 5 82
with city	0 41 1 -17 2 14 3 52 4 -43
with day	0 9 2 -8 3 -9 4 -20 5 62 6 -23
with email	0 13 1 12 2 19 3 -19 4 24 5 7 6 -16
with family name	0 8 2 34 5 17 6 -29
with full name	0 -33 1 -7 2 14 3 37 4 49 5 11 6 -53
with given name	0 -31 2 35 4 -18 5 17 6 14
with job	0 55 1 -16 2 -17 3 -18 4 -37 5 38
with message	0 21 1 -35 2 -19 3 -25 4 119 6 -59
with month	0 120 1 -18 2 33 3 -17 4 -63 5 9 6 -43
with organisation	0 -18 1 -20 2 -38 3 -44 4 -90 5 -24 6 210
with street	0 -39 1 -8 2 -12 3 58 4 11 5 10
with subject	0 11 1 14 2 -19 3 -21 4 87 5 -61
with username	0 30 2 -11 3 -8 4 -56 5 68 6 -13
with website	0 53 1 11 2 -27 3 -30 4 -27 5 6 6 24
with year	0 -32 2 -9 3 -10 4 -23 5 96 6 -26`;
