import { Failure } from '../../failure/failure';

/** The sections of a file, their records in order, and its comments. */
export interface DxfFile {
  readonly sections: ReadonlyMap<string, DxfRecord[]>;
  readonly comments: readonly string[];
}

/** All groups of a file, side by side: records would otherwise be mostly overhead. */
class GroupStore {
  size = 0;
  codes = new Int16Array(1024);
  /** Values of numeric groups. */
  numbers = new Float64Array(1024);
  /** Where the values stand in the text. */
  starts = new Int32Array(1024);
  ends = new Int32Array(1024);

  constructor(readonly text: string) {}

  add(code: number, number: number, start: number, end: number): void {
    const at = this.size++;
    if (at === this.codes.length) {
      const grown = <T extends Int16Array | Int32Array | Float64Array>(old: T, fresh: T): T => (fresh.set(old as never), fresh);
      this.codes = grown(this.codes, new Int16Array(2 * at));
      this.numbers = grown(this.numbers, new Float64Array(2 * at));
      this.starts = grown(this.starts, new Int32Array(2 * at));
      this.ends = grown(this.ends, new Int32Array(2 * at));
    }
    this.codes[at] = code;
    this.numbers[at] = number;
    this.starts[at] = start;
    this.ends[at] = end;
  }
}

/** A record of a DXF file: what stands between one group 0 and the next. */
export class DxfRecord {
  private readonly from: number;
  private to: number;

  constructor(
    readonly type: string,
    readonly line: number,
    private readonly store: GroupStore,
  ) {
    this.from = this.to = store.size;
  }

  /** Takes in the group that was added to the store last. */
  grow(): void {
    this.to = this.store.size;
  }

