import type { Place } from './shapes';

/** A line as a reader sees it. */
export interface SeenLine {
  readonly layer: string;
  /** #rrggbb where the file says it so and the reader knows that, else the number of the format's palette. */
  readonly colour: string | number;
  readonly points: readonly Place[];
  readonly closed: boolean;
  readonly filled: boolean;
}
/** A text as a reader sees it. */
export interface SeenText {
  readonly layer: string;
  readonly words: string;
  readonly at: Place;
  readonly height: number;
}

/** What a reader of an age makes of a file. */
export interface Seen {
  readonly reader: string;
  readonly opens: boolean;
  /** Why not, and at which line or byte. */
  readonly refused: { readonly at: number; readonly words: string } | null;
  /** What it passed over, and how often. */
  readonly dropped: readonly { readonly what: string; readonly count: number }[];
  readonly sha256: string;
  readonly lines: readonly SeenLine[];
  readonly texts: readonly SeenText[];
  readonly pictures: number;
  readonly picture: string;
}
