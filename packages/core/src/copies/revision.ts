import type { Master } from '../document/schema';

/** One revision of a master: what a copy is made from. */
export interface RevisionOf {
  readonly master: Master;
  readonly rev: number;
  /** Time of the update, ISO 8601; the only date that ever enters a copy. */
  readonly time: string;
}
