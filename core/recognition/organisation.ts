import { mistyped } from './distance.ts';
import { agreeing, summed, type Compared, type Evidence, type Lines } from './evidence.ts';
import { Frequency } from './frequency.ts';
import type { Commonness } from './matcher.ts';
import { sound } from './names.ts';
import {
  addressKey,
  addressOf,
  compareAddresses,
  compareEmails,
  comparePhones,
  emailFrom,
  emailOf,
  hostOf,
  phoneFrom,
  phoneOf,
  wordsIn,
  wordsOf,
  type Address,
  type Email,
  type Phone,
} from './parts.ts';
import { countryCode } from './person.ts';

/** An organisation as it comes; blank is the same as absent. */
export interface OrganisationRecord {
  id: string;
  name?: string | undefined;
  website?: string | undefined;
  email?: string | undefined;
  phone?: string | undefined;
  street?: string | undefined;
  city?: string | undefined;
  postcode?: string | undefined;
  country?: string | undefined;
}

export interface Organisation {
  id: string;
  /** The words of its name that tell it apart. */
  words: string[];
  legal: string;
  host: string;
  email: Email | undefined;
  phone: Phone | undefined;
  address: Address | undefined;
}

/** Legal forms, as compared, with the one each stands for. */
const LEGAL = new Map<string, string>();
for (const line of `gmbh; gesellschaft mit beschrankter haftung; mbh
ag; aktiengesellschaft
kg; kommanditgesellschaft
ug; unternehmergesellschaft
ohg
gbr
ev; eingetragener verein; e v
eg; eingetragene genossenschaft; e g; genossenschaft
ek; e k; e kfr; inh; inhaber
ltd; limited
llp
plc
inc; incorporated; corp; corporation
llc
co; company; cie; und co; and co
spzoo; sp z oo; sp z o o; spolka z o o
sa; spolka akcyjna; societe anonyme
sarl; eurl; sas
sl; srl; spa; bv; nv; vof
stiftung; foundation; fundacja`.split('\n')) {
  const [short, ...long] = line.split(';').map((each) => each.trim());
  for (const form of [short!, ...long]) LEGAL.set(form, short!);
}
const FILLING = new Set('and und et y i en e the der die das of fur for von le la les de du del di'.split(' '));
const ALIKE = new Map(
  'gebr gebruder brothers bros bracia|st sankt saint san|dr doktor doctor|soc society gesellschaft towarzystwo societe|assoc association verein verband stowarzyszenie|intl international|mfg manufacturing|univ university universitat uniwersytet|coop cooperative genossenschaft spoldzielnia|farm hof gospodarstwo ferme|orchard orchards obsthof sad obstgut'
    .split('|')
    .flatMap((group) => group.split(' ').map((word) => [word, group.split(' ')[0]!] as const)),
);

export function prepareOrganisation(record: OrganisationRecord): Organisation {
  const all = wordsOf((record.name ?? '').replace(/(?<=\b\p{L})\.(?=\s?\p{L}\b)/gu, ''));
  const { words, legal } = withoutLegal(all);
  const telling = words.filter((word) => !FILLING.has(word));
  return {
    id: record.id,
    words: telling.length > 0 ? telling : all,
    legal,
    host: hostOf(record.website),
    email: emailOf(record.email),
    phone: phoneOf(record.phone, countryCode(record.country)),
    address: addressOf(record),
  };
}

function withoutLegal(all: readonly string[]): { words: string[]; legal: string } {
  const words: string[] = [];
  let legal = '';
  for (let at = 0; at < all.length; ) {
    const found = [5, 4, 3, 2, 1].find(
      (size) => at + size <= all.length && LEGAL.has(all.slice(at, at + size).join(' ')),
    );
    // A form stands behind a name, seldom before it; "Co" at the start is a name.
    if (found && (at > 0 || found > 1) && all.length > found) {
      const form = LEGAL.get(all.slice(at, at + found).join(' '))!;
      legal ||= form;
      at += found;
    } else words.push(all[at++]!);
  }
  return { words, legal };
}

export class OrganisationFrequencies implements Commonness<Organisation> {
  readonly word: Frequency = new Frequency(1 << 13);
  host: Frequency = new Frequency(1 << 14);
  email: Frequency = new Frequency(1 << 20, 0.05);
  phone: Frequency = new Frequency(1 << 18, 0.1);
  address: Frequency = new Frequency(1 << 15);
  readonly postcode: Frequency = new Frequency(1 << 12);
  private readonly cities: Frequency = new Frequency(2);

