/** A row of chances from a seed, so that every run tries the same faults. */
export class Dice {
  private state: number;
  constructor(seed: number) {
    this.state = seed >>> 0;
  }

  /** 0 up to 1 (mulberry32). */
  next(): number {
    this.state = (this.state + 0x6d2b79f5) >>> 0;
    let t = this.state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  }

  below(count: number): number {
    return Math.floor(this.next() * count);
  }

  pick<T>(list: readonly T[]): T | undefined {
    return list[this.below(list.length)];
  }

  /** Between two sizes, small ones as likely as large ones. */
  size(least: number, most: number): number {
    return least * (most / least) ** this.next();
  }

  /** A shift by a distance in any direction. */
  shift(distance: number): [number, number] {
    const turn = this.next() * 2 * Math.PI;
    return [distance * Math.cos(turn), distance * Math.sin(turn)];
  }
}

/** A change to a file's text; undefined where this file offers nothing to change that way. */
export type Change = (words: string, dice: Dice, tolerance: number) => string | undefined;
export type Changes = Readonly<Record<string, Change>>;

/** A change to a file's bytes. */
export type ByteChange = (bytes: Uint8Array, dice: Dice, tolerance: number) => Uint8Array | undefined;
export interface ByteChanges {
  readonly faults: Readonly<Record<string, ByteChange>>;
  readonly harmless: Readonly<Record<string, ByteChange>>;
}

/** Changes to the text of a file as changes to its bytes. */
export const textual = (changes: Changes): Readonly<Record<string, ByteChange>> =>
  Object.fromEntries(
    Object.entries(changes).map(([name, change]) => [
      name,
      (bytes: Uint8Array, dice: Dice, tolerance: number) => {
        const words = change(new TextDecoder().decode(bytes), dice, tolerance);
        return words === undefined ? undefined : new TextEncoder().encode(words);
      },
    ]),
  );
