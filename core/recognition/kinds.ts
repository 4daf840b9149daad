import { Matcher, type Kind, type Thresholds } from './matcher.ts';
import {
  compareOrganisations,
  keysOfOrganisation,
  OrganisationFrequencies,
  prepareOrganisation,
  type Organisation,
  type OrganisationRecord,
} from './organisation.ts';
import {
  comparePeople,
  keysOfPerson,
  PeopleFrequencies,
  preparePerson,
  type Person,
  type PersonRecord,
} from './person.ts';

export const PEOPLE: Kind<PersonRecord, Person, PeopleFrequencies> = {
  prepare: preparePerson,
  frequencies: () => new PeopleFrequencies(),
  keys: keysOfPerson,
  compare: comparePeople,
};

export const ORGANISATIONS: Kind<OrganisationRecord, Organisation, OrganisationFrequencies> = {
  prepare: prepareOrganisation,
  frequencies: () => new OrganisationFrequencies(),
  keys: keysOfOrganisation,
  compare: compareOrganisations,
};

export const peopleMatcher = (records: Iterable<PersonRecord>, thresholds?: Thresholds) =>
  new Matcher(PEOPLE, records, thresholds);
export const organisationMatcher = (records: Iterable<OrganisationRecord>, thresholds?: Thresholds) =>
  new Matcher(ORGANISATIONS, records, thresholds);