  add({ words, host, email, phone, address }: Organisation): void {
    for (const word of new Set(words)) this.word.add(word);
    if (host) this.host.add(host);
    if (email) this.email.add(email.whole);
    if (phone) this.phone.add(phone.digits);
    if (address) {
      this.address.add(addressKey(address));
      if (address.postcode) this.postcode.add(address.postcode);
      for (const word of address.city.split(' ')) if (word.length > 2) this.cities.add(word);
    }
  }

  isPlace(word: string): boolean {
    return DIRECTIONS.has(word) || this.cities.count(word) > 0;
  }

  kept(): Uint32Array[] {
    const { word, postcode, cities, host, email, phone, address } = this;
    const totals = new Uint32Array([host.size, email.size, phone.size, address.size]);
    return [word.kept(), postcode.kept(), cities.kept(), totals];
  }

  takeUp([word, postcode, cities, totals]: readonly Uint32Array[]): void {
    if (!word || !postcode || !cities || !totals) return;
    this.word.takeUp(word);
    this.postcode.takeUp(postcode);
    this.cities.takeUp(cities);
    this.host = this.host.among(totals[0] ?? 0);
    this.email = this.email.among(totals[1] ?? 0);
    this.phone = this.phone.among(totals[2] ?? 0);
    this.address = this.address.among(totals[3] ?? 0);
  }

  around(atHand: readonly Organisation[]): this {
    const here = Object.assign(Object.create(OrganisationFrequencies.prototype) as this, this);
    here.host = this.host.among(this.host.size);
    here.email = this.email.among(this.email.size);
    here.phone = this.phone.among(this.phone.size);
    here.address = this.address.among(this.address.size);
    for (const { host, email, phone, address } of atHand) {
      if (host) here.host.addHere(host);
      if (email) here.email.addHere(email.whole);
      if (phone) here.phone.addHere(phone.digits);
      if (address) here.address.addHere(addressKey(address));
    }
    return here;
  }
}

const DIRECTIONS = new Set(
  'nord sud ost west north south east central mitte zentrum filiale branch oddzial niederlassung standort depot'.split(
    ' ',
  ),
);

interface NameLevel extends Evidence {
  /** Both name a place, and not the same: two branches. */
  branches?: true;
  /** One of them names a place that the other doesn't. */
  oneBranch?: true;
}

function compareOrganisationNames(
  one: readonly string[],
  other: readonly string[],
  common: OrganisationFrequencies,
): NameLevel | undefined {
  if (one.length === 0 || other.length === 0) return undefined;
  // Words are paired greedily: always from the same side, so that either way comes to the same.
  const [a, b] = one.join(' ') <= other.join(' ') ? [one, other] : [other, one];
  const about = 'name';
  const rare = (word: string): number => Math.max(0.5, common.word.bits(word));
  const whole = (words: readonly string[]): number => words.reduce((sum, word) => sum + rare(word), 0);
  if ([...a].sort().join(' ') === [...b].sort().join(' ') || a.join('') === b.join(''))
    return { about, level: a.join('') === b.join('') ? 'same' : 'same words', bits: Math.min(20, whole(a)) };
  const left = [...b];
  const missing: string[] = [];
  let matched = 0;
  let off = 0;
  for (const word of a) {
    const at = bestOf(word, left);
    if (!at) missing.push(word);
    else {
      matched += Math.min(rare(word), rare(left[at.index]!), at.quality < 1 ? 9 : 99) * at.quality;
      off += at.quality < 1 ? 1 : 0;
      left.splice(at.index, 1);
    }
  }
  if (joined(a, b) || joined(b, a)) return { about, level: 'same but for its spaces', bits: Math.min(18, whole(a)) };
  if (acronym(a, b) || acronym(b, a)) return { about, level: 'an acronym', bits: 6 };
  const branches = missing.some((word) => common.isPlace(word)) && left.some((word) => common.isPlace(word));
  const oneBranch = !branches && [...missing, ...left].some((word) => common.isPlace(word));
  const lost = Math.min(whole(missing), whole(left)) * 0.9 + Math.max(whole(missing), whole(left)) * 0.25;
  const bits = Math.max(-10, Math.min(18, matched - lost));
  const level =
    matched === 0
      ? 'different'
      : missing.length + left.length === 0
        ? off > 0
          ? 'letters off'
          : 'same words'
        : 'in part the same';
  return {
    about,
    level,
    bits: matched === 0 ? -10 : bits,
    ...(branches ? { branches: true as const } : {}),
    ...(oneBranch ? { oneBranch: true as const } : {}),
  };
}

