import { fold } from '../values/index.ts';

const CYRILLIC =
  'а a б b в v г g д d е e ё e ж zh з z и i й i к k л l м m н n о o п p р r с s т t у u ф f х kh ц ts ч ch ш sh щ shch ы y э e ю yu я ya і i ї i є e ґ g';
const GREEK = 'α a β v γ g δ d ε e ζ z η i θ th ι i κ k λ l μ m ν n ξ x ο o π p ρ r σ s ς s τ t υ y φ f χ ch ψ ps ω o';
const LATIN = new Map(pairsOf(`${CYRILLIC} ${GREEK}`));

function pairsOf(text: string): [string, string][] {
  const words = text.split(' ');
  return words.flatMap((word, at): [string, string][] => (at % 2 === 0 ? [[word, words[at + 1]!]] : []));
}

/**
 * A name as it is compared: without case and accents, in Latin letters, ü and ue and u alike (Müller, Mueller,
 * Muller).
 */
export function canonical(text: string): string {
  return [...fold(text)]
    .map((letter) => LATIN.get(letter) ?? letter)
    .join('')
    .replace(/ъ|ь/g, '')
    .replace(/(?:ae|oe|ue)/g, (umlaut) => umlaut[0]!);
}

/** Words of a name as they are compared. */
export const canonicalWords = (text: string): string[] => canonical(text).split(' ').filter(Boolean);

/**
 * A key by sound over the spelling habits of German, Polish, English, French and Spanish: alike where names are heard
 * rather than read (Meyer, Maier; Schmidt, Szmit). Of our own; coarser than what any one language needs.
 */
export function sound(word: string): string {
  const known = heardBefore.get(word);
  if (known !== undefined) return known;
  const heard = heardAs(word);
  // Names repeat: most of them are heard once. Bounded, since anybody may send anything.
  if (heardBefore.size >= 200_000) heardBefore.clear();
  heardBefore.set(word, heard);
  return heard;
}

const heardBefore = new Map<string, string>();

function heardAs(word: string): string {
  const heard = word
    .replace(/[^a-z]/g, '')
    .replace(/tsch|tch|cz/g, 'c')
    .replace(/sch|sh|sz/g, 's')
    .replace(/ph/g, 'f')
    .replace(/th/g, 't')
    .replace(/dt/g, 't')
    .replace(/ck|ch|q/g, 'k')
    .replace(/c(?=[eiy])|z/g, 's')
    .replace(/c/g, 'k')
    .replace(/x/g, 'ks')
    .replace(/w/g, 'v')
    .replace(/d(?=$)/g, 't')
    .replace(/h/g, '')
    .replace(/[jy]/g, 'i');
  const first = heard[0] ?? '';
  const rest = heard.slice(1).replace(/[aeiou]/g, '');
  return (/[aeiou]/.test(first) ? 'a' : first) + rest.replace(/(.)\1+/g, '$1');
}

