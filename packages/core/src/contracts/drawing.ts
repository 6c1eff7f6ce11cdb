import type { Matrix } from '../base/geometry/matrix';
import type { DrawnPicture } from './drawn-picture';
import type { DisplayList, DisplayStyle, TextEntry } from './display-list';
import type { Paths } from '../base/geometry/paths';
import type { Span } from './spans';

/** A line of text as it stands on the board. */
export type Words = Pick<TextEntry, 'text' | 'frame' | 'size' | 'font' | 'align' | 'spacing'>;

/**
 * What a drawn copy says, packed: things placed in mm, y upwards, in painting order, with looks and layers as small tables.
 * Twenty thousand objects cross to a worker by transfer and are compared and hashed without an object each.
 */
export interface Drawing {
  /** Sheet size, mm; null where the format has none. */
  readonly sheet: { readonly width: number; readonly height: number } | null;
  readonly background: string | null;
  readonly layers: DisplayList['layers'];
  readonly looks: readonly DisplayStyle[];
  readonly texts: readonly Words[];
  /** Entries. */
  readonly count: number;
  /** Of each entry: its layer and its look, by number. */
  readonly layer: Uint32Array;
  readonly look: Uint32Array;
  /** count + 1: the first outline of each entry; a text has none. */
  readonly firstOutline: Uint32Array;
  /** Of each entry: its text by number, -1 for a path. */
  readonly text: Int32Array;
  /** Of each entry: the master's object it comes from, by number in `sources`; -1 in what was read from a file. */
  readonly source: Int32Array;
  readonly sources: readonly string[];
  readonly paths: Paths;
  /** What is laid down as one, outer ones first. */
  readonly spans: readonly Span[];
  /** Which entries are a symbol that is used, for formats that have such a thing: it says nothing that the entries do not. */
  readonly uses: readonly DrawnUse[];
  /** Drawings that patterns repeat, masks are made of and uses are of, each by a word for what it says. */
  readonly cells: Readonly<Record<string, Drawing>>;
  /** Pictures that are shown, each by a word for its pixels. */
  readonly pictures: Readonly<Record<string, DrawnPicture>>;
}

/** Entries from `first` to before `end` that are a drawing of the cells, put somewhere. */
export interface DrawnUse {
  readonly first: number;
  readonly end: number;
  readonly cell: string;
  readonly at: Matrix;
  /** What the symbol is called. */
  readonly name: string;
}
