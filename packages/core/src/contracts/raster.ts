import type { Rows } from './pictures';

/** What a copy of pixels says. */
export interface Raster {
  readonly rows: Rows;
  /** Whether anything may be see-through. */
  readonly alpha: boolean;
  readonly depth: 8 | 16;
  /** What its colours are stated in; null where nothing is said. */
  readonly profile: string | null;
  /** Pixels per inch; null where nothing is said. */
  readonly ppi: number | null;
  /** The file that this is read from, without a mark, where making it comes first: what a format loses shows only there. */
  readonly packed?: Uint8Array;
}

const INCH = 25.4;

/** Millimetres of a pixel. */
export const pitchOf = ({ ppi }: Pick<Raster, 'ppi'>): number => INCH / (ppi ?? 96);
