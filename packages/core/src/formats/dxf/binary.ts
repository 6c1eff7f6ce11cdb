import { ByteWriter } from '../../base/bytes/byte-writer';
import { decodeAs, isUtf8, withinLimit } from '../../base/bytes/text';
import { Failure } from '../../base/failure/failure';
import { unescaped } from './text';
import { type DxfFile, GroupStore, Sections, isNumeric } from './records';

/** The sentence that binary files begin with (DXF reference, Binary DXF files): a name of seven letters, and what they are. */
const NAME = 'AutoCAD'; // term-guard: standard (DXF reference, Binary DXF files)
const SENTENCE = ' Binary DXF\r\n\u001a\0';
const [FROM, LENGTH] = [NAME.length, NAME.length + SENTENCE.length];

/** Whether a file is of the binary form. */
export const isBinary = (bytes: Uint8Array): boolean =>
  [...SENTENCE].every((letter, i) => bytes[FROM + i] === letter.charCodeAt(0));

type Value = 'text' | 'double' | 'short' | 'long' | 'longer' | 'yes' | 'chunk';
/** Of what type the values of groups are, by the first code of a range (DXF reference, group code value types). */
const TYPES: readonly (readonly [from: number, type: Value])[] = [
  [0, 'text'],
  [10, 'double'],
  [60, 'short'],
  [90, 'long'],
  [100, 'text'],
  [110, 'double'],
  [160, 'longer'],
  [170, 'short'],
  [210, 'double'],
  [270, 'short'],
  [290, 'yes'],
  [300, 'text'],
  [310, 'chunk'],
  [320, 'text'],
  [370, 'short'],
  [390, 'text'],
  [400, 'short'],
  [410, 'text'],
  [420, 'long'],
  [430, 'text'],
  [440, 'long'],
  [460, 'double'],
  [470, 'text'],
  [1004, 'chunk'],
  [1005, 'text'],
  [1010, 'double'],
  [1060, 'short'],
  [1071, 'long'],
  [1072, 'text'],
];
const typeOf = (code: number): Value => TYPES.findLast(([from]) => code >= from)?.[1] ?? 'text';

/** Where groups of a binary file lie, one after the other. */
class Cursor {
  readonly view: DataView;
  /** Up to R12 a code is one byte, where need be an escape to two; the first group has code 0. */
  private readonly short: boolean;
  at = LENGTH;
  /** How many groups were begun. */
  groups = 0;

  constructor(readonly bytes: Uint8Array) {
    this.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    this.short = bytes[LENGTH + 1] !== 0;
  }

  get ended(): boolean {
    return this.at >= this.bytes.length;
  }
  /** As the same file has it as text. */
  get line(): number {
    return 2 * this.groups;
  }

  private take(count: number): number {
    const from = this.at;
    if (from + count > this.bytes.length) throw this.cut();
    this.at = from + count;
    return from;
  }
  private cut(): Failure {
    return new Failure('dxf-damaged', `The binary DXF file ends in the middle of a group, at byte ${this.bytes.length}.`);
  }

  code(): number {
    this.groups++;
    if (!this.short) return this.view.getInt16(this.take(2), true);
    const code = this.bytes[this.take(1)]!;
    return code === 255 ? this.view.getInt16(this.take(2), true) : code;
  }

  /** A value that is a number. @param type other than `text` and `chunk` */
  number(type: Value): number {
    if (type === 'double') return this.view.getFloat64(this.take(8), true);
    if (type === 'short') return this.view.getInt16(this.take(2), true);
    if (type === 'long') return this.view.getInt32(this.take(4), true);
    if (type === 'longer') return Number(this.view.getBigInt64(this.take(8), true));
    return this.bytes[this.take(1)]!;
  }

  /** Passes a value that is text, and the zero after it. @returns whether its letters are what they look like */
  text(): boolean {
    const { bytes } = this;
    let plain = true;
    let i = this.at;
    for (; ; i++) {
      if (i >= bytes.length) throw this.cut();
      const byte = bytes[i]!;
      if (byte === 0) break;
      // Of another encoding, a line end, or the stroke that stands before a letter by its number.
      if (byte > 127 || byte === 10 || byte === 13 || byte === 92) plain = false;
    }
    this.at = i + 1;
    return plain;
  }

  /** A value that is bytes, in digits of sixteen. */
  chunk(): string {
    const length = this.bytes[this.take(1)]!;
    const from = this.take(length);
    return Array.from(this.bytes.subarray(from, this.at), (byte) => byte.toString(16).padStart(2, '0'))
      .join('')
      .toUpperCase();
  }
}

const typeByCode: readonly Value[] = Array.from({ length: 1072 + 1 }, (_, code) => typeOf(code));
const valueOf = (code: number): Value => (code >= 0 && code <= 1072 ? typeByCode[code]! : 'text');

const plain = new TextDecoder('latin1');
const isAscii = (bytes: Uint8Array): boolean => bytes.every((byte) => byte < 128);
/** Letters of a file as those of a text: a line end would begin another group. */
const inOneLine = (words: string): string => words.replace(/[\r\n]/g, ' ');

