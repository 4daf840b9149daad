import type { EntityType, Property } from './definition.ts';

/** A text of a length. */
export const text = (name: string, label: string, maxLength: number, more: Partial<Property> = {}): Property => ({
  name,
  label,
  type: 'Edm.String',
  maxLength,
  ...more,
});
const choice = (name: string, label: string, options: [string, string][], more: Partial<Property> = {}): Property =>
  text(name, label, 40, { options, ...more });
const refers = (name: string, label: string, type: string, more: Partial<Property> = {}): Property =>
  text(name, label, 16, { refers: { type, via: name.replace(/_id$/, '') }, ...more });

const TERRITORIES: [string, string][] = [
  ['north', 'North bank'],
  ['south', 'South bank'],
  ['hills', 'Hills'],
  ['delta', 'Delta'],
];
const CROPS: [string, string][] = [
  ['apple', 'Apple'],
  ['pear', 'Pear'],
  ['cherry', 'Cherry'],
  ['plum', 'Plum'],
  ['quince', 'Quince'],
  ['currant', 'Currant'],
  ['rapeseed', 'Rapeseed'],
];
/** Contracts call one of them otherwise. */
const CONTRACT_CROPS: [string, string][] = CROPS.map(([value, label]) =>
  value === 'currant' ? ['blackcurrant', 'Blackcurrant'] : [value, label],
);
const COUNTRIES: [string, string][] = [
  ['DE', 'Germany'],
  ['PL', 'Poland'],
  ['GB', 'United Kingdom'],
  ['NL', 'Netherlands'],
  ['DK', 'Denmark'],
];
const QUOTE_STATES: [string, string][] = [
  ['open', 'Open'],
  ['accepted', 'Accepted'],
  ['declined', 'Declined'],
];
const HIVE_STRENGTHS: [string, string][] = [
  ['strong', 'Strong'],
  ['medium', 'Medium'],
  ['starter', 'Starter colony'],
];
const CONTRACT_STRENGTHS: [string, string][] = [
  ['strong', 'Strong'],
  ['middling', 'Middling'],
  ['starter', 'Starter colony'],
];
const BEES: [string, string][] = [
  ['carnica', 'Carnica'],
  ['dark', 'Dark bee'],
  ['hybrid', 'Hybrid'],
  ['any', 'No matter'],
];
/** Somebody once spelt one of them so. */
const HOUSINGS: [string, string][] = ['Frame hive', 'Top bar', 'Log hive'].map((kind) => [kind, kind]);
const address = [
  text('street', 'Street', 120),
  text('postcode', 'Postcode', 12),
  text('city', 'City', 80),
  choice('country', 'Country', COUNTRIES),
];
const ownership = [choice('territory', 'Territory', TERRITORIES), refers('owner_id', 'Owner', 'User')];

