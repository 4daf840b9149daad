import { Counter, hash32 } from './hash.ts';
import type { KindName, Part } from './document.ts';
import type { Organisation } from './organisation.ts';
import type { Person } from './person.ts';
import type { PreparedRecord } from './recogniser.ts';

/** A key of one or more parts, exactly compared, and how well it tells records apart. */
export interface KeyMeasure {
  parts: Part[];
  /** Records with a value in every part. */
  filled: number;
  /** Of these, records that share it with another. */
  shared: number;
  of: number;
}

const SINGLE_AND_TOGETHER: Record<KindName, Part[][]> = {
  person: [
    ['email'],
    ['phone'],
    ['last_name'],
    ['first_name', 'last_name'],
    ['first_name', 'last_name', 'postcode'],
    ['first_name', 'last_name', 'birth_date'],
    ['birth_date'],
    ['postcode'],
    ['city'],
    ['street'],
    ['first_name'],
  ],
  organisation: [
    ['name'],
    ['name', 'city'],
    ['name', 'postcode'],
    ['website'],
    ['email'],
    ['phone'],
    ['postcode'],
    ['city'],
    ['street'],
  ],
};

/** Measures keys over all known records, in one pass and a few bytes a record. */
export class KeyMeter {
  private readonly counters: Counter[];
  private readonly keys: Part[][];
  private of = 0;

  constructor(
    private readonly kind: KindName,
    parts: readonly Part[],
  ) {
    this.keys = SINGLE_AND_TOGETHER[kind].filter((key) => key.every((part) => parts.includes(part)));
    this.counters = this.keys.map(() => new Counter());
  }

  add(record: PreparedRecord): void {
    this.of += 1;
    this.keys.forEach((key, at) => {
      const value = keyValue(this.kind, record, key);
      if (value !== undefined) this.counters[at]!.add(hash32(value));
    });
  }

  measures(): KeyMeasure[] {
    return this.keys.map((parts, at) => {
      const pairs = this.counters[at]!.pairs();
      let [filled, shared] = [0, 0];
      for (let index = 1; index < pairs.length; index += 2) {
        filled += pairs[index]!;
        if (pairs[index]! > 1) shared += pairs[index]!;
      }
      return { parts, filled, shared, of: this.of };
    });
  }
}

/** The values of a key as one text; undefined where a part is blank. */
export function keyValue(kind: KindName, record: PreparedRecord, key: readonly Part[]): string | undefined {
  const values = key.map((part) =>
    kind === 'person' ? personPart(record as Person, part) : organisationPart(record as Organisation, part),
  );
  return values.every((value) => value !== '') ? values.join('\u001f') : undefined;
}

function personPart({ given, family, email, phones, address, born, organisation }: Person, part: Part): string {
  if (part === 'first_name') return given.join(' ');
  if (part === 'last_name') return family.join(' ');
  if (part === 'email') return email?.whole ?? '';
  if (part === 'phone') return phones[0]?.digits ?? '';
  if (part === 'mobile') return phones[1]?.digits ?? '';
  if (part === 'birth_date') return born ? `${born.year}-${born.month}-${born.day}` : '';
  if (part === 'organisation') return organisation.join(' ');
  return addressPart(address, part);
}

function organisationPart({ words, host, email, phone, address }: Organisation, part: Part): string {
  if (part === 'name') return words.join(' ');
  if (part === 'website') return host;
  if (part === 'email') return email?.whole ?? '';
  if (part === 'phone') return phone?.digits ?? '';
  return addressPart(address, part);
}

function addressPart(address: Person['address'], part: Part): string {
  if (!address) return '';
  if (part === 'street') return address.street && `${address.street} ${address.number}`;
  if (part === 'postcode') return address.postcode;
  return part === 'city' ? address.city : '';
}
