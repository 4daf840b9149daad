import { Matcher, type Kind, type Thresholds } from './matcher.ts';
import {
  closeKeysOfOrganisation,
  compareOrganisations,
  keysOfOrganisation,
  OrganisationFrequencies,
  packOrganisation,
  prepareOrganisation,
  unpackOrganisation,
  type Organisation,
  type OrganisationRecord,
} from './organisation.ts';
import {
  closeKeysOfPerson,
  comparePeople,
  keysOfPerson,
  packPerson,
  PeopleFrequencies,
  preparePerson,
  unpackPerson,
  type Person,
  type PersonRecord,
} from './person.ts';

export const PEOPLE: Kind<PersonRecord, Person, PeopleFrequencies> = {
  prepare: preparePerson,
  frequencies: () => new PeopleFrequencies(),
  keys: keysOfPerson,
  closeKeys: closeKeysOfPerson,
  compare: comparePeople,
  pack: packPerson,
  unpack: unpackPerson,
};

export const ORGANISATIONS: Kind<OrganisationRecord, Organisation, OrganisationFrequencies> = {
  prepare: prepareOrganisation,
  frequencies: () => new OrganisationFrequencies(),
  keys: keysOfOrganisation,
  closeKeys: closeKeysOfOrganisation,
  compare: compareOrganisations,
  pack: packOrganisation,
  unpack: unpackOrganisation,
};

function* prepared<Raw, Prepared>(records: Iterable<Raw>, prepare: (record: Raw) => Prepared): Iterable<Prepared> {
  for (const record of records) yield prepare(record);
}

export const peopleMatcher = (records: Iterable<PersonRecord>, thresholds?: Thresholds) =>
  new Matcher(PEOPLE, prepared(records, preparePerson), thresholds);
export const organisationMatcher = (records: Iterable<OrganisationRecord>, thresholds?: Thresholds) =>
  new Matcher(ORGANISATIONS, prepared(records, prepareOrganisation), thresholds);
