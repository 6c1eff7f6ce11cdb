import type * as z from 'zod';
import type { Matrix } from '../../base/geometry/matrix';
import type { Outline } from '../../base/geometry/outline';
import type { PlacedPicture } from '../paint';
import type { HandDrawn } from './by-hand';
import type { Measure, TextLine } from './text-line';
import { CAPS, JOINS } from '../schema-parts';

/** A property that a person may set: where it is, what it is called, and how it is edited. */
export interface Field {
  readonly attribute: string;
  readonly label: string;
  /**
   * `wording`: of a text, whose parts may look otherwise. `share`: of a whole, said in percent; all of it where nothing is said.
   * `paint`: a colour, a gradient or a pattern. `part`: a part of the master of the list `of`. `column`: one of the table that the
   * attribute `of` names; an optional one may be none. `symbol`: one of the master's, with `unsaid` or none. `yes`: there or not.
   * `words`: a short text. `anchor`: an end of a dimension.
   */
  readonly kind:
    'number' | 'wording' | 'choice' | 'paint' | 'share' | 'lengths' | 'part' | 'column' | 'symbol' | 'yes' | 'words' | 'anchor';
  readonly of?: string;
  readonly unit?: string;
  readonly choices?: readonly string[];
  /** Smallest value allowed. */
  readonly least?: number;
  /** Largest value allowed. */
  readonly most?: number;
  /** What stands where nothing is said; an emptied field says nothing. */
  readonly unsaid?: string;
  /** Means something only where there is a line. */
  readonly ofLine?: true;
}

/** Draws at random, whatever by. */
export interface Draw {
  /** Between bounds, mm, in hundredths. */
  readonly number: (least: number, most: number) => number;
  readonly pick: <T>(list: readonly T[]) => T;
  /** An outline of lines and curves, about 200 by 100 mm, whose points are not all in one place. */
  readonly outline: () => Outline;
}

/** What an item holds instead of drawing by itself: items of its own, or a symbol by its id. */
export interface Opened<N> {
  readonly items?: readonly N[];
  readonly symbol?: string;
}

/**
 * A kind of item: everything that the rest of the house wants to know of it. One of `outlines`, `lines` and `opens` is there.
 * @typeParam N the item
 */
export interface ItemKind<N = never> {
  readonly id: string;
  readonly schema: z.ZodObject;
  /** What people call one of these that has no name. */
  readonly words: (item: N) => string;
  /** Names of its attributes that are lists of nodes. */
  readonly lists: readonly 'items'[];
  /** The outlines of a shape in its own axes, mm. */
  readonly outlines?: (item: N) => readonly Outline[];
  /** The picture that its outlines are filled with, in its own axes. */
  readonly paint?: (item: N) => PlacedPicture;
  /** The kept file that it shows, by its SHA-256. */
  readonly resource?: (item: N) => string;
  /** The lines of a text, those without a letter left out. */
  readonly lines?: (item: N, measure: Measure) => readonly TextLine[];
  /** What else changes with an attribute. */
  readonly followChange?: (item: N, attribute: string, value: unknown) => Readonly<Record<string, unknown>>;
  readonly openContents?: (item: N) => Opened<never>;
  /** What becomes of what it shows on the way into a copy. */
  readonly arrival?: { readonly what: string; readonly becomes: string };
  /** The part of the master that it shows and follows: what it draws comes of that (placed/). */
  readonly readPart?: (item: N) => { readonly list: 'tables' | 'solids' | 'texts'; readonly id: string };
  /** Draws by a rule of its own from what else is in the master, and opens nothing by itself (drawn/). */
  readonly drawsByRule?: true;
  /** Ids of the symbols that it draws with. */
  readonly symbols?: (item: N) => readonly string[];
  /**
   * The attributes that place it, moved in its own axes, mm. A kind without them is moved by its transform.
   */
  readonly placed?: (item: N, dx: number, dy: number) => Readonly<Record<string, number>>;
  /** The attributes that name other objects, with other ids for some of them. */
  readonly renameIds?: (item: N, ids: ReadonlyMap<string, string>) => Readonly<Record<string, unknown>>;
  /** How it is taken hold of by its points: its outlines, and the attributes that make them others; null where it can't be those. */
  readonly byPoints?: {
    readonly outlines: (item: N) => readonly Outline[];
    readonly take: (item: N, outlines: readonly Outline[]) => Readonly<Record<string, unknown>> | null;
  };
  /**
   * Its attributes after a map in the axes around it, for an item without a transform; null where only a transform can say it.
   */
  readonly mapShape?: (item: N, matrix: Matrix) => Readonly<Record<string, unknown>> | null;
  /** Whether width and height are attributes of its own; the size of the others is a matter of their transform. */
  readonly sized: boolean;
  readonly fields: readonly Field[];
  /** Where it stands among those that are offered, from 1; after all of them, by its name, where nothing is said. */
  readonly offered?: number;
  /** The ways to draw one by hand. */
  readonly byHand?: readonly HandDrawn[];
  /** The attributes of its own that one may have, drawn at random: what the laws are tried on. For those that need no other node. */
  readonly example?: (draw: Draw) => object;
  /** How one can be added by hand: what the button says, and a new one about a place. Its id, layer and name come from outside. */
  readonly fresh?: {
    readonly label: string;
    /** The list that it shows a part of: one of them is handed to `make`. */
    readonly of?: 'tables' | 'solids' | 'texts' | 'symbols';
    readonly make: (about: {
      readonly cx: number;
      readonly cy: number;
      readonly unit: number;
      readonly colour: string;
      readonly part: string;
    }) => object;
  };
}

export const measure = (attribute: string, label: string, least?: number): Field => ({
  attribute,
  label,
  kind: 'number',
  unit: 'mm',
  ...(least === undefined ? {} : { least }),
});
/** The fields of a look. */
export const LOOK: readonly Field[] = [
  { attribute: 'style.fill', label: 'Fill', kind: 'paint' },
  { attribute: 'style.stroke', label: 'Line', kind: 'paint' },
  { ...measure('style.strokeWidth', 'Line width', 0), ofLine: true },
  { attribute: 'style.dash', label: 'Dashes', kind: 'lengths', unit: 'mm', ofLine: true },
  { attribute: 'style.cap', label: 'Line ends', kind: 'choice', choices: CAPS, ofLine: true },
  { attribute: 'style.join', label: 'Corners', kind: 'choice', choices: JOINS, ofLine: true },
  { attribute: 'style.opacity', label: 'Opacity', kind: 'share' },
];
/** How a shape looks that was just added. */
export const freshLine = (colour: string) => ({ fill: null, stroke: colour, strokeWidth: 0.5 });
