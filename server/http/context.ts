import type { Sealer } from '../access/index.ts';
import type { Acceptor, LiveView } from '../engine/index.ts';
import type { FileThread } from '../files/index.ts';
import type { Actor, Database, User } from '../store/index.ts';
import type { Systems } from '../systems/index.ts';
import type { LiveFeed } from './live-feed.ts';

/** What the routes work with. */
export interface Context {
  db: Database;
  systems: Systems;
  sealer: Sealer;
  live: LiveView;
  acceptor: Acceptor;
  /** Told when something came into the queue. */
  queued: () => void;
  /** Told when a file is to be taken in. */
  imports: () => void;
  /** Told when an index of known records is to be read. */
  recognitions: () => void;
  /** Told when doubles are to be searched for. */
  searches: () => void;
  /** The program that matches one list against another. */
  listsThread: string | URL;
  fileThread: FileThread;
  feed: LiveFeed;
}

export const actorOf = ({ id, name }: User): Actor => ({ id, name });
