import { canonical } from './names.ts';

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
alexander alexandros alexandru sandor aleksandar oleksandr aleksandr sasha sanya shura iskander
alexei aleksey oleksiy oleksii alyosha lyosha alex
anastasia anastasiya nastya asya nastja stacy
andrei andriy andrii andrej ondrej ondra andras bandi
anton antonin antal antoni antonius toni tony tonda antek antos anthony antonio antoine
alois aloysius lojza loisl
bartholomew bartholomaus bart bartek
bohdan bogdan
bohumil mila
boris borys borya
cornelis cornelius kees cor nelis
dimitri dmitri dmitry dmytro dima mitya dimitrios dimitris mitsos dimitar
ekaterina kateryna yekaterina katya katja katerina aikaterini katka kaca
emma emmi emmy
evgeni yevgeny yevhen evgeny zhenya eugene eugen eugeniusz gienek
evangelia evangelos vangelis litsa
felix fe feliks
ferenc feri francis franz
gerd gerhard gellert
georgi georgy heorhiy yura georgios yorgos giorgos jorgos gheorghe gyorgy gyuri jiri jirka
grigory hryhoriy grisha grigorios
gunter gunther gunni
halyna galina halina hala halinka galya
heinrich hendrik henk rik henrik hinrich
helga olga olha olya olenka
igor ihor
ilya illia ilia elias elijah
imre imi
ioana ioannis yannis giannis ion ionut ionel nelu ivan ioan janos jani jancsi
irina iryna ira irynka irena
istvan isti pista
ivan vanya vanja iwan
jacques jacky james
jan janne johan johannes jannes johanna hans jens
jaroslav jarda jarek jaroslaw
josef josip jozsi jozsef pepa pepik iosif
karol karoly karel karcsi kaja
katalin kati kata kitty
konstantin kostya kostas konstantinos kostiantyn
krisztian christian
laszlo laci ladislav vladislav ladislaus
leonhard leonie leo
lidia lida lydia
ljubov lyubov lyuba
ludek ludvik ludwik
lubomir lubos
magda magdolna
mehmet muhammed mohammed muhammad mohamed
milan miloslav milos
miroslav mirek mirko mirka miroslaw
mustafa
natalya nataliya nataliia natalka natasha nathalie natalie
nikolai mykola nikolay kolya nikolaos nikos klaas nicolae nicu miklos mikulas
oksana ksenia xenia ksenya
oleg oleh
olena elena helena lena olenka jelena yelena
panagiotis panos takis
pavlo pavel pasha pawel pavlos
petro pyotr petr petya petros piotr petar peter
radoslaw radek radoslav
roman roma romek
sergei serhiy sergey serhii seryozha serge sergiusz
sofia sofiya sonya zsofia zsofi
stanislav stas stanislaw standa
svetlana svitlana sveta
sandor alexander
szabolcs
tatiana tetyana tetiana tanya tanja tania
tomas tamas tomi
vaclav vasek wenzel waclaw
valeria valery lera
vasily vasyl vasilis vasilios vasya bazyli basil
viktor victor vitya wiktor
vladimir volodymyr vova wladimir volodya wladek vlado
vyacheslav viacheslav slava
yaroslav jaroslav
yelizaveta elizabeth liza yelyzaveta
yuri yury yuriy yurii juri jerzy
yulia julia iuliia yuliya yulya
zuzana zuzka susanne zsuzsanna zsuzsa
ahmet ahmed
ayse aisha
tomasz tomek tomcio
grzegorz grzesiek grzes
katarzyna kaska kasia
malgorzata malgosia goska
krzysztof krzysiek
piotr piotrek
marcin marcinek
stanislaw stasiek stas
zofia zoska zosia
szymon szymek
michal michalek
maciej maciek
jakub kubus jakubek
natalia natalka
agnieszka aga agusia
aleksandra ola olenka
barbara baska basienka
beata beatka
danuta danka danusia
dariusz darek
elzbieta elka elzunia
ewelina ewelinka
iwona iwonka
izabela iza
jacek jacus
jaroslaw jarek
jozef jozek
justyna justysia
kamil kamilek
kinga kinia
leszek lech
lukasz lukaszek
mariusz mariuszek
mieczyslaw mietek
miroslaw mirek
pawel pawelek
patrycja patka
przemyslaw przemek
rafal rafalek
ryszard rysiek
slawomir slawek
sylwester sylwek
wieslaw wiesiek
wladyslaw wladek
zygmunt zygmus
babsi barbara
matze matthias
schorsch georg
kalle karl karlheinz
wolfgang wolle
leonie leo
gunther gunni
jurgen jurn
heinz heinrich
detlef detlev
dietmar didi dieter
hartmut hardy
hildegard hilde
irmgard irmi
karlheinz kalle
klausi klaus
mathilde tilda hilde
niklas nik nikolas
rosemarie rosi
tommi thomas
valentina vali valentin
ziska franziska
greg gregor
becci rebecca
chrissi christina christine
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
    'kasia kaska gosia goska krzysiek piotrek tomek maciek staszek stasiek szymek michalek kuba kubus zosia zoska grzesiek aga agusia baska danka darek elka iza jarek jozek justysia mietek mirek natalka patka przemek rysiek slawek sylwek wiesiek wladek marcinek babsi matze schorsch kalle wolle gunni didi hardy hilde irmi klausi nik rosi tommi vali ziska greg becci chrissi sasha sanya shura alyosha lyosha nastya asya nastja borya dima mitya katya katja zhenya gienek yura grisha vangelis litsa olya hala galya kolya pasha petya seryozha sveta tanya tanja vasya vitya vova volodya slava yulya zuzka zsuzsa lida lyuba kostya kostas panos takis nikos mitsos yannis giannis laci pista isti jancsi jozsi feri imi kati kata zsofi pepa pepik standa vasek honza jirka ondra tonda lojza mila klaas kees cor henk rik henk piet wim toon bas teun loes mieke ' +
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
