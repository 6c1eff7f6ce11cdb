import { shortNumber } from './numbers';

const POWERS = [1, 10, 100, 1e3, 1e4, 1e5, 1e6];

/**
 * Bytes of a text format, written one after the other into one buffer that grows. Numbers go in digit by digit: for large
 * drawings the strings in between would cost more than all the rest.
 */
export class ByteWriter {
  private buffer = new Uint8Array(1 << 16);
  private length = 0;

  private room(more: number): void {
    if (this.length + more <= this.buffer.length) return;
    const larger = new Uint8Array(Math.max(2 * this.buffer.length, this.length + more));
    larger.set(this.buffer.subarray(0, this.length));
    this.buffer = larger;
  }

  /** Any text, as UTF-8. */
  text(words: string): void {
    this.room(words.length);
    for (let i = 0; i < words.length; i++) {
      const code = words.charCodeAt(i);
      if (code > 127) {
        const rest = new TextEncoder().encode(words.slice(i));
        this.room(rest.length);
        this.buffer.set(rest, this.length);
        this.length += rest.length;
        return;
      }
      this.buffer[this.length++] = code;
    }
  }

  /** Bytes as they are. */
  raw(bytes: Uint8Array): void {
    this.room(bytes.length);
    this.buffer.set(bytes, this.length);
    this.length += bytes.length;
  }

  /** A whole number below 2³¹, found from the right and so laid down from the right. */
  private digits(value: number): void {
    let count = 1;
    for (let rest = value; rest >= 10; rest = (rest / 10) | 0) count++;
    for (let i = this.length + count - 1, rest = value | 0; i >= this.length; i--) {
      const next = (rest / 10) | 0;
      this.buffer[i] = 48 + rest - 10 * next;
      rest = next;
    }
    this.length += count;
  }

  /** A number with at most so many decimals (0 to 9), without needless zeros; the same text as `shortNumber`. */
  number(value: number, decimals: number): void {
    const size = Math.abs(value);
    const power = POWERS[decimals];
    if (power === undefined) return this.text(shortNumber(value, decimals));
    if (!(size < 1e9)) return this.text(Number.isFinite(value) ? value.toFixed(decimals) : '0');
    const units = Math.round(size * power);
    this.room(24);
    if (value < 0 && units > 0) this.buffer[this.length++] = 45;
    const whole = Math.floor(units / power);
    this.digits(whole);
    let rest = (units - whole * power) | 0;
    if (!rest) return;
    this.buffer[this.length++] = 46;
    for (let place = (power / 10) | 0; rest > 0; place = (place / 10) | 0) {
      const digit = (rest / place) | 0;
      this.buffer[this.length++] = 48 + digit;
      rest -= digit * place;
    }
  }

  /** How many bytes were written. */
  get size(): number {
    return this.length;
  }

  bytes(): Uint8Array {
    return this.buffer.slice(0, this.length);
  }
}
