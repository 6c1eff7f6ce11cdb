import type { CopyDescription } from './description';
import type { Leaf } from './leaf';
import type { MaybePromise, Services } from './services';
import type { Master } from '../document/schema';
import type { Declaration, Options } from './declaration';
import type { Raster } from './raster';
import type { NotUnderstood } from './not-understood';
import type { PartWishes } from './wishes';

/** A master that travels inside a copy. */
export interface Enclosed {
  /** What it says, as a digest. */
  readonly says: string;
  /** It as a native package; empty where only what it says is asked. */
  readonly bytes: Uint8Array;
}

/** A file beside a master in a copy that is all of it. */
export interface RenditionFile {
  readonly path: string;
  readonly bytes: Uint8Array;
}

/** What a copy says: its sheets, paths and the like, in order, kinds mixed. */
export interface CopyContent {
  /** What the master is called, for formats that have a place for it. It is no part of what is compared. */
  readonly title?: string;
  /** What it says of itself, in the places that its format has for that. */
  readonly described?: CopyDescription | undefined;
  readonly enclosed?: Enclosed;
  readonly renditions?: readonly RenditionFile[];
  readonly leaves: readonly Leaf[];
}

/** One file of a copy: the first is the copy, the rest are its parts. */
export interface CopyFile {
  /** What is added to the copy's name, empty for the first; with an ending, the name of a file beside it. */
  readonly part: string;
  readonly bytes: Uint8Array;
}

/** What a reader makes of a copy's files. */
export interface ReadCopy extends CopyContent {
  readonly mark: string | null;
  readonly notUnderstood: readonly NotUnderstood[];
}

/** A file brought in as a document to keep. */
export interface ReadMaster {
  readonly master: Master;
  readonly mark: string | null;
  readonly notUnderstood: readonly NotUnderstood[];
  /** Parts that a master can't hold and that came in as pictures of themselves. */
  readonly asPictures?: number;
  /** Texts in fonts that the file carries, which came in as outlines. */
  readonly asOutlines?: number;
  /** Bytes of the pictures that stand in it, by SHA-256. */
  readonly resources?: ReadonlyMap<string, Uint8Array>;
}

/** How a file would be read that says little of itself: what was found, for a person to confirm, and what comes of it. */
export interface ImportPreview {
  settings: {
    /** As it is wished for when the file is brought in. */
    name: 'encoding' | 'delimiter' | 'decimal' | 'dates' | 'heading' | 'quotes' | 'lines' | 'unit' | 'up';
    label: string;
    value: string;
    choices: { value: string; label: string }[];
    /** Nothing in the file says otherwise. */
    sure: boolean;
  }[];
  columns: { name: string; unit: string; type: string }[];
  /** The first rows, as they are understood. */
  rows: string[][];
  /** What is not as it should be, in words. */
  remarks: string[];
}

/** How files of a format are locked with a password. */
export interface Lock {
  readonly isLocked: (bytes: Uint8Array) => boolean;
  /** The mark of origin, which stands outside the lock; null where there is none. */
  readonly mark: (bytes: Uint8Array) => string | null;
  /** @throws Failure `password-wrong` */
  readonly open: (bytes: Uint8Array, password: string) => Promise<Uint8Array>;
  /** Bytes that are otherwise each time: a lock is as good as what is drawn by chance. */
  readonly close: (bytes: Uint8Array, password: string) => Promise<Uint8Array>;
}

/** What is known of a file before it is read; without it a reader goes by the mark of origin. */
export interface ReadHints {
  readonly options?: Options;
}

/** Write and read of one target. May answer later, where its library does. */
export interface Codec {
  readonly declaration: Declaration;
  readonly write: (says: CopyContent, options: Options, mark: string, services: Services) => MaybePromise<readonly CopyFile[]>;
  /** Fills the digest of what the copy says into its mark, in place: a copy is written once. */
  readonly seal: (files: readonly CopyFile[], says: string) => readonly CopyFile[];
  readonly read: (files: readonly CopyFile[], hints: ReadHints, services: Services) => MaybePromise<ReadCopy>;
  /** The names of the files that a copy's first file says stand beside it; without it, they are numbered. */
  readonly beside?: (first: Uint8Array) => readonly string[];
  /** The parts of a copy as they are seen, for what its reader does not understand; null where that is too much to look at. */
  readonly seen?: (files: readonly CopyFile[]) => Promise<readonly Raster[] | null>;
  /**
   * Present where files can lose something each time they are written: what a master says, once more through the loss that these show.
   * Null where they do not show it. Its words say how they were written.
   */
  readonly again?: (
    files: readonly CopyFile[],
    says: CopyContent,
    services: Services,
  ) => MaybePromise<{ readonly content: CopyContent; readonly words: string } | null>;
  /** Options that a file shows it was made by, for copies that lost their mark. */
  readonly stated?: (bytes: Uint8Array, services: Partial<Services>) => MaybePromise<Readonly<Record<string, string>>>;
  /** Present where a file says too little of itself to be brought in unseen. @param wishes what somebody decided already */
  readonly look?: (bytes: Uint8Array, name: string, wishes: Partial<PartWishes>) => ImportPreview | null;
  /** Present where such a file may name others that lie beside it: the file with all of them inside, as far as they are there. */
  readonly withBeside?: (bytes: Uint8Array, beside: (name: string) => Uint8Array | undefined) => Uint8Array;
  /** Present where such files can be locked with a password. */
  readonly lock?: Lock;
  /** Present where such a file may have a native package inside: that, or null. */
  readonly nativeInside?: (bytes: Uint8Array) => MaybePromise<Uint8Array | null>;
  /** Present where such a file can become a master. */
  readonly bringIn?: (
    bytes: Uint8Array,
    name: string,
    services?: Partial<Services>,
    wishes?: PartWishes,
  ) => MaybePromise<ReadMaster>;
}

/** A reader and writer that is loaded when it is first asked for. */
export type LazyCodec = () => MaybePromise<Codec>;

/** A single file as a copy's files. */
export const onlyFile = (bytes: Uint8Array): readonly CopyFile[] => [{ part: '', bytes }];
