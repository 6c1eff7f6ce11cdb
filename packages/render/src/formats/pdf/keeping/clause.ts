import type * as Library from '@cantoo/pdf-lib';
import type { Unpacking } from '../read/unpacked';
import type { Whole } from '../read/whole';

/** A dictionary of a file, with its number where it has one, and its stream where it holds one. */
export interface Held {
  readonly where: string;
  readonly dict: Library.PDFDict;
  readonly stream: Library.PDFRawStream | null;
}

/** A stream that draws, with what it says. */
export interface Drawn extends Held {
  readonly content: Uint8Array;
  /** Whether all of it could be unpacked. */
  readonly isWhole: boolean;
}

/** A file that claims to be made for keeping. */
export interface KeptFile extends Whole {
  readonly bytes: Uint8Array;
  /** All dictionaries, those within others included. */
  readonly all: readonly Held[];
  readonly part: 2 | 3;
  readonly unpacking: Unpacking;
  /** All streams that draw, unpacked. */
  readonly drawings: readonly Drawn[];
}

/** A clause of the standard: where a file breaks it, in words with the number of the object. */
export interface Clause {
  /** "6.2.3". */
  readonly number: string;
  readonly words: string;
  readonly broken: (file: KeptFile) => Iterable<string>;
}

type Value = Library.PDFObject | undefined;

/** What an entry is, references followed. */
export const entry = ({ lib, context }: Whole, dict: Library.PDFDict | undefined, key: string): Value => {
  const held = dict?.get(lib.PDFName.of(key));
  return held && context.lookup(held);
};

export const has = ({ lib }: Whole, dict: Library.PDFDict, key: string): boolean => dict.has(lib.PDFName.of(key));

export const nameOf = (file: Whole, dict: Library.PDFDict | undefined, key: string): string => {
  const held = entry(file, dict, key);
  return held instanceof file.lib.PDFName ? held.decodeText() : '';
};

export const dictOf = (file: Whole, dict: Library.PDFDict | undefined, key: string): Library.PDFDict | undefined => {
  const held = entry(file, dict, key);
  return held instanceof file.lib.PDFDict ? held : held instanceof file.lib.PDFStream ? held.dict : undefined;
};

export const listOf = (file: Whole, dict: Library.PDFDict | undefined, key: string): Value[] => {
  const held = entry(file, dict, key);
  return held instanceof file.lib.PDFArray ? held.asArray().map((one) => file.context.lookup(one)) : [];
};

export const isTrue = (file: Whole, dict: Library.PDFDict, key: string): boolean =>
  entry(file, dict, key) === file.lib.PDFBool.True;

/** What a stream holds; nothing where it can't be unpacked. */
export const unpackedIn = (file: KeptFile, stream: Library.PDFRawStream): Uint8Array =>
  file.unpacking.bytes(stream) ?? new Uint8Array();

/** Dictionaries of a type. */
export const ofType = (file: KeptFile, type: string): Held[] =>
  file.all.filter(({ dict }) => nameOf(file, dict, 'Type') === type);
