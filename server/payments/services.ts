import type { Dispatcher } from 'undici';
import type { Sealer } from '../access/index.ts';
import { paymentServiceById, type Database, type PaymentServiceRow } from '../store/index.ts';
import { paymentsOverHttp } from './over-http.ts';
import type { PaymentService } from './service.ts';

/** The payment services that are connected. */
export class PaymentServices {
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
}