  private find(code: number): number {
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
    const number = words ? Number(words) : NaN;
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

  /** The first value of a group as a number. @throws Failure `dxf-damaged` */
  number(code: number, otherwise: number): number;
  number(code: number): number | undefined;
  number(code: number, otherwise?: number): number | undefined {
    const at = this.find(code);
    return at < 0 ? otherwise : this.numberAt(at);
  }

  /** All values of a group as numbers, in order. */
  all(code: number): number[] {
    const found: number[] = [];
    for (let i = this.from; i < this.to; i++) if (this.store.codes[i] === code) found.push(this.numberAt(i));
    return found;
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

  /** Whether any of these groups is there with a number other than zero. */
  anyNonZero(codes: readonly number[]): boolean {
    const { store } = this;
    for (let i = this.from; i < this.to; i++) if (store.numbers[i] !== 0 && codes.includes(store.codes[i]!)) return true;
    return false;
  }
}

/** Codes whose values are numbers (DXF reference, group code value types), whatever entity they stand in. */
const isNumeric = (code: number): boolean =>
  (code >= 10 && code < 100) || (code >= 140 && code < 180) || (code >= 210 && code < 240) || (code >= 420 && code < 430);

const POWERS = Array.from({ length: 23 }, (_, i) => 10 ** i);

/** Walks a DXF text group by group. Numbers are taken from the characters as they are passed: most of a drawing is numbers. */
class Groups {
  /** Number of the line that was passed last, from 1. */
  line = 0;
  private at = 0;
  /** Where the line that was passed last starts and ends, its end without line break. */
  start = 0;
  end = 0;

  constructor(private readonly text: string) {}

  /** Passes one line. @returns false at the end of the text */
  next(): boolean {
    const { text } = this;
    if (this.at >= text.length) return false;
    let end = text.indexOf('\n', this.at);
    if (end < 0) end = text.length;
    this.start = this.at;
    this.end = end > this.at && text.charCodeAt(end - 1) === 13 ? end - 1 : end;
    this.at = end + 1;
    this.line++;
    return true;
  }

  words(): string {
    return this.text.slice(this.start, this.end);
  }

  /** Passes a line that is a group code: an integer with blanks around it. @returns -1 for anything else, -2 at the end */
  code(): number {
    const { text } = this;
    let i = this.at;
    if (i >= text.length) return -2;
    this.start = i;
    this.line++;
    let [code, digits, odd] = [0, 0, false];
    for (; ; i++) {
      const char = text.charCodeAt(i);
      if (char >= 48 && char <= 57) {
        code = code * 10 + char - 48;
        digits++;
      } else if (char === 10 || char !== char) break;
      else if (char !== 32 && char !== 9 && char !== 13) odd = true;
    }
    this.end = i;
    this.at = i + 1;
    return !odd && digits > 0 && digits < 5 ? code : -1;
  }

  /** Passes a line that is a number; up to 15 digits are exact by one division, the rest is left to the language. NaN for anything else. */
  number(): number {
    const { text } = this;
    let i = this.at;
    this.start = i;
    while (text.charCodeAt(i) === 32) i++;
    const negative = text.charCodeAt(i) === 45;
    if (negative) i++;
    let [mantissa, digits, decimals] = [0, 0, -1];
    let char = text.charCodeAt(i);
    for (; ; char = text.charCodeAt(++i)) {
      if (char >= 48 && char <= 57) {
        mantissa = mantissa * 10 + char - 48;
        digits++;
        if (decimals >= 0) decimals++;
      } else if (char === 46 && decimals < 0) decimals = 0;
      else break;
    }
    if (char === 13) char = text.charCodeAt(++i);
    if (char === 10 && digits > 0 && digits <= 15) {
      this.line++;
      this.end = i;
      this.at = i + 1;
      const size = decimals > 0 ? mantissa / POWERS[decimals]! : mantissa;
      return negative ? -size : size;
    }
    if (!this.next()) return NaN;
    const words = this.words().trim();
    return words ? Number(words) : NaN;
  }

  get ended(): boolean {
    return this.at >= this.text.length;
  }
}

/**
 * Splits DXF text into records.
 * @throws Failure `dxf-damaged` with the line: a group code or value that is no number, a section without end, no EOF
 */
export function parseRecords(text: string): DxfFile {
  const sections = new Map<string, DxfRecord[]>();
  const comments: string[] = [];
  const groups = new Groups(text);
  const store = new GroupStore(text);
  const damaged = (why: string) =>
    new Failure('dxf-damaged', `The DXF file can't be read further: ${why}.`, { line: groups.line });
  let records: DxfRecord[] | undefined;
  let record: DxfRecord | undefined;
  let naming = false;
  for (;;) {
    const code = groups.code();
    if (code === -2) throw damaged(records ? 'it ends in the middle of a section' : 'it has no EOF at its end');
    if (code < 0) throw damaged(`a group code should stand here, not “${groups.words().trim().slice(0, 20)}”`);
    if (groups.ended) throw damaged(`the value of group ${code} is missing`);
    if (record && isNumeric(code)) {
      const number = groups.number();
      if (!Number.isFinite(number))
        throw damaged(`${record.type}: group ${code} should be a number, not “${groups.words().trim().slice(0, 20)}”`);
      store.add(code, number, groups.start, groups.end);
      record.grow();
      continue;
    }
    groups.next();
    if (code === 0) {
      const type = groups.words().trim();
      record = undefined;
      if (type === 'EOF') return { sections, comments };
      if (type === 'SECTION') naming = true;
      else if (type === 'ENDSEC') records = undefined;
      else if (records) records.push((record = new DxfRecord(type, groups.line, store)));
    } else if (code === 999) comments.push(groups.words());
    else if (record) {
      store.add(code, 0, groups.start, groups.end);
      record.grow();
    } else if (naming && code === 2) {
      const name = groups.words().trim();
      sections.set(name, (records = []));
      naming = false;
      // The header has no group 0 of its own: its variables gather in one record.
      if (name === 'HEADER') records.push((record = new DxfRecord('HEADER', groups.line, store)));
    }
  }
}
