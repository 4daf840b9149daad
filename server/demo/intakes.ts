import { inferFields, type FormField, type ReadForm, type SubmittedValues } from '@zusammen/core/forms';
import { prepareLine, suggestLines, type Line, type Treatment } from '@zusammen/core/mapping';
import { INTAKE_FORMAT, type FormSource, type IntakeDocument } from '@zusammen/core/intake';
import { blankStep, linkLine, type Step } from '@zusammen/core/plans';
import { calledBy, isWritable, type Entity, type Field, type Schema } from '@zusammen/core/schema';

/** What the demo's documents are made with. */
export interface Making {
  system: string;
  schema: Schema;
  /** The mailing system. */
  letters?: { system: string; schema: Schema };
  /** The payment service, by id. */
  till?: string;
}

/** Where the co-operative's visitors write from. */
const WHERE = { country: 'DE', locale: 'de-DE', zone: 'Europe/Berlin' };

const OPTION_PAIRS: Record<string, [string, string][]> = {
  lang: [
    ['english', 'en'],
    ['german', 'de'],
    ['polish', 'pl'],
  ],
  'thema[]': [
    ['Honig', 'honey'],
    ['Königinnen', 'queens'],
    ['Kurse', 'courses'],
  ],
  meal: [
    ['everything', 'all'],
    ['veggie', 'vegetarian'],
    ['vegan', 'vegan'],
  ],
};

/** Makes the lines and steps of one form's plan, as a specialist would by hand. */
export class Maker {
  constructor(
    private readonly making: Making,
    private readonly fields: readonly FormField[],
  ) {}

  entity(name: string): Entity {
    return this.making.schema.entities.find((each) => each.name === name)!;
  }

  private field(entity: string, name: string): Field {
    return this.entity(entity).fields.find((each) => each.name === name)!;
  }

  line(entity: string, from: string[], name: string, more: Partial<Line> = {}): Line {
    const where = {
      ...WHERE,
      calledBy: (of: string) => {
        const among = this.entity(of);
        return among && calledBy(among);
      },
    };
    const sources = from.map((each) => this.fields.find((field) => field.name === each)!);
    const line = prepareLine(`line-${name}`, sources, this.field(entity, name), where);
    const pairs = from.length === 1 ? OPTION_PAIRS[from[0]!] : undefined;
    if (pairs)
      line.treatments = [{ kind: 'options', pairs: pairs.map(([sent, taken]) => ({ from: sent, to: taken })) }];
    return { ...line, ...more };
  }

  always(entity: string, name: string, constant: string): Line {
    return { ...this.line(entity, [], name), treatments: [], constant, ifBoth: 'new records only' };
  }

  computed(entity: string, name: string, expression: string): Line {
    return { ...this.line(entity, [], name), treatments: [{ kind: 'compute', expression } satisfies Treatment] };
  }

  link(entity: string, name: string, earlier: string, row?: 'first'): Line {
    return linkLine(`line-${name}`, this.field(entity, name), earlier, row);
  }

  step(id: string, entity: string, keys: string[][], lines: Line[], more: Partial<Step> = {}): Step {
    return {
      ...blankStep(id, this.making.system, entity),
      recognise: keys.map((fields) => ({ fields })),
      lines,
      ...more,
    };
  }
}

type Plan = IntakeDocument['plan'];

/** Who signs up for the letters is a person in the CRM, and a subscriber where the letters are sent from. */
function signUp(maker: Maker, form: ReadForm, { letters }: Making): Plan {
  const { steps } = onePerson(maker, form, [
    [['thema[]'], 'interests'],
    [['ok'], 'letters_allowed'],
  ]);
  if (!letters) return { steps };
  const post = new Maker(letters, form.fields);
  const subscriber = post.step(
    'subscriber',
    'subscribers',
    [['email']],
    [
      post.line('subscribers', ['mail'], 'email'),
      post.line('subscribers', ['vorname'], 'given'),
      post.line('subscribers', ['nachname'], 'family'),
      post.line('subscribers', ['thema[]'], 'interests', { ifBoth: 'add to list' }),
      post.line('subscribers', ['ok'], 'wants_letters'),
      post.line('subscribers', ['utm_source'], 'came_from', { ifBoth: 'fill only' }),
      post.line('subscribers', ['utm_campaign'], 'campaign', { ifBoth: 'fill only' }),
    ],
  );
  return { steps: [...steps, subscriber] };
}

/** What the suggestions set towards people, with what a specialist would add to them. */
function onePerson(maker: Maker, form: ReadForm, byHand: [from: string[], field: string][]): Plan {
  const person = maker.entity('People');
  const lines = new Map<string, Line>();
  const target = { ...person, fields: person.fields.filter(isWritable) };
  for (const { from, field, standing } of suggestLines(form.fields, [target]))
    if (standing === 'set') lines.set(field, maker.line('People', from, field));
  for (const [from, field] of byHand) lines.set(field, maker.line('People', from, field));
  return { steps: [maker.step('person', 'People', [['email']], [...lines.values()])] };
}

