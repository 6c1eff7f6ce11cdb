/** Bytes of one value of each type of field (TIFF 6.0, section 2; 13 and up: BigTIFF). */
const SIZES = [0, 1, 1, 2, 4, 8, 1, 1, 2, 4, 8, 4, 8, 4, 0, 0, 8, 8, 8];
const [RATIONAL, SHORT] = [5, 3];

/** A field of the first directory of a TIFF. */
interface Field {
  readonly tag: number;
  /** Its first number; NaN where the file ends before it. */
  readonly first: number;
  /** Its first numbers, four at most. */
  readonly numbers: readonly number[];
}

/**
 * The fields of the first directory, of a TIFF and of one with offsets of 64 bits.
 * What lies beyond the end of the file is left out.
 */
export function fieldsOf(tiff: Uint8Array): Field[] {
  const view = new DataView(tiff.buffer, tiff.byteOffset, tiff.byteLength);
  if (tiff.length < 16) return [];
  const little = tiff[0] === 0x49;
  const big = view.getUint16(2, little) === 43;
  const offset = (at: number): number => (big ? Number(view.getBigUint64(at, little)) : view.getUint32(at, little));
  const at = offset(big ? 8 : 4);
  const [width, head] = big ? [20, 8] : [12, 2];
  if (!(at + head <= tiff.length)) return [];
  const count = big ? Number(view.getBigUint64(at, little)) : view.getUint16(at, little);
  const fields: Field[] = [];
  for (let i = 0, entry = at + head; i < count && entry + width <= tiff.length; i++, entry += width) {
    const [tag, type] = [view.getUint16(entry, little), view.getUint16(entry + 2, little)];
    const size = SIZES[type] ?? 0;
    const length = offset(entry + 4);
    const room = big ? 8 : 4;
    const value = entry + width - room;
    const from = size * length <= room ? value : offset(value);
    const numbers: number[] = [];
    for (let k = 0; k < Math.min(4, length) && size && from + size * (k + 1) <= tiff.length; k++)
      numbers.push(numberAt(view, from + size * k, type, little));
    fields.push({ tag, first: numbers[0] ?? Number.NaN, numbers });
  }
  return fields;
}

function numberAt(view: DataView, at: number, type: number, little: boolean): number {
  if (type === RATIONAL) return view.getUint32(at, little) / view.getUint32(at + 4, little);
  if (type === SHORT) return view.getUint16(at, little);
  const size = SIZES[type]!;
  return size === 1
    ? view.getUint8(at)
    : size === 2
      ? view.getInt16(at, little)
      : size === 4
        ? view.getUint32(at, little)
        : Number.NaN;
}
