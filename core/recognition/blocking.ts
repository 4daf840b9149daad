/** How many of the known records a key may bring up to be compared with one. */
export interface Blocking {
  /** Up to so many records under one key, the key alone is reason enough to compare them. */
  small: number;
  /** Records under larger keys must share two at least; a key of more records than this tells nobody apart at all. */
  largest: number;
  /** At most so many records are compared with one, those that share the rarest keys first. */
  most: number;
}

/** In memory, where looking at a record costs nothing. */
export const IN_MEMORY: Blocking = { small: 250, largest: 2000, most: 160 };
/** In the database, where each is a row to be fetched; finer keys find what the larger ones would have found. */
export const IN_DATABASE: Blocking = { small: 250, largest: 500, most: 64 };
