import type { IntakeDetail, Rehearsed, Sample, SystemDetail } from '@zusammen/core/api';
import type { IntakeDocument } from '@zusammen/core/intake';
import { INTAKE_FORMAT } from '@zusammen/core/intake';
import type { Line } from '@zusammen/core/mapping';
import type { ReactNode } from 'react';
import { makeEntity, makeField, makeLine } from '../../../../core/testing/world.ts';
import { lines, show, type Answers, type Asked } from '../../testing/page.tsx';
import { IntakeLayout } from './layout.tsx';
import { Route, Routes } from 'react-router';

export const ORCHARD = makeEntity(
  'orchards',
  [
    makeField('name', { label: 'Name', required: true }),
    makeField('mail', { label: 'E-mail', type: 'email' }),
    makeField('hives', { label: 'Hives', type: 'integer' }),
    makeField('note', { label: 'Note' }),
  ],
  { label: 'Orchard' },
);

export const lineTo = (field: string, from: string[], more: Partial<Line> = {}): Line =>
  makeLine(from, field, { id: `l-${field}`, ...more });

/** An intake of one step with three lines, the last of them suggested. */
export const DOCUMENT: IntakeDocument = {
  format: INTAKE_FORMAT,
  name: 'Visit us',
  source: { kind: 'program' },
  settings: { perMinute: 60, country: 'GB' },
  fields: [
    { name: 'orchard', label: 'Orchard name', type: 'text', required: true },
    { name: 'mail', label: 'Your e-mail', type: 'email', required: false },
    { name: 'bees', label: 'How many hives?', type: 'number', required: false },
    { name: 'hello', label: 'Anything else?', type: 'text', required: false },
  ],
  plan: {
    steps: [
      {
        id: 's1',
        system: 'crm',
        entity: 'orchards',
        recognise: [{ fields: ['mail'] }],
        whenNone: 'create',
        whenOne: 'update',
        whenSeveral: 'ask',
        lines: [
          lineTo('name', ['orchard'], { treatments: [{ kind: 'trim' }] as Line['treatments'] }),
          lineTo('mail', ['mail'], { ifBoth: 'fill only' }),
          lineTo('hives', ['bees'], { origin: 'suggested', confidence: 0.82, reasons: ['both are about hives'] }),
        ],
      },
    ],
  },
} as IntakeDocument;

export const SAMPLES: Sample[] = [
  {
    id: 'a',
    values: { orchard: ' Wren Orchard ', mail: 'orla@wren.example', bees: '12' },
    createdAt: '2026-11-26T08:00:00Z',
  },
  {
    id: 'b',
    values: { orchard: 'Hill Farm', mail: 'ben@hill.example', bees: 'dozens' },
    createdAt: '2026-11-26T08:01:00Z',
  },
];

export const rehearsedAs = (outcome: 'created' | 'updated', more: Partial<Rehearsed> = {}): Rehearsed => ({
  course: {
    state: 'applied',
    steps: [
      {
        step: 's1',
        system: 'crm',
        entity: 'orchards',
        verdict: outcome === 'created' ? 'none' : 'one',
        outcome,
        ...(outcome === 'updated' ? { record: { id: 'O-7' }, recognisedBy: ['mail'] } : {}),
        changes: [
          {
            field: 'name',
            label: 'Name',
            from: ['orchard'],
            before: outcome === 'updated' ? 'Wren' : null,
            after: 'Wren Orchard',
            losses: [],
          },
        ],
      },
    ],
  },
  present: outcome === 'updated' ? { s1: { id: 'O-7', values: { name: 'Wren', mail: 'office@wren.example' } } } : {},
  ...more,
});

export const SYSTEM = {
  system: { id: 'crm', name: 'Clover Hill', state: 'answers', address: 'http://crm.example', capabilities: {} },
  schema: { entities: [ORCHARD] },
  differences: [],
} as unknown as SystemDetail;

/** Shows a station of this intake under its own address, with two samples and a server that keeps the draft as a real one does. */
export function showIntake(
  at: 'arrive' | 'plan' | 'rehearse' | 'open',
  station: ReactNode,
  {
    more = {},
    role = 'specialist',
    document = DOCUMENT,
    state = 'draft',
    live,
  }: {
    more?: Answers;
    role?: 'specialist' | 'viewer';
    document?: IntakeDocument;
    state?: 'draft' | 'open';
    /** What version 1 says, where there is one. */
    live?: IntakeDocument;
  } = {},
) {
  const kept = { document, revision: 1 };
  const detail = (): IntakeDetail => ({
    intake: {
      id: 'i1',
      key: 'visit',
      state,
      draft: kept.document,
      revision: kept.revision,
      liveVersion: live ? 1 : null,
      signed: false,
      putAwayAt: null,
    },
    versions: [],
    changes: [],
    ...(live ? { live } : {}),
  });
  const shown = show(
    <Routes>
      <Route element={<IntakeLayout />}>
        <Route path={at} element={station} />
      </Route>
    </Routes>,
    {
      at: `/intakes/i1/${at}`,
      path: '/intakes/:id/*',
      answers: {
        'get /session': { user: { id: 'u1', email: 'm@wren.example', name: 'Mara', role, active: true } },
        'get /intakes/:id': detail,
        'get /intakes/:id/samples': { samples: SAMPLES },
        'get /intakes/:id/past': { past: [] },
        'get /intakes/:id/facts': {} as never,
        'get /intakes/:id/secrets': { secrets: [] },
        'get /mapping/learned': { learned: [] },
        'get /systems': { systems: [SYSTEM.system] },
        'get /systems/:id': SYSTEM,
        'post /intakes/:id/rehearse': ({ body }: Asked) =>
          lines(
            ...(body as { of: string[] }).of.map((id, at) => ({
              at,
              result: rehearsedAs(id === 'a' ? 'updated' : 'created'),
            })),
          ),
        'put /intakes/:id/draft': ({ body }: Asked) => {
          const said = body as { revision: number; document: IntakeDocument };
          kept.document = said.document;
          kept.revision = said.revision + 1;
          return { revision: kept.revision };
        },
        ...more,
      },
    },
  );
  return { ...shown, kept };
}