/** Short forms, and forms of one name in several languages; a name may stand in several lines. */
const GROUPS = `
alexander alex alec sascha sasha sandro aleksander alexandre alejandro olek xander lex
alexandra alex sandra sascha aleksandra alejandra ola olga
andreas andi andy andre andrew andrzej andres drew jedrzej
anna anne ann anni annie ania anja anka annika hanna hannah nan nancy ana anita
agnieszka agnes aga inez ines
barbara barb babs basia barbel baerbel babette
bartholomaus bartlomiej bartek bart
benjamin ben benni benny beniamin
bernhard bernd bernard berndt berni bernie benno
boguslaw bogdan bogus
bozena bozenka
brigitte gitte gitta birgit bridget brygida
caroline karoline carolin karolina carolina caro karola lina carrie carol
catherine katherine katharina katarzyna kathrin katrin kathryn kate katie kathi kathy cathy kasia kati catalina karin kay
charles charlie chuck karl carl karol carlos karel
charlotte lotte lotti charlie lottie
christian chris kristian krystian christiaan
christina christine tina christa kristin kristina krystyna chris krysia cristina chrissy tine kirsten
christoph christopher chris krzysztof krzys kit christophe cristobal topher stoffel
claudia klaudia claudi
daniel dan danny daniele dani
david dave dawid davy
deborah debbie deb
dorothea dorothy dora dorota doro thea dotti dorothee
dominik dominic dom
edward ed eddie ted eduard edek eduardo ned
eleanor eleonore ella nell nelly ellie lenore eleonora
elisabeth elizabeth liz lizzy beth betty elsa else elise lisa liesel lisbeth sissi bettina elzbieta ela isabel isabella libby eliza elsbeth betsy
emil emile emilio
emily emilia emilie emmy milly
erich eric erik eryk
eva eve ewa evi ewka evita
ferdinand ferdi fernando
florian flori
frances francesca franziska franciszka fran fanny franzi sissi
francis frank franz franciszek francisco francesco paco franek pancho
friederike rike frederike fredericka frieda
friedrich frederick fred fritz freddy fryderyk frederic federico frits
gabriele gabriela gabi gaby gabrielle
georg george jorg joerg jerzy jurgen juergen jorge georges jurek giorgio joris
gerhard gerd gerard gert hardy gerrit
gertrud gertrude trude trudi gerti
gisela gisa gila
gottfried geoffrey jeff geoff
gregor gregory greg grzegorz grzes
gunther gunter guenther
hans johann johannes jan john hannes jean juan giovanni jack johnny ivan iwan jon ian sean jens janek hanns
heinrich henry heinz harry henryk hinnerk henri enrique hein heiner hal hank henning rik
helene helena helen lena leni ellen hela elena nel
herbert bert herb bertie
hubert hubertus bert
ingeborg inge inga
irene irena irka ira
jacob jakob jake jakub kuba james jim jimmy jaime diego jacques jamie jack
jadwiga jadzia hedwig hedi
jessica jess jessie
joachim achim jochen jo joakim
joanna johanna joan jane joanne asia hanna janina jana jeanne juana hanne joasia
jolanta jola yolanda
jonathan jon jonny nathan
joseph josef jozef joe jupp sepp jose giuseppe jozek beppo pepe josip jo
josephine josefine jozefa josie fine josefa
judith judy jutta judyta
julia julie julianne julka juliana juliet jule giulia
julius julian jules juliusz julien
justyna justine justina
kazimierz kazik casimir
klaus claus nicholas nikolaus nick nicolas mikolaj nico niklas niels klas miklos nicki nils nicola
konrad conrad kurt conny
kornelia cornelia conny nele nelly
laura lora laure lori
lawrence laurence lorenz larry lars wawrzyniec lorenzo laurent laurenz
leonard leo lennart len leon lennard leonhard lenny leonardo
leopold leo poldi
louis ludwig ludwik luis lewis lou luigi lutz
louise luise luiza lulu luisa
lucia lucy lucie luzie lucja
lukas luke lucas lukasz luc
magdalena magda lena madeleine madlen magdalene leni maddy magdalen
malgorzata gosia margaret margarete margarethe maggie meg peggy greta grete gretchen rita margot marguerite margarita marge margit daisy malgosia
manfred manni fred
marek markus mark marcus marc marco marcos
maria mary marie mia mimi maja marysia marianne mariana maryla molly polly mitzi miriam ria moira maryam
marianne marian mari anne
martin marcin marty martijn
martina tina marcjanna
matthias mathias matthew matt hias mateusz maciej matteo matthieu matthis mats mateo thies
maximilian max maksymilian maksym
melanie mel melly
michael mike mick michal michel mischa michi miguel mickey mikael misha micha
michaela michelle michalina michi
monika monica moni moniek
natalie natalia nat natasza natascha tasha
nikola nicole nicola nikki nici
norbert bert nobbi
oliver olli ollie oliwer olivier
oskar oscar ossi
otto odo
patricia pat patty patrycja trish tricia
patrick pat patryk paddy patrizio
paul pawel pablo paolo pavel pauli
pauline paulina paula polly
peter pete piotr pit pedro pierre piet pietro piotrek petr peer
petra peta
philipp philip phil filip felipe philippe
rachel rahel rachela ray
rafal raphael rafael rafe ralph
rebecca rebekka becky becca
reinhard reinhardt reiner rainer reini
renate renata rena nate
richard rick dick rich ryszard ricardo rico richie rysiek
robert bob rob bobby bert robin rupert roberto robbie
roland rolf rollo
rosalind rosa rose rosi rosalinde roz linda rosie rosalia
rosemarie rose rosemary rosi marie romy
rudolf rudi rolf rudolph rudy
ruth ruthie
samuel sam sammy
sarah sara sally sadie
sebastian basti seb bastian wastl sebastien
sibylle sybil sibylla bille
siegfried sigi siggi zygfryd
sigrid siri
sigismund zygmunt sigmund zygi
simon szymon simeon sim
sophie sofie sofia zofia zosia sophia sonia sonja fia
stanislaw stan stanislaus staszek stash stanley
stephan stefan steve stephen steven szczepan stephane esteban steffen steph
stephanie stefanie steffi stefania steph
susanne susan sue susi zuzanna suzanne zuza sanne susie sanna susanna
sylwia silvia sylvia silke sylvie
tadeusz tadek thaddaus thaddeus ted
teresa theresa theresia resi terri therese tess tessa
theodor theo ted teodor dorian theodore
thomas tom tommy tomasz tomek tomas thom
timothy tim timo timotheus tymoteusz timm
ulrich uli ulli ulrik ullrich utz
ulrike uli ulli ulla rike ulrika
ursula ulla uschi urszula ula ulli ursel orsola
valentin val walenty valentino
veronika vroni veronica weronika ronnie vera nika
victoria viktoria vicky wiktoria vicki tori
vincent vinzenz wincenty vince vinnie
waldemar waldi wladimir vladimir wlodzimierz wlodek
walter walt wally gualtiero
wanda wandzia
werner wern
wilhelm william bill will willi willy wilm guillermo guillaume billy liam wim wilek helmut
wilhelmine wilma mina minna helma willa
winifred winnie freda fred
wojciech wojtek adalbert albert
wolfgang wolf wolfi wolle
yvonne iwona ivonne
zbigniew zbyszek zbych
zdzislaw zdzich
ludmila mila ludka
tobias tobi toby
telse elsabe
jan jannik janik yannick jannis
lars laurentius
kathleen kath kathy cathleen
`;

