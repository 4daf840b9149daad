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

export const peopleMatcher = (records: Iterable<PersonRecord>, thresholds?: Thresholds) =>
  Matcher.of(PEOPLE, records, thresholds);
export const organisationMatcher = (records: Iterable<OrganisationRecord>, thresholds?: Thresholds) =>
  Matcher.of(ORGANISATIONS, records, thresholds);
