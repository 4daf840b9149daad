import type { ItemKind } from '../forms/hosted/index.ts';
import type { Meaning } from '../mapping/index.ts';

/** What a starting point asks for: a meaning, not a field; which field that is, the connected system says. */
export interface Want {
  means: Meaning;
  /** What people call it; where the system has a field for it, that one's label takes its place. */
  label: string;
  kind: ItemKind;
  required?: true;
  /** Asked for whether or not the system has a place for it. */
  kept?: true;
}

/** A form to begin with. */
export interface StartingPoint {
  key: string;
  name: string;
  /** What it is for, in a sentence. */
  about: string;
  /** What its records are called, the likeliest first; one step for each that the system has. */
  records: readonly (readonly string[])[];
  wants: readonly Want[];
  /** Rows that repeat, e.g. of an order. */
  rows?: { label: string; record: readonly string[]; wants: readonly Want[] };
}

const PERSON = ['person', 'contact', 'customer', 'member', 'subscriber', 'user', 'client'] as const;
const given: Want = { means: 'given name', label: 'First name', kind: 'text' };
const family: Want = { means: 'family name', label: 'Family name', kind: 'text', required: true };
const email: Want = { means: 'email', label: 'E-mail', kind: 'email', required: true };
const phone: Want = { means: 'phone', label: 'Phone', kind: 'phone' };
const address: Want[] = [
  { means: 'street', label: 'Street', kind: 'text' },
  { means: 'postcode', label: 'Postcode', kind: 'text' },
  { means: 'city', label: 'City', kind: 'text' },
  { means: 'country', label: 'Country', kind: 'text' },
];
const message: Want = { means: 'message', label: 'Message', kind: 'long text' };

/** What forms are most often begun with. */
export const STARTING_POINTS: readonly StartingPoint[] = [
  {
    key: 'enquiry',
    name: 'Enquiry',
    about: 'Somebody asks for something: who they are, and what it is about.',
    records: [PERSON, ['enquiry', 'request', 'lead', 'case', 'ticket', 'inquiry']],
    wants: [
      given,
      family,
      email,
      phone,
      { means: 'organisation', label: 'Organisation', kind: 'text' },
      { means: 'subject', label: 'Subject', kind: 'text', required: true },
      { ...message, required: true, kept: true },
    ],
  },
  {
    key: 'sign-up',
    name: 'Sign-up',
    about: 'Somebody wants to hear from you, and agrees to that.',
    records: [PERSON],
    wants: [
      given,
      family,
      email,
      { means: 'language', label: 'Language', kind: 'text' },
      { means: 'interests', label: 'Interests', kind: 'several of' },
      { means: 'newsletter', label: 'I agree to getting letters by e-mail', kind: 'consent', kept: true },
    ],
  },
  {
    key: 'course-booking',
    name: 'Course booking',
    about: 'Somebody books a place, and says who comes.',
    records: [PERSON, ['booking', 'registration', 'attendance', 'reservation']],
    wants: [
      given,
      family,
      email,
      phone,
      { means: 'product', label: 'Course', kind: 'text', required: true },
      { means: 'quantity', label: 'Attendees', kind: 'number' },
      { means: 'message', label: 'Remarks', kind: 'long text' },
    ],
  },
  {
    key: 'order',
    name: 'Order',
    about: 'Somebody orders, line by line, and says where it goes.',
    records: [PERSON, ['order', 'purchase', 'sale']],
    wants: [given, family, email, ...address],
    rows: {
      label: 'What is ordered',
      record: ['order line', 'order item', 'item', 'line', 'position'],
      wants: [
        { means: 'product', label: 'Article number', kind: 'text', required: true },
        { means: 'quantity', label: 'Quantity', kind: 'number', required: true },
      ],
    },
  },
  {
    key: 'membership-renewal',
    name: 'Membership renewal',
    about: 'A member renews: what is known of them is brought up to date.',
    records: [PERSON],
    wants: [
      given,
      family,
      email,
      phone,
      ...address,
      { means: 'birth date', label: 'Birth date', kind: 'date' },
      { means: 'interests', label: 'Interests', kind: 'several of' },
      { means: 'kind', label: 'Kind of member', kind: 'text', kept: true },
      { means: 'quantity', label: 'Years', kind: 'number', kept: true },
      { means: 'newsletter', label: 'Letters allowed', kind: 'yes/no' },
    ],
  },
  {
    key: 'report',
    name: 'Report',
    about: 'Somebody tells what they have seen, where and when.',
    records: [['visit', 'report', 'incident', 'observation', 'event', 'case']],
    wants: [
      { means: 'address', label: 'Place', kind: 'text', required: true },
      { means: 'date', label: 'Seen at', kind: 'date and time' },
      { means: 'message', label: 'Notes', kind: 'long text' },
      { means: 'full name', label: 'Reporter', kind: 'text' },
      { means: 'phone', label: 'Reporter’s phone', kind: 'phone', required: true },
    ],
  },
  {
    key: 'survey',
    name: 'Survey',
    about: 'A few questions to people you know; the answers are kept with them.',
    records: [PERSON],
    wants: [
      { ...email, required: true },
      { means: 'kind', label: 'How did you hear of us?', kind: 'text', kept: true },
      { means: 'quantity', label: 'How content are you, from 1 to 5?', kind: 'number', kept: true },
      { ...message, label: 'What should we do better?', kept: true },
    ],
  },
];
