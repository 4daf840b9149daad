import type { Dispatcher } from 'undici';
import type { Sealer } from '../access/index.ts';
import { paymentServiceById, type Database, type PaymentServiceRow } from '../store/index.ts';
import { paymentsOverHttp } from './over-http.ts';
import type { PaymentService } from './service.ts';

/** The payment services that are connected. */
export class PaymentServices {
  private readonly modes = new Map<string, { test: boolean; at: number }>();

  constructor(
    private readonly db: Database,
    private readonly sealer: Sealer,
    private readonly dispatcher: Dispatcher,
  ) {}

  /** @returns undefined where there is none of this id, or no more */
  async service(id: string): Promise<(PaymentService & { row: PaymentServiceRow }) | undefined> {
    const row = await paymentServiceById(this.db, id);
    if (!row) return undefined;
    const settings = {
      address: row.address,
      key: this.sealer.open(row.sealedKey, row.id),
      signing: this.sealer.open(row.sealedSigning, row.id),
    };
    return { row, ...paymentsOverHttp(settings, this.dispatcher) };
  }

  /** Whether what is paid through a service moves no money; as it was some seconds ago. */
  async isTest(id: string): Promise<boolean> {
    const known = this.modes.get(id);
    if (known && Date.now() - known.at < MODE_KNOWN_MS) return known.test;
    const test = (await paymentServiceById(this.db, id))?.test ?? false;
    // Services are a few; ids come from documents of our own.
    if (this.modes.size > 100) this.modes.clear();
    this.modes.set(id, { test, at: Date.now() });
    return test;
  }
}

const MODE_KNOWN_MS = 10_000;
