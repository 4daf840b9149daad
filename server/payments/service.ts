/** What a service that takes payments is to us. Card data never comes here: it is given on a page of the service. */

/** A payment to be made: amounts are whole numbers of the currency's smallest unit. */
export interface Asked {
  /** By it the service's events say which payment they are about; asked for twice, it is one payment. */
  reference: string;
  minor: number;
  /** ISO 4217. */
  currency: string;
  /** What it is for, as whoever pays reads it. */
  description: string;
  /** Where whoever pays comes back to. */
  back: string;
}

/** A payment that was begun: what the service calls it, and the page on which it is paid. */
export interface Begun {
  session: string;
  page: string;
}

/** What became of a payment, as the service says it. */
export interface PaymentEvent {
  what: 'paid' | 'refused' | 'refunded';
  reference: string;
  minor: number;
  currency: string;
  /** No money was moved. */
  test: boolean;
  /** When it happened, as far as is said. */
  at: Date;
  words?: string;
}

/** A message that the service didn't sign. */
export class NotSigned extends Error {}

/** A message that is signed and can't be read: which part of it, and why. */
export class UnreadableEvent extends Error {
  constructor(
    readonly field: string,
    readonly reason: string,
  ) {
    super(`${field} ${reason}`);
  }
}

export interface PaymentService {
  /** Begins a payment. @throws SystemTrouble where the service doesn't answer, or answers with something else */
  begin(asked: Asked): Promise<Begun>;
  /**
   * What a message of the service says.
   * @returns undefined for a message about something else
   * @throws NotSigned, UnreadableEvent
   */
  ofEvent(bytes: Buffer, headers: Record<string, unknown>): PaymentEvent | undefined;
}
