import { freshLine, freshPairing, historyFor, type Pairing, type PairLine } from '@zusammen/core/pairing';
import type { Schema } from '@zusammen/core/schema';

/** The two systems as the demo has connected them. */
export interface Connected {
  id: string;
  schema: Schema;
}

const line = (left: string, right: string, more: Partial<PairLine> = {}): PairLine => ({
  ...freshLine(left, left.split('.'), right.split('.')),
  ...more,
});

/** Subscribers follow the people of the CRM, and the other way round; options differ on purpose. */
export function subscribersWithPeople(letters: Connected, crm: Connected): Pairing {
  const history = historyFor(crm.schema);
  return {
    ...freshPairing(
      'Letter subscribers with people',
      { system: letters.id, entity: 'subscribers' },
      { system: crm.id, entity: 'People' },
    ),
    matches: [{ parts: [{ left: ['crm_id'], right: ['id'] }] }, { parts: [{ left: ['email'], right: ['email'] }] }],
    lines: [
      line('given', 'first_name'),
      line('family', 'last_name', { decides: 'ask' }),
      line('interests', 'interests', {
        way: 'to left',
        options: [{ left: 'hiring hives', right: 'pollination' }],
      }),
      line('last_visit', 'last_visit_at', { way: 'to left' }),
      line('keeper', 'owner_id.name', { way: 'to left' }),
      line('wants_letters', 'letters_allowed', { decides: 'left' }),
    ],
    onlyLeft: ['came_from', 'campaign', 'letters_opened'],
    ...(history ? { rightHistory: history } : {}),
  };
}

/** Contract lines follow the quote lines they were made from, found through the contract's quote. */
export function quoteLinesWithContractLines(crm: Connected): Pairing {
  return {
    ...freshPairing(
      'Quote lines with contract lines',
      { system: crm.id, entity: 'QuoteLines' },
      { system: crm.id, entity: 'ContractLines' },
    ),
    matches: [
      {
        parts: [
          { left: ['quote_id'], right: ['contract_id', 'quote_id'] },
          { left: ['position'], right: ['position'] },
        ],
      },
    ],
    lines: [
      line('placement_week', 'placement_at', { way: 'to right' }),
      line('hive_strength', 'strength', { way: 'to right', options: [{ left: 'medium', right: 'middling' }] }),
      line('keeper_id', 'beekeeper_id', { way: 'to right' }),
    ],
  };
}
