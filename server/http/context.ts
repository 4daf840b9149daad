import type { PaymentServices } from '../payments/index.ts';
import type { ActingPeople } from '../acting/index.ts';
import type { Links } from './hosted/links.ts';
import type { FormReading } from './hosted/reading.ts';
import type { Sealer } from '../access/index.ts';
import type { Acceptor, Jobs, LiveView, Pairings } from '../engine/index.ts';
import type { Heavy } from '../heavy/index.ts';
import type { FileReader } from '../files/index.ts';
import type { Actor, Database, User } from '../store/index.ts';
import type { Systems } from '../systems/index.ts';
import type { LiveFeed } from './live-feed.ts';
import type { OpenDrifts } from './open-drift.ts';
import type { Reach } from './reach.ts';

/** What the routes work with. */
export interface Context {
  db: Database;
  systems: Systems;
  sealer: Sealer;
  live: LiveView;
  pairings: Pairings;
  acceptor: Acceptor;
  /** Told when something came into the queue. */
  queued: () => void;
  /** Told when there is a job; some are worked on while somebody waits. */
  jobs: Jobs;
  /** Where what takes long is worked out. */
  heavy: Heavy;
  /** Who reads and who writes which field. */
  reach: Reach;
  /** What has become otherwise in systems. */
  drifts: OpenDrifts;
  /** What forms of ours read for whoever fills them in. */
  formReading: FormReading;
  /** People who act as themselves in systems. */
  acting: ActingPeople;
  /** Makes and reads links that open a form with a record. */
  links: Links;
  /** Services that take payments for forms of ours. */
  payments: PaymentServices;
  fileReader: FileReader;
  feed: LiveFeed;
  settings: HttpSettings;
}

/** How this installation is reached. */
export interface HttpSettings {
  /** Its address as people know it, without a slash at the end. */
  publicAddress: string;
  /** Session cookies go over HTTPS only; absent: wherever the connection is. */
  secureCookies?: boolean;
  /** Proxies whose word about who is calling is taken: addresses, ranges, or `loopback`. */
  trustedProxies: readonly string[];
}

export const actorOf = ({ id, name }: User): Actor => ({ id, name });
