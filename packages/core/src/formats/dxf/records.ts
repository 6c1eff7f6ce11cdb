import { Growing } from '../../base/bytes/growing';
import { plainNumber } from '../../base/bytes/numbers';
import { Failure } from '../../base/failure/failure';
import { Groups, standsAt } from './groups';

/** The sections of a file, their records in order, and its comments. */
export interface DxfFile {
  readonly sections: ReadonlyMap<string, DxfRecords>;
  readonly comments: readonly string[];
}

/** Numbers that are kept of a record. */
const FIELDS = 5;
const [FIRST, LOW, MIDDLE, HIGH] = [1, 2, 3, 4] as const;

/** All groups of a file and where its records begin, side by side: records would otherwise be mostly overhead. */
class GroupStore {
  size = 0;
  readonly codes: Int16Array;
  /** Values of numeric groups. */
  readonly numbers: Float64Array;
  /** Where the values stand in the text. */
  readonly starts: Int32Array;
  readonly ends: Int32Array;
  /** Of each record: its type, and by `FIELDS` its line, its first group and which codes it may have. */
  readonly types: string[] = [];
  private readonly records = new Growing(Int32Array, 1024);

  constructor(readonly text: string) {
    // Every group takes two lines of a character at least: there is room for all.
    const room = 1 + Math.ceil(text.length / 4);
    this.codes = new Int16Array(room);
    this.numbers = new Float64Array(room);
    this.starts = new Int32Array(room);
    this.ends = new Int32Array(room);
  }

  /** Begins a record. */
  begin(type: string, line: number): void {
    this.types.push(type);
    const { records } = this;
    const at = records.length;
    records.reserve(at + FIELDS);
    records.length = at + FIELDS;
    records.data[at] = line;
    records.data[at + FIRST] = this.size;
  }

  /** Takes in a group of the record that was begun last. */
  add(code: number, number: number, start: number, end: number): void {
    const at = this.size++;
    this.codes[at] = code;
    this.numbers[at] = number;
    this.starts[at] = start;
    this.ends[at] = end;
    const { data, length } = this.records;
    data[length - FIELDS + (code < 32 ? LOW : code < 64 ? MIDDLE : HIGH)]! |= 1 << (code & 31);
  }

  record(index: number): DxfRecord {
    const { data, length } = this.records;
    const at = index * FIELDS;
    const next = at + FIELDS;
    return new DxfRecord(
      this,
      this.types[index]!,
      data[at]!,
      data[at + FIRST]!,
      next < length ? data[next + FIRST]! : this.size,
      data[at + LOW]!,
      data[at + MIDDLE]!,
      data[at + HIGH]!,
    );
  }
}

/** Records in order, each made when it is asked for. */
export class DxfRecords {
  constructor(
    private readonly store: GroupStore,
    private readonly from: number,
    private readonly to: number,
  ) {}

  get length(): number {
    return this.to - this.from;
  }

  at(index: number): DxfRecord | undefined {
    return index < this.length ? this.store.record(this.from + index) : undefined;
  }

  /** The records between two places. */
  part(from: number, to: number): DxfRecords {
    return new DxfRecords(this.store, this.from + from, this.from + to);
  }

  *[Symbol.iterator](): Generator<DxfRecord> {
    for (let i = this.from; i < this.to; i++) yield this.store.record(i);
  }
}

/** A record of a DXF file: what stands between one group 0 and the next. */
export class DxfRecord {
  /** @param low, middle, high a bit for each code that is there, below 32, below 64 and from 64 on, where codes share bits */
  constructor(
    private readonly store: GroupStore,
    readonly type: string,
    readonly line: number,
    private readonly from: number,
    private readonly to: number,
    private readonly low: number,
    private readonly middle: number,
    private readonly high: number,
  ) {}

  /** False where the record surely has no such group: most questions are about what is not there. */
  private mayHave(code: number): boolean {
    return ((code < 32 ? this.low : code < 64 ? this.middle : this.high) & (1 << (code & 31))) !== 0;
  }

  private find(code: number): number {
    if (!this.mayHave(code)) return -1;
    const { codes } = this.store;
    for (let i = this.from; i < this.to; i++) if (codes[i] === code) return i;
    return -1;
  }

  private textAt(at: number): string {
    return this.store.text.slice(this.store.starts[at], this.store.ends[at]);
  }

  private numberAt(at: number): number {
    if (isNumeric(this.store.codes[at]!)) return this.store.numbers[at]!;
    const words = this.textAt(at).trim();
    const number = plainNumber(words);
    if (Number.isFinite(number)) return number;
    throw new Failure(
      'dxf-damaged',
      `${this.type}: group ${this.store.codes[at]} should be a number, not “${words.slice(0, 20)}”.`,
      { line: this.line },
    );
  }

  /** Whether the record has this group at all. */
  has(code: number): boolean {
    return this.find(code) >= 0;
  }

  /** The first value of a group, as it stands in the file. */
  text(code: number): string | undefined {
    const at = this.find(code);
    return at < 0 ? undefined : this.textAt(at);
  }

