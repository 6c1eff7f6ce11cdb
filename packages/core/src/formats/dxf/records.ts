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
export class GroupStore {
  size = 0;
  /** What the values of groups stand in; */
  text = '';
  /** or what goes on before it, as bytes of one letter each. */
  letters: Uint8Array = new Uint8Array();
  readonly codes: Int16Array;
  /** Values of numeric groups. */
  readonly numbers: Float64Array;
  /** Where the values stand in the text; before it for numbers that stand nowhere. */
  readonly starts: Int32Array;
  readonly ends: Int32Array;
  /** Of each record: its type, and by `FIELDS` its line, its first group and which codes it may have. */
  readonly types: string[] = [];
  private readonly records = new Growing(Int32Array, 1024);

  /** @param room for so many groups */
  constructor(room: number) {
    this.codes = new Int16Array(room);
    this.numbers = new Float64Array(room);
    this.starts = new Int32Array(room);
    this.ends = new Int32Array(room);
  }

  /** The words from one place to another. */
  words(from: number, to: number): string {
    const first = this.letters.length;
    if (from >= first) return this.text.slice(from - first, to - first);
    let words = '';
    for (let i = from; i < to; i++) words += String.fromCharCode(this.letters[i]!);
    return words;
  }

  /** Whether words stand at a place that is long enough. */
  stands(words: string, at: number): boolean {
    const { letters, text } = this;
    if (at >= letters.length) return standsAt(text, words, at - letters.length);
    for (let i = 0; i < words.length; i++) if (letters[at + i] !== words.charCodeAt(i)) return false;
    return true;
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
    const { starts, ends, numbers } = this.store;
    return starts[at]! < 0 ? String(numbers[at]) : this.store.words(starts[at]!, ends[at]!);
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
    if (at < 0) return false;
    const { starts, ends } = this.store;
    if (starts[at]! < 0) return this.textAt(at) === words;
    return ends[at]! - starts[at]! === words.length && this.store.stands(words, starts[at]!);
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
export const isNumeric = (code: number): boolean => NUMERIC[code] === 1;

/** Sections as they begin and end, whatever form the groups have. */
export class Sections {
  readonly all = new Map<string, DxfRecords>();
  /** The one that is open; null between two. */
  open: string | null = null;
  private from = 0;
  private naming = false;

  constructor(private readonly store: GroupStore) {}

  /** A group 0. @returns the type of the record that begins, empty where none does; null at the end of the file */
  next(words: string, line: number): string | null {
    if (words === 'EOF') {
      this.close();
      return null;
    }
    if (words === 'SECTION') this.naming = true;
    else if (words === 'ENDSEC') this.close();
    else if (this.open !== null && words) {
      this.store.begin(words, line);
      return words;
    }
    return '';
  }

  /** A group 2 outside of a record. @returns the type of the record that begins, empty where none does */
  name(words: string, line: number): string {
    if (!this.naming) return '';
    this.close();
    this.open = words;
    this.from = this.store.types.length;
    this.naming = false;
    // The header has no group 0 of its own: its variables gather in one record.
    if (words !== 'HEADER') return '';
    this.store.begin(words, line);
    return words;
  }

  private close(): void {
    if (this.open !== null) this.all.set(this.open, new DxfRecords(this.store, this.from, this.store.types.length));
    this.open = null;
  }
}

/**
 * Splits DXF text into records.
 * @throws Failure `dxf-damaged` with the line: a group code or value that is no number, a section without end, no EOF
 */
export function parseRecords(text: string): DxfFile {
  const comments: string[] = [];
  const groups = new Groups(text);
  // Every group takes two lines of a character at least: there is room for all.
  const store = new GroupStore(1 + Math.ceil(text.length / 4));
  store.text = text;
  const sections = new Sections(store);
  const damaged = (why: string) =>
    new Failure('dxf-damaged', `The DXF file can't be read further: ${why}.`, { line: groups.line });
  /** The type of the record that is being filled; empty outside. */
  let type = '';
  for (;;) {
    const code = groups.code();
    if (code === -2) throw damaged(sections.open !== null ? 'it ends in the middle of a section' : 'it has no EOF at its end');
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
      const begun = sections.next(groups.says(type) ? type : groups.words().trim(), groups.line);
      if (begun === null) return { sections: sections.all, comments };
      type = begun;
    } else if (code === 999) comments.push(groups.words());
    else if (type) store.add(code, 0, groups.start, groups.end);
    else if (code === 2) type = sections.name(groups.words().trim(), groups.line);
  }
}
