import { Failure } from '../../failure/failure';

/** A record of a DXF file: what stands between one group 0 and the next. */
export interface DxfRecord {
  readonly type: string;
  readonly line: number;
  /** Group codes and values, in order. */
  readonly codes: number[];
  readonly values: string[];
}

/** The sections of a file, their records in order, and its comments. */
export interface DxfFile {
  readonly sections: ReadonlyMap<string, DxfRecord[]>;
  readonly comments: readonly string[];
}

/**
 * Splits DXF text into records.
 * @throws Failure `dxf-damaged` with the line: a group code that is no number, a section without end, no EOF
 */
export function parseRecords(text: string): DxfFile {
  const sections = new Map<string, DxfRecord[]>();
  const comments: string[] = [];
  const damaged = (line: number, why: string) =>
    new Failure('dxf-damaged', `The DXF file can't be read further: ${why}.`, { line });
  let at = 0;
  let line = 0;
  const next = (): string | undefined => {
    if (at >= text.length) return undefined;
    let end = text.indexOf('\n', at);
    if (end < 0) end = text.length;
    const value = text.slice(at, text.charCodeAt(end - 1) === 13 ? end - 1 : end);
    at = end + 1;
    line++;
    return value;
  };
  let records: DxfRecord[] | undefined;
  let record: DxfRecord | undefined;
  let naming = false;
  let ended = false;
  while (!ended) {
    const codeText = next();
    if (codeText === undefined) throw damaged(line, records ? 'it ends in the middle of a section' : 'it has no EOF at its end');
    const code = groupCode(codeText);
    if (code < 0) throw damaged(line, `a group code should stand here, not “${codeText.trim().slice(0, 20)}”`);
    const value = next();
    if (value === undefined) throw damaged(line, `the value of group ${code} is missing`);
    if (code === 999) comments.push(value);
    else if (code !== 0) {
      if (naming && code === 2) {
        sections.set(value.trim(), (records = []));
        naming = false;
      } else if (record) {
        record.codes.push(code);
        record.values.push(value);
      }
    } else {
      const type = value.trim();
      record = undefined;
      if (type === 'SECTION') naming = true;
      else if (type === 'ENDSEC') records = undefined;
      else if (type === 'EOF') ended = true;
      else if (records) records.push((record = { type, line, codes: [], values: [] }));
    }
    // The header has no group 0 of its own: its variables gather in one record.
    if (records && code === 2 && !record && value.trim() === 'HEADER')
      records.push((record = { type: 'HEADER', line, codes: [], values: [] }));
  }
  return { sections, comments };
}

/** A group code: an integer with blanks around it; -1 for anything else. */
function groupCode(text: string): number {
  let code = 0;
  let digits = 0;
  for (let i = 0; i < text.length; i++) {
    const char = text.charCodeAt(i);
    if (char >= 48 && char <= 57) {
      code = code * 10 + char - 48;
      digits++;
    } else if (char !== 32 && char !== 9) return -1;
  }
  return digits > 0 && digits < 5 ? code : -1;
}

/** Values of one record by group code. */
export class Groups {
  constructor(readonly record: DxfRecord) {}

  text(code: number): string | undefined {
    const at = this.record.codes.indexOf(code);
    return at < 0 ? undefined : this.record.values[at]!;
  }

  number(code: number, otherwise: number): number;
  number(code: number): number | undefined;
  number(code: number, otherwise?: number): number | undefined {
    const value = this.text(code);
    return value === undefined ? otherwise : this.parse(value, code);
  }

  all(code: number): number[] {
    const found: number[] = [];
    this.record.codes.forEach((one, i) => {
      if (one === code) found.push(this.parse(this.record.values[i]!, code));
    });
    return found;
  }

  parse(value: string, code: number): number {
    const number = Number(value);
    if (!Number.isFinite(number) || (number === 0 && value.trim() === ''))
      throw new Failure(
        'dxf-damaged',
        `${this.record.type}: group ${code} should be a number, not “${value.trim().slice(0, 20)}”.`,
        { line: this.record.line },
      );
    return number;
  }
}
