import type { Fonts } from './fonts';
import type { PictureEngine } from './pictures';
import type { ChartEngine } from './charts';
import type { SolidEngine } from './solids';

export type MaybePromise<T> = T | Promise<T>;

/** What a step needs from outside, handed to it. */
export interface Services {
  readonly fonts: Fonts;
  /** The bytes of a kept file by its SHA-256. @throws Failure `resource-missing` */
  readonly resource?: (sha256: string) => MaybePromise<Uint8Array>;
  /** Without it pictures are neither read nor written. */
  readonly pictures?: PictureEngine;
  /** Without it solids are neither made nor read exactly. */
  readonly solids?: SolidEngine;
  /** Without it charts are not drawn. */
  readonly charts?: ChartEngine;
  /** A file that lies beside the one that comes in, by the name it is called there. */
  readonly beside?: (name: string) => Uint8Array | undefined;
  /** Stops long work between two sheets. */
  readonly signal?: AbortSignal;
}
