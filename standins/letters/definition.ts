/** The kinds of field there are: few, on purpose. */
export const KINDS = ['text', 'number', 'date', 'choice', 'choices', 'yes/no'] as const;
export type Kind = (typeof KINDS)[number];
/** Bytes that a text may be allowed to have. */
export const MOST_BYTES = 500;

export interface FieldDefinition {
  name: string;
  label: string;
  kind: Kind;
  required?: boolean;
  unique?: boolean;
  /** Of UTF-8; every text has a limit. */
  maxBytes?: number;
  options?: string[];
  /** Set by the system alone. */
  readOnly?: boolean;
  /** Can't be changed once it is set. */
  fixed?: boolean;
  /** May be filtered by. */
  filter?: boolean;
  /** Made later, through `/v1/fields`. */
  added?: boolean;
}

export interface EntityDefinition {
  /** In addresses: `/v1/subscribers`. */
  name: string;
  label: string;
  /** Starts its ids: `s_9f31`. */
  prefix: string;
  writable: 'all' | 'create';
  fields: FieldDefinition[];
}

const TOPICS = ['honey', 'queens', 'courses', 'hiring hives'];

export const ENTITIES: EntityDefinition[] = [
  {
    name: 'subscribers',
    label: 'Subscriber',
    prefix: 's_',
    writable: 'all',
    fields: [
      { name: 'email', label: 'E-mail', kind: 'text', required: true, unique: true, maxBytes: 120, filter: true },
      { name: 'given', label: 'Given name', kind: 'text', maxBytes: 40 },
      { name: 'family', label: 'Family name', kind: 'text', maxBytes: 40 },
      { name: 'language', label: 'Language', kind: 'choice', options: ['de', 'pl', 'en'] },
      { name: 'interests', label: 'Interests', kind: 'choices', options: TOPICS },
      { name: 'wants_letters', label: 'Wants the letters', kind: 'yes/no' },
      { name: 'last_visit', label: 'Last visit', kind: 'date' },
      { name: 'keeper', label: 'Keeper in charge', kind: 'text', maxBytes: 60 },
      { name: 'crm_id', label: 'CRM id', kind: 'text', maxBytes: 20 },
      { name: 'came_from', label: 'Came from', kind: 'text', maxBytes: 60 },
      { name: 'campaign', label: 'Campaign', kind: 'text', maxBytes: 60 },
      { name: 'all_interests', label: 'All interests ever', kind: 'text', maxBytes: 200 },
      { name: 'letters_opened', label: 'Letters opened', kind: 'number', readOnly: true },
    ],
  },
  {
    name: 'letters',
    label: 'Letter',
    prefix: 'l_',
    writable: 'all',
    fields: [
      { name: 'subject', label: 'Subject', kind: 'text', required: true, maxBytes: 120 },
      { name: 'state', label: 'State', kind: 'choice', options: ['draft', 'sent'] },
      { name: 'sent_on', label: 'Sent on', kind: 'date' },
    ],
  },
  {
    name: 'answers',
    label: 'Answer',
    prefix: 'a_',
    writable: 'create',
    fields: [
      { name: 'subscriber_id', label: 'Subscriber id', kind: 'text', required: true, maxBytes: 20, fixed: true },
      { name: 'letter_id', label: 'Letter id', kind: 'text', required: true, maxBytes: 20, fixed: true },
      { name: 'said', label: 'Said', kind: 'text', maxBytes: 500 },
      { name: 'stars', label: 'Stars', kind: 'number' },
    ],
  },
];