/** An orchard with its people, one of them the main contact, and what they ask for. */
function season(maker: Maker): Plan {
  const organisation = maker.step(
    'organisation',
    'Organisations',
    [['website'], ['name', 'postcode']],
    [
      maker.line('Organisations', ['orchard'], 'name'),
      maker.line('Organisations', ['web'], 'website', { ifBoth: 'fill only' }),
      maker.line('Organisations', ['street', 'house_no'], 'street'),
      maker.line('Organisations', ['plz'], 'postcode'),
      maker.line('Organisations', ['town'], 'city'),
      maker.line('Organisations', ['hectares'], 'area_ha'),
      maker.line('Organisations', ['crops'], 'crops'),
    ],
  );
  const contacts = maker.step(
    'contacts',
    'People',
    [['email']],
    [
      maker.line('People', ['contacts[0][first]'], 'first_name'),
      maker.line('People', ['contacts[0][last]'], 'last_name'),
      maker.line('People', ['contacts[0][email]'], 'email'),
      maker.line('People', ['contacts[0][phone]'], 'phone'),
      maker.link('People', 'organisation_id', 'organisation'),
    ],
    { repeat: 'contacts' },
  );
  const main = maker.step(
    'main-contact',
    'Organisations',
    [],
    [{ ...maker.link('Organisations', 'main_contact_id', 'contacts', 'first'), ifBoth: 'fill only' }],
  );
  const enquiry = maker.step(
    'enquiry',
    'Enquiries',
    [],
    [
      maker.computed('Enquiries', 'subject', '"Bees for " + form.orchard'),
      maker.always('Enquiries', 'kind', 'pollination'),
      maker.line('Enquiries', ['message'], 'message'),
      maker.line('Enquiries', ['bloom'], 'blossom_start'),
      maker.line('Enquiries', ['hives'], 'hives_wanted'),
      maker.line('Enquiries', ['hectares'], 'area_ha', { id: 'line-area' }),
      maker.line('Enquiries', ['crops'], 'crops', { id: 'line-fruit' }),
      maker.line('Enquiries', ['utm_source'], 'source'),
      maker.link('Enquiries', 'organisation_id', 'organisation'),
      maker.link('Enquiries', 'person_id', 'contacts', 'first'),
    ],
  );
  const back: Step = { ...main, record: { by: 'step', step: 'organisation' }, whenNone: 'skip' };
  return { steps: [organisation, contacts, back, enquiry] };
}

/** A booking, the people who come, and the club they come for, if any. */
function course(maker: Maker): Plan {
  const club = maker.step(
    'club',
    'Organisations',
    [['name']],
    [maker.line('Organisations', ['club'], 'name'), maker.always('Organisations', 'kind', 'club')],
    { condition: { match: 'all', parts: [{ field: 'club', test: 'is not blank' }] } },
  );
  const attendees = maker.step(
    'attendees',
    'People',
    [['first_name', 'last_name', 'birth_date']],
    [
      maker.line('People', ['attendees[0][first]'], 'first_name'),
      maker.line('People', ['attendees[0][last]'], 'last_name'),
      maker.line('People', ['attendees[0][born]'], 'birth_date'),
      maker.link('People', 'organisation_id', 'club'),
    ],
    { repeat: 'attendees' },
  );
  const booking = maker.step(
    'booking',
    'Bookings',
    [],
    [
      maker.line('Bookings', ['course'], 'course_id'),
      maker.line('Bookings', ['booker.name'], 'contact_name'),
      maker.line('Bookings', ['booker.email'], 'contact_email'),
      maker.line('Bookings', ['booker.phone'], 'contact_phone'),
      maker.line('Bookings', ['heads'], 'attendees'),
      maker.line('Bookings', ['meal'], 'meal'),
      maker.line('Bookings', ['remarks'], 'remarks'),
      maker.link('Bookings', 'organisation_id', 'club'),
    ],
  );
  return { steps: [club, attendees, booking] };
}

/** Whoever saw the swarm, recognised by all that is known of them, and the visit they ask for. */
function swarm(maker: Maker): Plan {
  const name = (take: 'given' | 'family') => ({ treatments: [{ kind: 'name part', take } satisfies Treatment] });
  const reporter = maker.step(
    'reporter',
    'People',
    [],
    [
      maker.line('People', ['reporter'], 'first_name', { ...name('given'), ifBoth: 'fill only' }),
      maker.line('People', ['reporter'], 'last_name', { ...name('family'), ifBoth: 'fill only' }),
      maker.line('People', ['reporter_tel'], 'phone', { ifBoth: 'fill only' }),
    ],
    { evidence: true, condition: { match: 'all', parts: [{ field: 'reporter', test: 'is not blank' }] } },
  );
  const visit = maker.step(
    'visit',
    'Visits',
    [],
    [
      maker.always('Visits', 'kind', 'swarm'),
      maker.line('Visits', ['where'], 'place'),
      maker.line('Visits', ['height'], 'height_m'),
      maker.line('Visits', ['reporter'], 'reporter_name'),
      maker.line('Visits', ['reporter_tel'], 'reporter_phone'),
      maker.line('Visits', ['notes'], 'notes'),
      maker.link('Visits', 'person_id', 'reporter'),
    ],
  );
  return { steps: [reporter, visit] };
}

