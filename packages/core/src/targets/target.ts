import type { z } from 'zod';
import type { Layer, Master, Process } from '../master/schema';
import type { DisplayList } from '../projection/display-list';

/** What becomes of one feature in a conversion. */
export type Outcome = 'kept' | 'restated' | 'approximated' | 'left out';

/** What a target can hold under given options: the one statement that adapt, footprint, carry-over, docs and tests read. */
export interface Carries {
  /** Processes whose layers are taken; the objects of the others are left out. */
  readonly processes: readonly Process[] | 'all';
  /** The name under which a layer arrives. */
  readonly layerLabel: (layer: Pick<Layer, 'name' | 'process'>) => string;
  /** Whether the label above is the layer's own name, a repaired one, or a number that stands for its process. */
  readonly layerNames: 'kept' | 'repaired' | 'process';
  readonly layerColour: boolean;
  readonly sheet: boolean;
  readonly background: boolean;
  readonly fill: boolean;
  readonly stroke: boolean;
  readonly opacity: boolean;
  /** What a shape without a line of its own is drawn with; none unless said. */
  readonly unstroked?: 'layer colour';
  /** Line widths: any, none, or the nearest of a list (mm). */
  readonly strokeWidth: boolean | readonly number[];
  /** Colours: any, or the nearest of a list. */
  readonly palette: readonly string[] | null;
  readonly text: 'kept' | 'upright' | 'outlines';
  readonly arcs: 'kept' | 'chords';
  readonly cubics: 'kept' | 'arcs' | 'chords';
  /** Largest distance between a curve and what stands for it, mm. */
  readonly chord: number;
  /** Coordinates are rounded to this, mm; 0 where they are not worth a word. */
  readonly step: number;
  /** What the order of things means: nothing, who covers whom, or the order of work. */
  readonly order: 'none' | 'paint' | 'sequence';
}

/** Something in a file that a reader did not understand: named and counted, never dropped in silence. */
export interface NotUnderstood {
  readonly kind: string;
  readonly count: number;
  /** Whether it changes what one sees, so that a file with it says something that was not read. */
  readonly shows: boolean;
}

/** What a reader makes of a file. */
export interface ReadCopy {
  readonly list: DisplayList;
  readonly mark: string | null;
  readonly notUnderstood: readonly NotUnderstood[];
}

/** A file brought in as a document to keep. */
export interface ReadMaster {
  readonly master: Master;
  readonly mark: string | null;
  readonly notUnderstood: readonly NotUnderstood[];
}

export type OptionValues = Record<string, string | number | boolean>;

/** One target: what it carries, its options, write and read. */
export interface Target {
  readonly id: string;
  readonly label: string;
  readonly extension: string;
  readonly mediaType: string;
  /** Standard that the bytes follow. */
  readonly standard: string;
  /** A strict object schema with a default for each option; descriptions are what a person reads. */
  readonly options: z.ZodObject;
  /** Values of the option `version`, oldest first; none for a target that has only one. */
  readonly versions: readonly string[];
  /** What copies of this kind are for. */
  readonly purpose: (options: OptionValues) => 'delivery' | 'older' | 'machine';
  /** Part of the copy's name that tells the version; empty where there is only one. */
  readonly version: (options: OptionValues) => string;
  readonly carries: (options: OptionValues) => Carries;
  /** Default tolerance of a match check, mm. */
  readonly tolerance: number;
  readonly write: (list: DisplayList, options: OptionValues, mark: string) => Uint8Array;
  readonly read: (bytes: Uint8Array) => ReadCopy;
  /** Present where such a file can become a master. */
  readonly bringIn?: (bytes: Uint8Array, name: string) => ReadMaster;
  /** Whether these first bytes look like this format. */
  readonly recognise: (start: string) => boolean;
}