function bestOf(word: string, words: readonly string[]): { index: number; quality: number } | undefined {
  let best: { index: number; quality: number } | undefined;
  words.forEach((other, index) => {
    const quality = likeness(word, other);
    if (quality > (best?.quality ?? 0)) best = { index, quality };
  });
  return best;
}

function likeness(a: string, b: string): number {
  if (a === b) return 1;
  if (ALIKE.has(a) && ALIKE.get(a) === ALIKE.get(b)) return 0.9;
  if (a.length > 3 && b.length > 3 && mistyped(a, b)) return 0.8;
  const [short, long] = a.length < b.length ? [a, b] : [b, a];
  if (short.length >= 3 && long.startsWith(short) && long.length - short.length >= 2) return 0.6;
  return a.length > 4 && b.length > 4 && sound(a) === sound(b) ? 0.6 : 0;
}

/** "Obst Hof Brandt" is "Obsthof Brandt". */
const joined = (a: readonly string[], b: readonly string[]): boolean =>
  a.length > b.length && a.join('') === b.join('');

/** First letters for the words; those of the legal form may follow, which the words here don't have. */
function acronym(a: readonly string[], b: readonly string[]): boolean {
  if (a.length !== 1 || b.length < 2 || a[0]!.length < 3) return false;
  const letters = b.map((word) => word[0]).join('');
  return a[0] === letters || (letters.length >= 2 && a[0]!.startsWith(letters) && a[0]!.length - letters.length <= 3);
}

/** Free mailboxes say nothing about who owns them. */
const FREE = /^(gmail|gmx|web|outlook|hotmail|yahoo|icloud|t-online|freenet|wp|onet|o2|interia|post|mail)\./;

/** Whether two organisations are one, with the weight of every field. Symmetric. */
export function compareOrganisations(a: Organisation, b: Organisation, common: OrganisationFrequencies): Compared {
  const name = compareOrganisationNames(a.words, b.words, common);
  const address = compareAddresses(a.address, b.address, { whole: common.address, postcode: common.postcode }, -4);
  const hosts = [a.host, b.host] as const;
  const web: Evidence | undefined =
    hosts[0] && hosts[1]
      ? hosts[0] === hosts[1]
        ? { about: 'website', level: 'same', bits: Math.min(12, common.host.bits(hosts[0]) - 0.5) }
        : { about: 'website', level: 'different', bits: -3 }
      : undefined;
  const domains = [a, b].map(({ email, host }) => host || (email && !FREE.test(email.domain) ? email.domain : ''));
  const domain: Evidence | undefined =
    !web && domains[0] && domains[0] === domains[1] ? { about: 'domain', level: 'same', bits: 7 } : undefined;
  const legal: Evidence | undefined =
    a.legal && b.legal
      ? {
          about: 'legal form',
          level: a.legal === b.legal ? 'same' : 'different',
          bits: a.legal === b.legal ? 0.7 : -1.5,
        }
      : undefined;
  const evidence = [
    name && { about: name.about, level: name.level, bits: name.bits },
    web,
    domain,
    domain ? undefined : mailbox(compareEmails(a.email, b.email, common.email)),
    comparePhones(a.phone, b.phone, common.phone),
    address,
    legal,
  ];
  if (name?.branches) return summed(evidence, { why: 'branches at different places', atMost: 'different' });
  const agree = independent(agreeing(evidence));
  const onTheWeb = agree.some(({ about }) => about === 'website' || about === 'domain' || about === 'e-mail');
  // Few words in common, and more that aren't, is another name.
  if (name && (name.level === 'different' || name.bits < -4)) {
    // Renamed: its address on the web is still its own, and home or telephone say so too.
    if (agree.length >= 2 && onTheWeb) return summed(evidence, undefined, RENAMED);
    return summed(
      evidence,
      { why: 'different names', atMost: 'unsure' },
      { same: 0, unsure: agree.length >= 2 ? -3 : 0 },
    );
  }
  const apart = streetsApart(a.address, b.address, address);
  const line = comparePhones(a.phone, b.phone, common.phone)?.level;
  const mail = compareEmails(a.email, b.email, common.email)?.level;
  const held = line === 'same' || mail === 'same' || mail === 'the same shared mailbox';
  if (apart && !held && name?.oneBranch)
    return summed(evidence, { why: 'a branch at another place', atMost: 'different' });
  // One name at two places is as likely two branches, or two namesakes, as one that moved.
  if (apart && !held) {
    const sameSite = agree.some(({ about }) => about === 'website' || about === 'domain');
    if (!sameSite) return summed(evidence, { why: 'two places', atMost: 'different' });
    return summed(evidence, { why: 'two places', atMost: 'unsure' }, { same: 0, unsure: 3 });
  }
  if (!name) return summed(evidence, { why: 'one of them has no name', atMost: 'unsure' });
  return summed(evidence, undefined, agree.length >= 2 ? TWO_AGREE : undefined);
}

