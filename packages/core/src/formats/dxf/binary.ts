import { ByteWriter } from '../../base/bytes/byte-writer';
import { Failure } from '../../base/failure/failure';

/** How the sentence ends that binary files begin with, and where (DXF reference, Binary DXF files). */
const [SENTENCE, FROM, LENGTH] = [' Binary DXF\r\n\u001a\0', 7, 22];

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

/**
 * The groups of a binary file as a text file has them; letters stay the bytes that they are.
 * @throws Failure `dxf-damaged` that says at which byte
 */
export function binaryAsText(bytes: Uint8Array): Uint8Array {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const out = new ByteWriter();
  // Up to R12 a code is one byte, where need be an escape to two; the first group has code 0.
  const short = bytes[LENGTH + 1] !== 0;
  let at = LENGTH;
  const need = (count: number) => {
    if (at + count > bytes.length)
      throw new Failure('dxf-damaged', `The binary DXF file ends in the middle of a group, at byte ${bytes.length}.`);
  };
  const take = (count: number): number => {
    need(count);
    at += count;
    return at - count;
  };
  const codeAt = (): number => {
    if (!short) return view.getInt16(take(2), true);
    const code = bytes[take(1)]!;
    return code === 255 ? view.getInt16(take(2), true) : code;
  };
  const VALUES: Readonly<Record<Exclude<Value, 'text'>, () => string>> = {
    double: () => String(view.getFloat64(take(8), true)),
    short: () => String(view.getInt16(take(2), true)),
    long: () => String(view.getInt32(take(4), true)),
    longer: () => String(view.getBigInt64(take(8), true)),
    yes: () => String(bytes[take(1)]!),
    chunk: () => {
      need(1);
      const from = take(1 + bytes[at]!) + 1;
      return Array.from(bytes.subarray(from, at), (byte) => byte.toString(16).padStart(2, '0'))
        .join('')
        .toUpperCase();
    },
  };
  while (at < bytes.length) {
    const code = codeAt();
    out.text(`${code}\n`);
    const type = typeOf(code);
    if (type === 'text') {
      const end = bytes.indexOf(0, at);
      if (end < 0) need(bytes.length);
      // A line end would begin another group.
      out.raw(bytes.subarray(at, end).map((byte) => (byte === 10 || byte === 13 ? 32 : byte)));
      at = end + 1;
      if (code === 0 && end - 3 >= 0 && bytes[end - 3] === 69 && bytes[end - 2] === 79 && bytes[end - 1] === 70)
        at = bytes.length;
    } else out.text(VALUES[type]());
    out.text('\n');
  }
  return out.bytes();
}