/** What it keeps from the beginning. */
export const BASE_TYPES: readonly EntityType[] = [
  {
    type: 'User',
    set: 'Users',
    prefix: 'U',
    title: ['name'],
    properties: [
      text('name', 'Name', 80, { required: true }),
      text('login', 'Login', 60, { required: true, unique: true, immutable: true }),
      text('email', 'E-mail', 254, { meaning: 'email' }),
      choice('territory', 'Territory', TERRITORIES),
    ],
  },
  {
    type: 'Organisation',
    set: 'Organisations',
    prefix: 'O',
    title: ['name'],
    properties: [
      text('name', 'Name', 120, { required: true }),
      choice(
        'kind',
        'Kind',
        [
          ['orchard', 'Orchard'],
          ['club', 'Club'],
          ['shop', 'Shop'],
          ['public', 'Public body'],
        ],
        { default: 'orchard' },
      ),
      text('website', 'Website', 200, { meaning: 'url' }),
      text('email', 'E-mail', 254, { meaning: 'email' }),
      text('phone', 'Phone', 32, { meaning: 'phone' }),
      ...address,
      { name: 'area_ha', label: 'Area (ha)', type: 'Edm.Decimal', scale: 1 },
      { ...choice('crops', 'Crops', CROPS), collection: true },
      text('customer_number', 'Customer number', 16, { unique: true, immutable: true }),
      refers('main_contact_id', 'Main contact', 'Person'),
      ...ownership,
      text('tax_number', 'Tax number', 30),
      text('bank_account', 'Bank account', 40),
      text('credit_note', 'Credit note', 400),
      { name: 'discount', label: 'Discount (%)', type: 'Edm.Decimal', scale: 1 },
    ],
  },
  {
    type: 'Person',
    set: 'People',
    prefix: 'P',
    title: ['first_name', 'last_name'],
    properties: [
      choice('salutation', 'Salutation', [
        ['ms', 'Ms'],
        ['mr', 'Mr'],
        ['mx', 'Mx'],
      ]),
      text('first_name', 'First name', 80),
      text('last_name', 'Family name', 80, { required: true }),
      text('email', 'E-mail', 254, { meaning: 'email' }),
      text('phone', 'Phone', 32, { meaning: 'phone' }),
      text('mobile', 'Mobile', 32, { meaning: 'phone' }),
      ...address,
      { name: 'birth_date', label: 'Birth date', type: 'Edm.Date' },
      choice('language', 'Language', [
        ['en', 'English'],
        ['de', 'German'],
        ['pl', 'Polish'],
      ]),
      {
        ...choice('interests', 'Interests', [
          ['pollination', 'Pollination'],
          ['honey', 'Honey'],
          ['queens', 'Queen breeding'],
          ['courses', 'Courses'],
          ['swarms', 'Swarms'],
        ]),
        collection: true,
      },
      { name: 'letters_allowed', label: 'Letters allowed', type: 'Edm.Boolean', default: false },
      text('member_number', 'Member number', 16, { unique: true, immutable: true }),
      text('notes', 'Notes', 4000),
      refers('organisation_id', 'Organisation', 'Organisation'),
      { name: 'last_visit_at', label: 'Last visit', type: 'Edm.DateTimeOffset' },
      { name: 'letters_sent', label: 'Letters sent', type: 'Edm.Int32', computed: true },
      ...ownership,
      text('national_id', 'National id', 30),
      text('health_note', 'Health note', 400),
      text('bank_account', 'Bank account', 40),
      text('fee_exemption', 'Fee exemption', 200),
      text('family_note', 'Family note', 400),
    ],
  },
  {
    type: 'Enquiry',
    set: 'Enquiries',
    prefix: 'E',
    title: ['subject'],
    properties: [
      text('subject', 'Subject', 200, { required: true }),
      text('message', 'Message', 4000),
      choice(
        'kind',
        'Kind',
        [
          ['pollination', 'Pollination'],
          ['membership', 'Membership'],
          ['press', 'Press'],
          ['other', 'Other'],
        ],
        { required: true },
      ),
      choice(
        'status',
        'Status',
        [
          ['open', 'Open'],
          ['answered', 'Answered'],
          ['agreed', 'Agreed'],
          ['won', 'Won'],
          ['lost', 'Lost'],
        ],
        { default: 'open' },
      ),
      { name: 'blossom_start', label: 'Blossom starts', type: 'Edm.Date' },
      { name: 'hives_wanted', label: 'Hives wanted', type: 'Edm.Int32' },
      { name: 'area_ha', label: 'Area (ha)', type: 'Edm.Decimal', scale: 1 },
      { ...choice('crops', 'Crops', CROPS), collection: true },
      refers('organisation_id', 'Organisation', 'Organisation'),
      refers('person_id', 'Person', 'Person'),
      text('source', 'Source', 80),
      // Who asks, as long as nobody has made them a record of their own.
      text('caller_company', 'Caller’s company', 120),
      text('caller_name', 'Caller', 120),
      text('caller_email', 'Caller’s e-mail', 254, { meaning: 'email' }),
      text('caller_phone', 'Caller’s phone', 32, { meaning: 'phone' }),
      ...ownership,
      { name: 'margin', label: 'Margin', type: 'Edm.Decimal', scale: 2 },
      text('internal_note', 'Internal note', 2000),
      text('competitor', 'Competitor', 120),
      text('risk', 'Risk', 40),
      text('audit_mark', 'Audit mark', 40),
    ],
  },
  {
    type: 'Course',
    set: 'Courses',
    prefix: 'K',
    title: ['name'],
    properties: [
      text('name', 'Name', 120, { required: true, unique: true }),
      { name: 'starts_on', label: 'Starts on', type: 'Edm.Date' },
      { name: 'places', label: 'Places', type: 'Edm.Int32' },
    ],
  },
  {
    type: 'Booking',
    set: 'Bookings',
    prefix: 'B',
    title: ['contact_name'],
    properties: [
      refers('course_id', 'Course', 'Course', { required: true }),
      refers('person_id', 'Person', 'Person'),
      refers('organisation_id', 'Organisation', 'Organisation'),
      text('contact_name', 'Contact name', 120, { required: true }),
      text('contact_email', 'Contact e-mail', 254, { meaning: 'email' }),
      text('contact_phone', 'Contact phone', 32, { meaning: 'phone' }),
      { name: 'attendees', label: 'Attendees', type: 'Edm.Int32' },
      choice('meal', 'Meal', [
        ['all', 'Eats everything'],
        ['vegetarian', 'Vegetarian'],
        ['vegan', 'Vegan'],
      ]),
      text('remarks', 'Remarks', 1000),
      { name: 'fee', label: 'Fee', type: 'Edm.Decimal', scale: 2 },
    ],
  },
  {
    type: 'Visit',
    set: 'Visits',
    prefix: 'V',
    title: ['place'],
    properties: [
      choice(
        'kind',
        'Kind',
        [
          ['swarm', 'Swarm'],
          ['inspection', 'Inspection'],
          ['advice', 'Advice'],
        ],
        { required: true },
      ),
      text('place', 'Place', 200, { required: true }),
      { name: 'height_m', label: 'Height (m)', type: 'Edm.Decimal', scale: 1 },
      { name: 'seen_at', label: 'Seen at', type: 'Edm.DateTimeOffset' },
      text('reporter_name', 'Reporter', 120),
      text('reporter_phone', 'Reporter’s phone', 32, { meaning: 'phone', required: true }),
      text('notes', 'Notes', 1000),
      refers('person_id', 'Person', 'Person'),
      refers('organisation_id', 'Organisation', 'Organisation'),
      ...ownership,
    ],
  },
  {
    type: 'BeeYard',
    label: 'Bee yard',
    set: 'BeeYards',
    prefix: 'H',
    title: ['name'],
    properties: [
      text('name', 'Name', 120, { required: true }),
      refers('person_id', 'Keeper', 'Person'),
      refers('organisation_id', 'Organisation', 'Organisation'),
      refers('visit_id', 'Seen on the visit', 'Visit'),
      { name: 'hives', label: 'Hives', type: 'Edm.Int32' },
      choice('bees', 'Kind of bees', BEES),
      choice('health', 'Health', [
        ['good', 'Good'],
        ['watched', 'To be watched'],
        ['ill', 'Ill'],
      ]),
      ...address,
      ...ownership,
    ],
  },
  {
    type: 'Order',
    set: 'Orders',
    prefix: 'R',
    title: ['number'],
    properties: [
      text('number', 'Order number', 30, { required: true, unique: true, immutable: true }),
      choice(
        'status',
        'Status',
        [
          ['placed', 'Placed'],
          ['paid', 'Paid'],
          ['failed', 'Failed'],
          ['refunded', 'Refunded'],
        ],
        { required: true },
      ),
      { name: 'placed_at', label: 'Placed at', type: 'Edm.DateTimeOffset' },
      { name: 'total', label: 'Total', type: 'Edm.Decimal', scale: 2 },
      choice('currency', 'Currency', [
        ['EUR', 'Euro'],
        ['PLN', 'Złoty'],
        ['GBP', 'Pound'],
      ]),
      text('buyer_name', 'Buyer', 160),
      text('buyer_email', 'Buyer’s e-mail', 254, { meaning: 'email' }),
      text('delivery_street', 'Delivery street', 120),
      text('delivery_postcode', 'Delivery postcode', 12),
      text('delivery_city', 'Delivery city', 80),
      choice('delivery_country', 'Delivery country', COUNTRIES),
      refers('person_id', 'Person', 'Person'),
    ],
  },
  {
    type: 'OrderLine',
    label: 'Order line',
    set: 'OrderLines',
    prefix: 'L',
    title: ['article'],
    properties: [
      refers('order_id', 'Order', 'Order', { required: true }),
      text('sku', 'Article number', 40, { required: true }),
      text('article', 'Article', 160),
      { name: 'quantity', label: 'Quantity', type: 'Edm.Int32', required: true },
      { name: 'price', label: 'Price', type: 'Edm.Decimal', scale: 2 },
    ],
  },
  {
    type: 'Quote',
    set: 'Quotes',
    prefix: 'Q',
    title: ['number'],
    properties: [
      text('number', 'Quote number', 30, { required: true, unique: true, immutable: true }),
      refers('organisation_id', 'Organisation', 'Organisation'),
      choice('status', 'Status', QUOTE_STATES, { default: 'open' }),
      { name: 'valid_until', label: 'Valid until', type: 'Edm.Date' },
      ...ownership,
    ],
  },
  {
    type: 'QuoteLine',
    label: 'Quote line',
    set: 'QuoteLines',
    prefix: 'QL',
    title: ['position'],
    properties: [
      refers('quote_id', 'Quote', 'Quote', { required: true }),
      { name: 'position', label: 'Position', type: 'Edm.Int32', required: true },
      { name: 'placement_week', label: 'Placement week', type: 'Edm.Date' },
      choice('hive_strength', 'Hive strength wanted', HIVE_STRENGTHS),
      { name: 'hives', label: 'Hives', type: 'Edm.Int32' },
      refers('keeper_id', 'Beekeeper in charge', 'User'),
    ],
  },
  {
    type: 'Contract',
    set: 'Contracts',
    prefix: 'C',
    title: ['number'],
    properties: [
      text('number', 'Contract number', 30, { required: true, unique: true, immutable: true }),
      refers('quote_id', 'Quote', 'Quote'),
      refers('organisation_id', 'Organisation', 'Organisation'),
      { name: 'starts_on', label: 'Starts', type: 'Edm.Date' },
      { name: 'ends_on', label: 'Ends', type: 'Edm.Date' },
      { name: 'hives', label: 'Hives', type: 'Edm.Int32' },
      choice('bees', 'Kind of bees', BEES),
      { ...choice('crops', 'Crops', CONTRACT_CROPS), collection: true },
      { ...choice('hive_housing', 'Hive housing', HOUSINGS), collection: true },
      { name: 'signed_on', label: 'Signed on', type: 'Edm.Date' },
      ...ownership,
    ],
  },
  {
    type: 'ContractLine',
    label: 'Contract line',
    set: 'ContractLines',
    prefix: 'CL',
    title: ['position'],
    properties: [
      refers('contract_id', 'Contract', 'Contract', { required: true }),
      { name: 'position', label: 'Position', type: 'Edm.Int32', required: true },
      { name: 'placement_at', label: 'Placement', type: 'Edm.DateTimeOffset' },
      choice('strength', 'Strength of hives', CONTRACT_STRENGTHS),
      { name: 'hives', label: 'Hives', type: 'Edm.Int32' },
      refers('beekeeper_id', 'Beekeeper in charge', 'User'),
    ],
  },
  {
    type: 'Product',
    set: 'Products',
    prefix: 'A',
    title: ['name'],
    properties: [
      text('sku', 'Article number', 40, { required: true, unique: true, immutable: true }),
      text('name', 'Name', 160, { required: true }),
      { name: 'price', label: 'Price', type: 'Edm.Decimal', scale: 2 },
      { name: 'for_sale', label: 'For sale', type: 'Edm.Boolean', default: true },
    ],
  },
  {
    // What the system itself notes of every change of a field; nobody writes it.
    type: 'FieldChange',
    label: 'Field change',
    set: 'FieldChanges',
    prefix: 'F',
    title: ['field'],
    properties: [
      text('entity', 'Entity', 60, { computed: true }),
      text('record_id', 'Record', 24, { computed: true }),
      text('field', 'Field', 60, { computed: true }),
    ],
  },
];
