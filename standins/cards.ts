/** Numbers no card of any issuer has (they begin with 0, ISO/IEC 7812), and what becomes of a payment with each. */
export interface TestCard {
  number: string;
  outcome: 'paid' | 'failed';
  words: string;
  /** Only where payments are made by themselves: a code is asked for, or the answer takes its time. */
  way?: 'code' | 'slow';
}

export const TEST_CARDS: TestCard[] = [
  { number: '0000 1111 0000 1111', outcome: 'paid', words: 'is paid' },
  { number: '0000 2222 0000 2222', outcome: 'failed', words: 'is refused: not enough money' },
  { number: '0000 3333 0000 3333', outcome: 'failed', words: 'is refused: the card has expired' },
];

/** Those that only the payment service knows. */
export const MORE_CARDS: TestCard[] = [
  { number: '0000 4444 0000 4444', outcome: 'paid', words: 'is paid once the code 424 is given', way: 'code' },
  { number: '0000 5555 0000 5555', outcome: 'paid', words: 'is paid after some seconds', way: 'slow' },
];

export const digits = (text: string): string => text.replace(/\D/g, '');