/** The buyer, the order under its number however often it is told of, and its lines. */
function checkout(maker: Maker): Plan {
  const buyer = maker.step(
    'buyer',
    'People',
    [['email']],
    [
      maker.line('People', ['data[buyer][name]'], 'first_name', { treatments: [{ kind: 'name part', take: 'given' }] }),
      maker.line('People', ['data[buyer][name]'], 'last_name', { treatments: [{ kind: 'name part', take: 'family' }] }),
      maker.line('People', ['data[buyer][email]'], 'email'),
      maker.line('People', ['data[buyer][phone]'], 'phone', { ifBoth: 'fill only' }),
    ],
  );
  const order = maker.step(
    'order',
    'Orders',
    [['number']],
    [
      maker.line('Orders', ['data[number]'], 'number'),
      maker.line('Orders', ['data[status]'], 'status'),
      maker.line('Orders', ['data[total]'], 'total', { treatments: [{ kind: 'number', decimal: 'point' }] }),
      maker.line('Orders', ['data[currency]'], 'currency'),
      maker.line('Orders', ['data[buyer][name]'], 'buyer_name'),
      maker.line('Orders', ['data[buyer][email]'], 'buyer_email'),
      maker.line('Orders', ['data[delivery][street]'], 'delivery_street'),
      maker.line('Orders', ['data[delivery][postcode]'], 'delivery_postcode'),
      maker.line('Orders', ['data[delivery][city]'], 'delivery_city'),
      maker.line('Orders', ['data[delivery][country]'], 'delivery_country'),
      maker.link('Orders', 'person_id', 'buyer'),
    ],
  );
  const lines = maker.step(
    'lines',
    'OrderLines',
    [['order_id', 'sku']],
    [
      maker.link('OrderLines', 'order_id', 'order'),
      maker.line('OrderLines', ['data[lines][0][sku]'], 'sku'),
      maker.line('OrderLines', ['data[lines][0][name]'], 'article'),
      maker.line('OrderLines', ['data[lines][0][quantity]'], 'quantity'),
      maker.line('OrderLines', ['data[lines][0][price]'], 'price', {
        treatments: [{ kind: 'number', decimal: 'point' }],
      }),
    ],
    { repeat: 'data[lines]' },
  );
  return { steps: [buyer, order, lines] };
}

/** The website's forms that the demo has intakes for, by key, each with its name and what it does. */
const PAGES: Record<string, { name: string; plan: (maker: Maker, form: ReadForm, making: Making) => Plan }> = {
  'pollination-enquiry': {
    name: 'Pollination enquiry',
    plan: (maker, form) =>
      onePerson(maker, form, [
        [['contact_phone'], 'phone'],
        // Whose address it is, the form leaves open: it stands under the orchard, and only people are recorded here.
        [['street', 'house_no'], 'street'],
        [['plz'], 'postcode'],
        [['town'], 'city'],
        [['lang'], 'language'],
        [['message'], 'notes'],
        [['letters'], 'letters_allowed'],
      ]),
  },
  'letters-sign-up': {
    name: 'Letters sign-up',
    plan: signUp,
  },
  'season-enquiry': { name: 'Season enquiry', plan: season },
  'beginners-course': { name: 'Beginners’ course', plan: course },
  'swarm-report': { name: 'Swarm report', plan: swarm },
};
export const PAGE_KEYS = Object.keys(PAGES);
export const SHOP_KEY = 'shop-checkout';

/** An intake for one of the website's own forms. */
export function intakeForPage(key: string, form: ReadForm, page: string, making: Making): IntakeDocument {
  const { name, plan } = PAGES[key]!;
  const source: FormSource = { kind: 'page', page, formName: form.name };
  return {
    format: INTAKE_FORMAT,
    name,
    source,
    fields: form.fields,
    plan: plan(new Maker(making, form.fields), form, making),
    settings: { ...WHERE, perMinute: 6000, allowedOrigins: originsOf(page) },
  };
}

/** An intake for the shop's events, its fields inferred from some of them. */
export function intakeForShop(samples: readonly SubmittedValues[], making: Making): IntakeDocument {
  const fields = inferFields(samples);
  return {
    format: INTAKE_FORMAT,
    name: 'Shop checkout',
    source: { kind: 'events' },
    fields,
    plan: checkout(new Maker(making, fields)),
    settings: {
      ...WHERE,
      perMinute: 6000,
      eventTypes: ['order.placed', 'order.paid', 'order.failed', 'order.refunded'],
    },
  };
}

/** A page on this machine is gone to by either name. */
function originsOf(page: string): string[] {
  const { origin } = new URL(page);
  const other = origin.includes('//localhost')
    ? origin.replace('//localhost', '//127.0.0.1')
    : origin.replace('//127.0.0.1', '//localhost');
  return [...new Set([origin, other])];
}
