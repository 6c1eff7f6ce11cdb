import { Failure } from '../../failure/failure';

/** A record of a DXF file: what stands between one group 0 and the next. */
export interface DxfRecord {
  readonly type: string;
  readonly line: number;
  /** Group codes and values, in order; a value is a number where the code says so. */
  readonly codes: number[];
  readonly values: (string | number)[];
}

/** The sections of a file, their records in order, and its comments. */
export interface DxfFile {
  readonly sections: ReadonlyMap<string, DxfRecord[]>;
  readonly comments: readonly string[];
}

/** Codes whose values are numbers (DXF reference, group code value types), whatever entity they stand in. */
const isNumeric = (code: number): boolean =>
  (code >= 10 && code < 100) || (code >= 140 && code < 180) || (code >= 210 && code < 240) || (code >= 420 && code < 430);

const POWERS = Array.from({ length: 23 }, (_, i) => 10 ** i);

/** Walks the lines of a DXF text. Numbers are taken from the characters as they are passed: most of a drawing is numbers. */
class Lines {
  line = 0;
  private at = 0;
  /** Where the line that was passed last starts and ends, its end without line break. */
  private start = 0;
  private end = 0;

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

  /** The line as a group code: an integer with blanks around it; -1 for anything else. */
  code(): number {
    let code = 0;
    let digits = 0;
    for (let i = this.start; i < this.end; i++) {
      const char = this.text.charCodeAt(i);
      if (char >= 48 && char <= 57) {
        code = code * 10 + char - 48;
        digits++;
      } else if (char !== 32 && char !== 9) return -1;
    }
    return digits > 0 && digits < 5 ? code : -1;
  }

  /** The line as a number; NaN for anything else. Up to 15 digits are exact by one division; the rest is left to the language. */
  number(): number {
    const { text, end } = this;
    let i = this.start;
    while (i < end && text.charCodeAt(i) <= 32) i++;
    const negative = text.charCodeAt(i) === 45;
    if (negative) i++;
    let mantissa = 0;
    let digits = 0;
    let decimals = -1;
    for (; i < end; i++) {
      const char = text.charCodeAt(i);
      if (char >= 48 && char <= 57) {
        mantissa = mantissa * 10 + char - 48;
        digits++;
        if (decimals >= 0) decimals++;
      } else if (char === 46 && decimals < 0) decimals = 0;
      else break;
    }
    while (i < end && text.charCodeAt(i) <= 32) i++;
    if (i < end || digits === 0 || digits > 15) {
      const words = this.words().trim();
      return words ? Number(words) : NaN;
    }
    const size = decimals > 0 ? mantissa / POWERS[decimals]! : mantissa;
    return negative ? -size : size;
  }
}

/**
 * Splits DXF text into records.
 * @throws Failure `dxf-damaged` with the line: a group code or value that is no number, a section without end, no EOF
 */
export function parseRecords(text: string): DxfFile {
  const sections = new Map<string, DxfRecord[]>();
  const comments: string[] = [];
  const lines = new Lines(text);
  const damaged = (why: string) =>
    new Failure('dxf-damaged', `The DXF file can't be read further: ${why}.`, { line: lines.line });
  let records: DxfRecord[] | undefined;
  let record: DxfRecord | undefined;
  let naming = false;
  for (;;) {
    if (!lines.next()) throw damaged(records ? 'it ends in the middle of a section' : 'it has no EOF at its end');
    const code = lines.code();
    if (code < 0) throw damaged(`a group code should stand here, not “${lines.words().trim().slice(0, 20)}”`);
    if (!lines.next()) throw damaged(`the value of group ${code} is missing`);
    if (code === 0) {
      const type = lines.words().trim();
      record = undefined;
      if (type === 'EOF') return { sections, comments };
      if (type === 'SECTION') naming = true;
      else if (type === 'ENDSEC') records = undefined;
      else if (records) records.push((record = { type, line: lines.line, codes: [], values: [] }));
    } else if (code === 999) comments.push(lines.words());
    else if (record) {
      record.codes.push(code);
      if (!isNumeric(code)) record.values.push(lines.words());
      else {
        const number = lines.number();
        if (!Number.isFinite(number))
          throw damaged(`${record.type}: group ${code} should be a number, not “${lines.words().trim().slice(0, 20)}”`);
        record.values.push(number);
      }
    } else if (naming && code === 2) {
      const name = lines.words().trim();
      sections.set(name, (records = []));
      naming = false;
      // The header has no group 0 of its own: its variables gather in one record.
      if (name === 'HEADER') records.push((record = { type: 'HEADER', line: lines.line, codes: [], values: [] }));
    }
  }
}

/** Values of one record by group code. */
export class Groups {
  constructor(readonly record: DxfRecord) {}

  /** Whether the record has this group at all. */
  has(code: number): boolean {
    return this.record.codes.includes(code);
  }

  text(code: number): string | undefined {
    const at = this.record.codes.indexOf(code);
    return at < 0 ? undefined : String(this.record.values[at]!);
  }

  number(code: number, otherwise: number): number;
  number(code: number): number | undefined;
  number(code: number, otherwise?: number): number | undefined {
    const at = this.record.codes.indexOf(code);
    return at < 0 ? otherwise : this.numberAt(at);
  }

  all(code: number): number[] {
    const found: number[] = [];
    this.record.codes.forEach((one, i) => {
      if (one === code) found.push(this.numberAt(i));
    });
    return found;
  }

  /** The value of the n-th group as a number. @throws Failure `dxf-damaged` */
  numberAt(index: number): number {
    const value = this.record.values[index]!;
    const number = typeof value === 'number' ? value : Number(value.trim() || NaN);
    if (Number.isFinite(number)) return number;
    throw new Failure(
      'dxf-damaged',
      `${this.record.type}: group ${this.record.codes[index]} should be a number, not “${String(value).trim().slice(0, 20)}”.`,
      { line: this.record.line },
    );
  }
}
