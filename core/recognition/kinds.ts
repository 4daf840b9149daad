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
import { closeKeysOfPerson, keysOfPerson, packPerson, unpackPerson } from './person-index.ts';
import {
  comparePeople,
  peopleApart,
  PeopleFrequencies,
  preparePerson,
  type Person,
  type PersonRecord,
} from './person.ts';

/**
 * Counts changes of how records are packed and by which keys they are found. Raised with every such change, so that
 * an index made before is read anew.
 */
export const METHOD = 3;

export const PEOPLE: Kind<PersonRecord, Person, PeopleFrequencies> = {
  prepare: preparePerson,
  frequencies: () => new PeopleFrequencies(),
  keys: keysOfPerson,
  closeKeys: closeKeysOfPerson,
  compare: comparePeople,
  apart: peopleApart,
  mark: ({ born }) => (born ? born.year * 10_000 + born.month * 100 + born.day : 0),
  // As dates of birth are compared: where year, month and day all differ.
  marksApart: (a, b) =>
    a !== 0 &&
    b !== 0 &&
    a % 100 !== b % 100 &&
    Math.floor(a / 10_000) !== Math.floor(b / 10_000) &&
    Math.floor(a / 100) % 100 !== Math.floor(b / 100) % 100,
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