const groupsOf = new Map<string, number[]>();
GROUPS.trim()
  .split('\n')
  .forEach((line, group) => {
    for (const name of new Set(line.trim().split(' ').map(canonical)))
      groupsOf.set(name, [...(groupsOf.get(name) ?? []), group]);
  });

/** Names that people are called by rather than entered under. */
const INFORMAL = new Set(
  (
    'alex alec sandra sascha sasha olek xander lex ola andi andy drew andre ann anni annie ania anja nan ana anita barb babs basia bart ben benni benny bernd bernie benno bogus bridget gitte gitta birgit ' +
    'caro lina carrie carol karin kate katie kathi kathy cathy kasia kati kay charlie chuck lotte lotti lottie chris tina tine krysia crissy kit krzys topher stoffel claudi danny dan dave debbie deb dora doro dotti ' +
    'ed eddie ted edek ned nell nelly ellie ella liz lizzy beth betty elsa else lisa liesel lisbeth sissi ela libby betsy emmy milly evi ewka ferdi flori fran fanny franzi sissi frank paco franek pancho ' +
    'rike fritz fred freddy gabi gaby jurek gerd gert trude trudi jeff geoff grzes greg hans hannes jack johnny janek harry heinz hinnerk heiner hein hal hank rik lena leni nel hela bert herb inge inga ira irka ' +
    'kuba jake jim jimmy jadzia hedi jess jessie achim jochen jo asia joasia jola jon jonny joe jupp sepp pepe beppo josie fine judy julka jule kazik klas claus klaus nick nico nicki conny kurt nele lora lars larry len ' +
    'lenny leo poldi lou lutz lulu luc magda maddy gosia maggie meg peggy greta grete gretchen margot rita daisy manni mia mimi marysia molly polly matt hias maciej max mel mick mischa michi mike mickey misha moni nat tasha ' +
    'nikki olli ollie pat patty trish tricia paddy pete piet petra peer phil ray becky becca reiner rena rick dick rich rico bob rob bobby robbie rolf rosi rosie romy rudi rudy sam sammy sally basti seb sigi siggi zygi ' +
    'zosia sonia sonja stan staszek stash steve steffen steffi steph sue susi zuza sanne tadek resi tess theo tom tommy tomek tim timo uli ulli utz ulla uschi val vroni ronnie vera vicky vicki tori vince waldi wlodek walt wally ' +
    'bill will willi willy billy liam wim helma mina minna winnie freda wojtek wolf wolfi wolle iwona zbyszek zdzich mila tobi toby jannik kath'
  ).split(' '),
);

export type SameName = 'a short form' | 'one name in two languages';

/** How two given names, as compared, are forms of one; undefined: they aren't. */
export function sameByForm(a: string, b: string): SameName | undefined {
  const of = groupsOf.get(a);
  if (!of || !groupsOf.get(b)?.some((group) => of.includes(group))) return undefined;
  const short = Math.min(a.length, b.length);
  const alike =
    a.slice(0, 3) === b.slice(0, 3) || (short <= 5 && a.length !== b.length && a.slice(0, 2) === b.slice(0, 2));
  return alike || INFORMAL.has(a) || INFORMAL.has(b) ? 'a short form' : 'one name in two languages';
}

/** One form for all forms of a given name, for finding it again. */
export const formsOf = (name: string): readonly number[] => groupsOf.get(name) ?? [];

const PARTICLES = new Set(
  'von vom van der den dem de del della di da do dos du la le les zu zum zur af av ten ter te el al bin ibn y e'.split(
    ' ',
  ),
);

/** The words of a family name that tell it apart: without particles, unless there is nothing else. */
export function familyWords(text: string): string[] {
  const words = canonicalWords(text);
  const telling = words.filter((word) => !PARTICLES.has(word));
  return telling.length > 0 ? telling : words;
}
