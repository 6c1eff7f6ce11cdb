import type * as z from 'zod';
import type { Carries } from './leaf';
import type { PartList } from './schemas';
import type { Use } from './uses';

export type OptionValue = string | number | boolean;
export type Options = Readonly<Record<string, OptionValue>>;

/** What is derived of each part of one kind, to lie beside the master. */
export interface Rendition {
  readonly of: PartList;
  /** Where it lies. */
  readonly folder: string;
  readonly target: string;
  readonly options: Options;
  /** It is to be looked at, and not to be produced from. */
  readonly loses?: true;
}

/** A target as everyone may know it, without its reader and writer: small enough for a browser's first load. */
export interface Declaration {
  readonly id: string;
  readonly label: string;
  /** Its place where formats are offered, smallest first; those without come last. */
  readonly offered?: number;
  /** Standard that the bytes follow. */
  readonly standard: string;
  readonly mediaType: string;
  /** Changes whenever the writer gives other bytes for the same content. */
  readonly writer: string;
  /**
   * A strict object schema with a default for each option, from which the form is built: descriptions are what a person reads,
   * `unit` in its metadata is shown beside a number, `words` (value → words) beside choices; `only` says of which list of parts, with which
   * feature or with which values of other options it means something; `fresh` is what new copies get where nobody says otherwise, in the place
   * of the default, which says what copies from before the option are.
   */
  readonly options: z.ZodObject;
  /** Why options that are right one by one don't go together, and what to do; null where they do. */
  readonly clash?: (options: Options) => string | null;
  /** Whether a copy says what its master says of itself. Absent where its format has no places for that. */
  readonly describes?: (options: Options) => boolean;
  /** Whether a copy has the native master inside. */
  readonly encloses?: (options: Options) => boolean;
  /** Present where a copy is all of a master, with what is derived of its parts beside it. */
  readonly renditions?: (options: Options) => readonly Rendition[];
  /** What of the options a name is to tell, where no version does. */
  readonly named?: (options: Options) => string;
  /** How a copy is locked with a password; null where one by these options can't be. Absent where none can. */
  readonly locks?: (options: Options) => string | null;
  /** Options that make a copy smaller, step by step, the least loss first; absent where nothing does. */
  readonly smaller?: readonly Options[];
  /** The option that names the version of the format, and its values, oldest first; null for a target that has only one. */
  readonly versions: { readonly option: string; readonly values: readonly string[] } | null;
  /** Whether programs that know one version each, and nothing of ours, are at hand to open its files. */
  readonly ages?: true;
  readonly use: (options: Options) => Use;
  /** What else a copy can be for, by which options. */
  readonly alsoFor?: Readonly<Partial<Record<Use, Options>>>;
  readonly extension: (options: Options) => string;
  /** What is held of each kind of content; a kind that is absent is left out. */
  readonly carries: (options: Options) => Carries;
  /** Default tolerance of a match check for each kind, mm. */
  readonly tolerance: Readonly<Record<string, number>>;
  readonly holds: {
    /** Whether a copy can say several sheets. */
    readonly leaves: 'one' | 'many';
    readonly files: (options: Options) => 'one' | 'many';
    readonly mark: 'inside' | 'sidecar';
  };
  /** The most that such a file can hold: bytes, rows of a table with its heading, its columns. */
  readonly limits: { readonly bytes?: number; readonly rows?: number; readonly columns?: number };
  /**
   * How a file of this format is recognised by its first bytes, and how sure that is: of several formats that know a file, the
   * surest has it. @param entries names of what is in it, where it is a zip package
   */
  readonly recognise: Readonly<Partial<Record<Certainty, (head: Uint8Array, entries: readonly string[]) => boolean>>>;
}

/**
 * How sure a file's beginning makes, surest first: bytes that nothing else begins with; words or entries that its standard
 * prescribes; how it looks as a whole, which others could look like, too; and formats that hold anything at all.
 */
export const CERTAINTIES = ['signature', 'structure', 'shape', 'anything'] as const;
export type Certainty = (typeof CERTAINTIES)[number];
