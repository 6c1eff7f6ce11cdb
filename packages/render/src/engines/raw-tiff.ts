/** The parts of a TIFF that says pixels as they are: red, green, blue and opacity of each, row by row (TIFF 6.0). */
const [WIDTH, HEIGHT, BITS, COMPRESSION, MEANING, OFFSETS, PARTS, PER_STRIP, LENGTHS, LAYOUT, EXTRA] = [
  256, 257, 258, 259, 262, 273, 277, 278, 279, 284, 338,
];
const [SHORT, LONG] = [3, 4];
const SIZES: Readonly<Record<number, number>> = { 1: 1, [SHORT]: 2, [LONG]: 4 };
/** Where pixels begin in what is written here. */
export const HEAD = 8;
const ROWS_A_STRIP = 64;

/** What stands before and behind the pixels of a file; little end first. Its strips lie one after the other. */
export function rawTiff(width: number, height: number, depth: 8 | 16): { head: Buffer; tail: Buffer } {
  const row = (width * 4 * depth) / 8;
  const size = row * height;
  const strips = Math.ceil(height / ROWS_A_STRIP);
  const entries: [tag: number, type: number, values: number[]][] = [
    [WIDTH, LONG, [width]],
    [HEIGHT, LONG, [height]],
    [BITS, SHORT, [depth, depth, depth, depth]],
    [COMPRESSION, SHORT, [1]],
    [MEANING, SHORT, [2]],
    [OFFSETS, LONG, Array.from({ length: strips }, (_, i) => HEAD + i * row * ROWS_A_STRIP)],
    [PARTS, SHORT, [4]],
    [PER_STRIP, LONG, [ROWS_A_STRIP]],
    [LENGTHS, LONG, Array.from({ length: strips }, (_, i) => row * Math.min(ROWS_A_STRIP, height - i * ROWS_A_STRIP))],
    [LAYOUT, SHORT, [1]],
    // Opacity by itself, not multiplied in.
    [EXTRA, SHORT, [2]],
  ];
  const directory = HEAD + size + (size % 2);
  const head = Buffer.alloc(HEAD);
  head.write('II*\0', 0, 'latin1');
  head.writeUInt32LE(directory, 4);
  const fields = Buffer.alloc(2 + 12 * entries.length + 4);
  fields.writeUInt16LE(entries.length, 0);
  const beside: Buffer[] = [];
  let free = directory + fields.length;
  entries.forEach(([tag, type, values], i) => {
    const at = 2 + 12 * i;
    const body = Buffer.alloc(SIZES[type]! * values.length);
    values.forEach((value, k) => (type === SHORT ? body.writeUInt16LE(value, 2 * k) : body.writeUInt32LE(value, 4 * k)));
    fields.writeUInt16LE(tag, at);
    fields.writeUInt16LE(type, at + 2);
    fields.writeUInt32LE(values.length, at + 4);
    if (body.length <= 4) body.copy(fields, at + 8);
    else {
      fields.writeUInt32LE(free, at + 8);
      beside.push(body);
      free += body.length;
    }
  });
  return { head, tail: Buffer.concat([Buffer.alloc(size % 2), fields, ...beside]) };
}

/**
 * Where the pixels of a file begin that a library wrote so.
 * @param read reads bytes of it
 * @throws Error where its pixels do not lie one after the other
 */
export function pixelsIn(read: (at: number, length: number) => Buffer): number {
  const head = read(0, HEAD);
  if (head.toString('latin1', 0, 4) !== 'II*\0') throw new Error('The file that was laid down is of another form.');
  const at = head.readUInt32LE(4);
  const count = read(at, 2).readUInt16LE(0);
  const fields = read(at + 2, 12 * count);
  const values = (tag: number): number[] => {
    for (let i = 0; i < count; i++) {
      if (fields.readUInt16LE(12 * i) !== tag) continue;
      const type = fields.readUInt16LE(12 * i + 2);
      const size = SIZES[type]!;
      const length = fields.readUInt32LE(12 * i + 4);
      const inside = size * length <= 4;
      const body = inside ? fields.subarray(12 * i + 8, 12 * i + 12) : read(fields.readUInt32LE(12 * i + 8), size * length);
      return Array.from({ length }, (_, k) => (type === SHORT ? body.readUInt16LE(2 * k) : body.readUInt32LE(4 * k)));
    }
    return [];
  };
  const [offsets, lengths] = [values(OFFSETS), values(LENGTHS)];
  const [compression = 1] = values(COMPRESSION);
  const follows = offsets.every((offset, i) => i === 0 || offset === offsets[i - 1]! + lengths[i - 1]!);
  if (compression !== 1 || !offsets.length || !follows) throw new Error('The pixels that were laid down do not lie in order.');
  return offsets[0]!;
}
