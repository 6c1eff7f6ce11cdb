/** A group of a DXF file as it lies there, and where: its line, or in a binary file its byte. */
export interface Group {
  readonly code: number;
  readonly value: string;
  readonly at: number;
}

/** A file that a reader gives up. */
export class Refused extends Error {
  constructor(
    readonly at: number,
    words: string,
  ) {
    super(words);
  }
}

/** Types of values by the ends of their ranges of codes, as the reference lists them. */
const RANGES: readonly (readonly [last: number, type: 'text' | 'real' | '16' | '32' | '64' | 'bool' | 'bytes'])[] = [
  [9, 'text'],
  [59, 'real'],
  [79, '16'],
  [99, '32'],
  [105, 'text'],
  [149, 'real'],
  [169, '64'],
  [179, '16'],
  [239, 'real'],
  [289, '16'],
  [299, 'bool'],
  [309, 'text'],
  [319, 'bytes'],
  [369, 'text'],
  [389, '16'],
  [399, 'text'],
  [409, '16'],
  [419, 'text'],
  [429, '32'],
  [439, 'text'],
  [459, '32'],
  [469, 'real'],
  [1003, 'text'],
  [1004, 'bytes'],
  [1009, 'text'],
  [1059, 'real'],
  [1070, '16'],
  [1071, '32'],
];
/** How many bytes a file may have. */
const LARGEST = 96 * 2 ** 20;
/** How many bytes the sentence takes that a binary file begins with. */
const SENTENCE = 22;

function* binaryGroups(bytes: Uint8Array): Generator<Group> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const wide = bytes[SENTENCE + 1] === 0;
  const letters = new TextDecoder('latin1');
  let at = SENTENCE;
  while (at < bytes.length) {
    const from = at;
    try {
      let code = wide ? view.getInt16(at, true) : view.getUint8(at);
      at += wide ? 2 : 1;
      if (!wide && code === 255) {
        code = view.getInt16(at, true);
        at += 2;
      }
      const type = RANGES.find(([last]) => code <= last)?.[1];
      if (code < 0 || !type) throw new Refused(from, `group ${code} is of no known type`);
      let value: string;
      if (type === 'text') {
        const end = bytes.indexOf(0, at);
        if (end < 0) throw new RangeError();
        value = letters.decode(bytes.subarray(at, end));
        at = end + 1;
      } else if (type === 'bytes') {
        const count = view.getUint8(at);
        value = Buffer.from(bytes.subarray(at + 1, at + 1 + count)).toString('hex');
        at += 1 + count;
      } else {
        const [size, read] = {
          real: [8, () => view.getFloat64(at, true)],
          '16': [2, () => view.getInt16(at, true)],
          '32': [4, () => view.getInt32(at, true)],
          '64': [8, () => Number(view.getBigInt64(at, true))],
          bool: [1, () => view.getUint8(at)],
        }[type] as [number, () => number];
        value = String(read());
        at += size;
      }
      yield { code, value, at: from };
    } catch (error) {
      if (error instanceof RangeError) throw new Refused(from, 'the file ends in the middle of a group');
      throw error;
    }
  }
}

function* textGroups(bytes: Uint8Array): Generator<Group> {
  const lines = new TextDecoder('latin1').decode(bytes).split(/\r\n|\n|\r/);
  for (let i = 0; i + 1 < lines.length; i += 2) {
    if (!/^\s*\d+\s*$/.test(lines[i]!)) throw new Refused(i + 1, `“${lines[i]!.slice(0, 20)}” is no group code`);
    yield { code: Number(lines[i]), value: lines[i + 1]!, at: i + 1 };
  }
}

/** The groups of a file, of either form; letters are bytes still. @throws Refused */
export function groupsOf(bytes: Uint8Array): Group[] {
  if (bytes.length > LARGEST) throw new Refused(0, `the file is larger than ${LARGEST / 2 ** 20} MB`);
  const binary = bytes.length > SENTENCE && bytes[SENTENCE - 1] === 0 && bytes[SENTENCE - 2] === 0x1a;
  const groups: Group[] = [];
  for (const group of binary ? binaryGroups(bytes) : textGroups(bytes)) {
    if (group.code === 999) continue;
    groups.push(group);
    if (group.code === 0 && group.value.trim() === 'EOF') return groups;
  }
  throw new Refused(groups.at(-1)?.at ?? 0, 'the file has no end');
}
