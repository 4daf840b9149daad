import { lawOfMirror, lawOfNothingLost, lawOfOrder, lawOfRest } from '../testing/pairing-laws.ts';

/** Histories of each law; `npm run soak` asks for many more. */
// eslint-disable-next-line no-restricted-globals
const RUNS = Number(process.env['HISTORIES'] ?? 1_000);

describe('over random histories of edits, late pages, refusals and ended processes', () => {
  it('a pair comes to rest, and then nothing more is written', () => lawOfRest(RUNS));
  it('no edit is lost that nobody contradicted', () => lawOfNothingLost(RUNS));
  it('the order in which changes are told decides nothing', () => lawOfOrder(RUNS));
  it('swapping the sides swaps the outcome', () => lawOfMirror(RUNS));
});