const RENAMED: Lines = { same: -7, unsure: -6, why: 'another name, but it is found at the same places' };
const TWO_AGREE: Lines = { same: -3, unsure: 0, why: 'two things agree beside the name' };

/** A website and a mailbox under its name are one agreement. */
function independent(agree: readonly Evidence[]): Evidence[] {
  const site = agree.some(({ about }) => about === 'website' || about === 'domain');
  return agree.filter(({ about }) => !site || about !== 'e-mail');
}

function streetsApart(a: Address | undefined, b: Address | undefined, compared: Evidence | undefined): boolean {
  return !!a?.street && !!b?.street && ['different', 'same place', 'same postcode'].includes(compared?.level ?? '');
}

/** A shared mailbox is what an organisation has: it says more of it than of a person. */
const mailbox = (email: Evidence | undefined): Evidence | undefined =>
  email?.level === 'the same shared mailbox' ? { ...email, bits: 11 } : email;

export function keysOfOrganisation({ words, host, email, phone, address }: Organisation): string[] {
  const keys: string[] = [];
  if (host) keys.push(`h ${host}`);
  if (email) {
    keys.push(`e ${email.plain}@${email.domain}`);
    if (!FREE.test(email.domain)) keys.push(`h ${email.domain}`);
  }
  if (phone) keys.push(`p ${phone.last}`);
  const telling = words.filter((word) => word.length > 2);
  for (const word of telling) keys.push(`w ${sound(word)}`, `t ${word.slice(0, 4)}`);
  keys.push(`j ${words.join('').slice(0, 8)}`);
  if (words.length >= 3) keys.push(`c ${words.map((word) => word[0]).join('')}`);
  if (words.length === 1 && words[0]!.length <= 6) keys.push(`c ${words[0]!}`);
  if (address?.street)
    keys.push(`a ${address.street.slice(0, 7)} ${address.number} ${(address.postcode || address.city).slice(0, 3)}`);
  // Of a common word there are too many; with the place there aren't.
  if (address?.city) for (const word of telling) keys.push(`p ${sound(word)} ${address.city.slice(0, 6)}`);
  for (const [at, word] of telling.entries())
    for (const other of telling.slice(at + 1, at + 4)) keys.push(`v ${[sound(word), sound(other)].sort().join(' ')}`);
  return [...new Set(keys)];
}

/** Keys that two about the same organisation share, and others seldom do. */
export const closeKeysOfOrganisation = (organisation: Organisation): string[] =>
  keysOfOrganisation(organisation).filter((key) => /^[hepjv] /.test(key));

const PARTED = '\u001f';

/** A prepared organisation as one short text. */
export function packOrganisation({ words, legal, host, email, phone, address }: Organisation): string {
  return [
    words.join(' '),
    legal,
    host,
    email?.whole ?? '',
    phone?.digits ?? '',
    ...(address ? [address.street, address.number, address.postcode, address.city] : ['', '', '', '']),
  ].join(PARTED);
}

export function unpackOrganisation(id: string, packed: string): Organisation {
  const [words, legal = '', host = '', email, phone, street, number, postcode, city] = packed.split(PARTED);
  return {
    id,
    words: wordsIn(words),
    legal,
    host,
    email: email ? emailFrom(email) : undefined,
    phone: phone ? phoneFrom(phone) : undefined,
    address:
      street || postcode || city
        ? { street: street ?? '', number: number ?? '', postcode: postcode ?? '', city: city ?? '' }
        : undefined,
  };
}