  /** Whether the first value of a group is this, as it stands in the file. */
  says(code: number, words: string): boolean {
    const at = this.find(code);
    const { starts, ends, text } = this.store;
    return at >= 0 && ends[at]! - starts[at]! === words.length && standsAt(text, words, starts[at]!);
  }

  /** The first value of a group as a number. @throws Failure `dxf-damaged` */
  number(code: number, otherwise: number): number;
  number(code: number): number | undefined;
  number(code: number, otherwise?: number): number | undefined {
    const at = this.find(code);
    return at < 0 ? otherwise : isNumeric(code) ? this.store.numbers[at]! : this.numberAt(at);
  }

  /** All values of a group as numbers, in order. */
  all(code: number): number[] {
    const found: number[] = [];
    for (let i = this.from; i < this.to; i++) if (this.store.codes[i] === code) found.push(this.numberAt(i));
    return found;
  }

  /** Whether it has a group that is not marked in a table by code; data of other programs, from 1000 on, aside. */
  hasOther(table: Uint8Array): boolean {
    const { codes } = this.store;
    for (let i = this.from; i < this.to; i++) {
      const code = codes[i]!;
      if (table[code] !== 1 && !(code >= 1000 && code <= 1071)) return true;
    }
    return false;
  }

  /** Every group in order: its code, and ways to its value. */
  each(visit: (code: number, number: () => number, text: () => string) => void): void {
    for (let i = this.from; i < this.to; i++)
      visit(
        this.store.codes[i]!,
        () => this.numberAt(i),
        () => this.textAt(i),
      );
  }

  /** The groups whose values are numbers, in order. */
  numbers(visit: (code: number, value: number) => void): void {
    const { codes, numbers } = this.store;
    for (let i = this.from; i < this.to; i++) if (isNumeric(codes[i]!)) visit(codes[i]!, numbers[i]!);
  }

  /** Whether any of these groups is there with a number that is not as good as zero. */
  anyNonZero(codes: readonly number[]): boolean {
    for (const code of codes) {
      if (!this.mayHave(code)) continue;
      const { numbers, codes: all } = this.store;
      for (let i = this.from; i < this.to; i++) if (all[i] === code && Math.abs(numbers[i]!) > NOISE) return true;
    }
    return false;
  }
}

/** What programs leave of a zero, in whatever unit. */
const NOISE = 1e-7;

/** Codes whose values are numbers (DXF reference, group code value types), whatever entity they stand in. */
const NUMERIC = Uint8Array.from({ length: 10_000 }, (_, code) =>
  (code >= 10 && code < 100) ||
  (code >= 140 && code < 180) ||
  (code >= 210 && code < 240) ||
  (code >= 420 && code < 430) ||
  (code >= 440 && code < 460)
    ? 1
    : 0,
);
const isNumeric = (code: number): boolean => NUMERIC[code] === 1;

/**
 * Splits DXF text into records.
 * @throws Failure `dxf-damaged` with the line: a group code or value that is no number, a section without end, no EOF
 */
export function parseRecords(text: string): DxfFile {
  const sections = new Map<string, DxfRecords>();
  const comments: string[] = [];
  const groups = new Groups(text);
  const store = new GroupStore(text);
  const damaged = (why: string) =>
    new Failure('dxf-damaged', `The DXF file can't be read further: ${why}.`, { line: groups.line });
  let section: string | null = null;
  let from = 0;
  /** The type of the record that is being filled; empty outside. */
  let type = '';
  let naming = false;
  const close = () => {
    if (section !== null) sections.set(section, new DxfRecords(store, from, store.types.length));
    section = null;
  };
  for (;;) {
    const code = groups.code();
    if (code === -2) throw damaged(section !== null ? 'it ends in the middle of a section' : 'it has no EOF at its end');
    if (code < 0) throw damaged(`a group code should stand here, not “${groups.words().trim().slice(0, 20)}”`);
    if (groups.ended) throw damaged(`the value of group ${code} is missing`);
    if (type && isNumeric(code)) {
      const number = groups.number();
      if (!Number.isFinite(number))
        throw damaged(`${type}: group ${code} should be a number, not “${groups.words().trim().slice(0, 20)}”`);
      // A height of zero is what is taken where none is stated, and most of a flat drawing's groups.
      if (number !== 0 || (code !== 30 && code !== 31)) store.add(code, number, groups.start, groups.end);
      continue;
    }
    groups.next();
    if (code === 0) {
      const next = groups.says(type) ? type : groups.words().trim();
      type = '';
      if (next === 'EOF') {
        close();
        return { sections, comments };
      }
      if (next === 'SECTION') naming = true;
      else if (next === 'ENDSEC') close();
      else if (section !== null && next) store.begin((type = next), groups.line);
    } else if (code === 999) comments.push(groups.words());
    else if (type) store.add(code, 0, groups.start, groups.end);
    else if (naming && code === 2) {
      close();
      section = groups.words().trim();
      from = store.types.length;
      naming = false;
      // The header has no group 0 of its own: its variables gather in one record.
      if (section === 'HEADER') store.begin((type = section), groups.line);
    }
  }
}