/** All texts as words, in the encoding that they are in together: UTF-8 where that is what they can be. */
function settleLetters(store: GroupStore, bytes: Uint8Array, older: string): boolean {
  const texts: Uint8Array[] = [];
  for (let i = 0; i < store.size; i++)
    if (store.starts[i]! >= 0 && store.ends[i]! <= bytes.length) texts.push(bytes.subarray(store.starts[i], store.ends[i]));
  const unicode = isUtf8(texts.filter((text) => !isAscii(text)));
  const parts: string[] = [];
  let [length, next] = [0, 0];
  for (let i = 0; i < store.size; i++) {
    const [from, to] = [store.starts[i]!, store.ends[i]!];
    if (from < 0) continue;
    const part = to <= bytes.length ? texts[next++]! : null;
    const words = part
      ? inOneLine(unescaped(isAscii(part) ? plain.decode(part) : decodeAs(part, unicode ? 'utf-8' : older)))
      : store.words(from, to);
    store.starts[i] = length;
    length += words.length;
    store.ends[i] = length;
    parts.push(words);
  }
  store.text = parts.join('');
  store.letters = new Uint8Array();
  return unicode;
}

/**
 * Splits a binary file into records, its numbers and words as they lie there.
 * @param older the encoding of letters that are not UTF-8, by a label of the WHATWG's
 * @returns with it whether all letters were understood without that
 * @throws Failure `dxf-damaged` that says at which byte, and that of `withinLimit`
 */
export function parseBinary(bytes: Uint8Array, older: string): { file: DxfFile; unicode: boolean } {
  withinLimit(bytes);
  const cursor = new Cursor(bytes);
  // The shortest group is a code of one byte and an empty text.
  const store = new GroupStore(1 + Math.ceil(bytes.length / 2));
  const sections = new Sections(store);
  const comments: string[] = [];
  // Words stay where they lie in the file.
  store.letters = bytes;
  /** What is words elsewhere and something else here. */
  const more: string[] = [];
  let length = bytes.length;
  const keep = (code: number, words: string): void => {
    store.add(code, 0, length, (length += words.length));
    more.push(words);
  };
  const damaged = (why: string, at: number) =>
    new Failure('dxf-damaged', `The DXF file can't be read further: ${why}, at byte ${at}.`);
  let isPlain = true;
  let type = '';
  for (;;) {
    if (cursor.ended)
      throw damaged(sections.open !== null ? 'it ends in the middle of a section' : 'it has no EOF at its end', bytes.length);
    const began = cursor.at;
    const code = cursor.code();
    const kind = valueOf(code);
    if (kind === 'text') {
      const from = cursor.at;
      isPlain = cursor.text() && isPlain;
      const to = cursor.at - 1;
      if (code === 0) {
        const begun = type && to - from === type.length && store.stands(type, from) ? type : store.words(from, to).trim();
        const next = sections.next(begun, cursor.line);
        if (next === null) break;
        type = next;
      } else if (code === 999) comments.push(store.words(from, to));
      else if (type) store.add(code, 0, from, to);
      else if (code === 2) type = sections.name(store.words(from, to).trim(), cursor.line);
    } else if (kind === 'chunk') {
      const digits = cursor.chunk();
      if (type) keep(code, digits);
    } else {
      const number = cursor.number(kind);
      if (!type) continue;
      if (!Number.isFinite(number)) throw damaged(`${type}: group ${code} should be a number`, began);
      if (!isNumeric(code)) keep(code, String(number));
      else if (number !== 0 || (code !== 30 && code !== 31)) store.add(code, number, -1, -1);
    }
  }
  store.text = more.join('');
  const unicode = isPlain || settleLetters(store, bytes, older);
  return { file: { sections: sections.all, comments }, unicode };
}

/** How many digits of sixteen a chunk may have. */
const CHUNK = 254;

/**
 * A file as text in its binary form; comments, which that form has none of, stay out.
 * @param r12 whether codes are single bytes, as they are up to that version
 */
export function textAsBinary(text: Uint8Array, r12: boolean): Uint8Array {
  const out = new ByteWriter();
  out.text(`${NAME}${SENTENCE}`);
  const decoder = new TextDecoder('latin1');
  const small = new DataView(new ArrayBuffer(8));
  const raw = (count: number) => out.raw(new Uint8Array(small.buffer.slice(0, count)));
  let at = 0;
  const line = (): Uint8Array => {
    const end = text.indexOf(10, at);
    const found = text.subarray(at, end < 0 ? text.length : end);
    at = end < 0 ? text.length : end + 1;
    return found;
  };
  while (at < text.length) {
    const code = Number(decoder.decode(line()));
    const value = line();
    if (code === 999) continue;
    if (r12 && code < 255) out.raw(Uint8Array.of(code));
    else {
      if (r12) out.raw(Uint8Array.of(255));
      small.setInt16(0, code, true);
      raw(2);
    }
    const type = valueOf(code);
    const number = type === 'text' || type === 'chunk' ? 0 : Number(decoder.decode(value));
    if (type === 'text') {
      out.raw(value);
      out.raw(Uint8Array.of(0));
    } else if (type === 'chunk') {
      const digits = decoder.decode(value).slice(0, CHUNK);
      out.raw(Uint8Array.of(digits.length / 2));
      out.raw(Uint8Array.from({ length: digits.length / 2 }, (_, i) => parseInt(digits.slice(2 * i, 2 * i + 2), 16)));
    } else if (type === 'double') {
      small.setFloat64(0, number, true);
      raw(8);
    } else if (type === 'long') {
      small.setInt32(0, number, true);
      raw(4);
    } else if (type === 'longer') {
      small.setBigInt64(0, BigInt(number), true);
      raw(8);
    } else if (type === 'short') {
      small.setInt16(0, number, true);
      raw(2);
    } else out.raw(Uint8Array.of(number));
  }
  return out.bytes();
}
