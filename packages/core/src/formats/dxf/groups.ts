import { plainNumber } from '../../base/bytes/numbers';

const POWERS = Array.from({ length: 23 }, (_, i) => 10 ** i);

/** The characters of a text as bytes, with a zero after the last; what is not ASCII counts as 255, because no group is told by it. */
function charactersOf(text: string): Uint8Array {
  const bytes = new Uint8Array(text.length + 1);
  const { read, written } = new TextEncoder().encodeInto(text, bytes);
  if (read === text.length && written === text.length) return bytes;
  for (let i = 0; i < text.length; i++) bytes[i] = Math.min(255, text.charCodeAt(i));
  bytes[text.length] = 0;
  return bytes;
}

/** Whether words stand at a place of a text that is long enough; names are short, and this asks less than the language's own way. */
export function standsAt(text: string, words: string, at: number): boolean {
  for (let i = 0; i < words.length; i++) if (text.charCodeAt(at + i) !== words.charCodeAt(i)) return false;
  return true;
}

/** Walks a DXF text group by group. Numbers are taken from the characters as they are passed: most of a drawing is numbers. */
export class Groups {
  /** Number of the line that was passed last, from 1. */
  line = 0;
  private at = 0;
  private readonly chars: Uint8Array;
  /** Where the line that was passed last starts and ends, its end without line break. */
  start = 0;
  end = 0;

  constructor(private readonly text: string) {
    this.chars = charactersOf(text);
  }

  /** Passes one line. @returns false at the end of the text */
  next(): boolean {
    const { chars, text } = this;
    if (this.at >= text.length) return false;
    let end = this.at;
    while (chars[end] !== 10 && end < text.length) end++;
    this.start = this.at;
    this.end = end > this.at && chars[end - 1] === 13 ? end - 1 : end;
    this.at = end + 1;
    this.line++;
    return true;
  }

  words(): string {
    return this.text.slice(this.start, this.end);
  }

  /** Whether the line that was passed last is this. */
  says(words: string): boolean {
    return words.length > 0 && this.end - this.start === words.length && standsAt(this.text, words, this.start);
  }

  /** Passes a line that is a group code: an integer with blanks around it. @returns -1 for anything else, -2 at the end */
  code(): number {
    const { chars } = this;
    let i = this.at;
    if (i >= this.text.length) return -2;
    this.start = i;
    this.line++;
    while (chars[i] === 32) i++;
    let code = 0;
    const first = i;
    let char = chars[i]!;
    for (; char >= 48 && char <= 57; char = chars[++i]!) code = code * 10 + char - 48;
    const digits = i - first;
    while (char === 32 || char === 9 || char === 13) char = chars[++i]!;
    const clean = char === 10 || i >= this.text.length;
    while (chars[i] !== 10 && i < this.text.length) i++;
    this.end = i;
    this.at = i + 1;
    return clean && digits > 0 && digits < 5 ? code : -1;
  }

  /** Passes a line that is a number; up to 15 digits are exact by one division, the rest is left to the language. NaN for anything else. */
  number(): number {
    const { chars } = this;
    let i = this.at;
    this.start = i;
    while (chars[i] === 32) i++;
    const negative = chars[i] === 45;
    if (negative) i++;
    let mantissa = 0;
    let first = i;
    let char = chars[i]!;
    for (; char >= 48 && char <= 57; char = chars[++i]!) mantissa = mantissa * 10 + char - 48;
    let digits = i - first;
    let decimals = 0;
    if (char === 46) {
      first = ++i;
      for (char = chars[i]!; char >= 48 && char <= 57; char = chars[++i]!) mantissa = mantissa * 10 + char - 48;
      digits += decimals = i - first;
    }
    if (char === 13) char = chars[++i]!;
    if (char === 10 && digits > 0 && digits <= 15) {
      this.line++;
      this.end = i;
      this.at = i + 1;
      const size = decimals > 0 ? mantissa / POWERS[decimals]! : mantissa;
      return negative ? -size : size;
    }
    if (!this.next()) return NaN;
    const words = this.words().trim();
    return plainNumber(words);
  }

  get ended(): boolean {
    return this.at >= this.text.length;
  }
}
