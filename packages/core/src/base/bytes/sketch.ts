/** So many pieces are kept of what a sketch was shown. */
const KEPT = 128;
/** So many wait before the least of them are sorted out. */
const WAITING = 8192;

/** Spreads a number of 32 bits over all of them (the finishing step of MurmurHash3, public domain). */
function spread(value: number): number {
  let h = value | 0;
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return h ^ (h >>> 16);
}

/** FNV-1a of 32 bits over UTF-16 units. */
function hashOfWord(word: string): number {
  let h = 0x811c9dc5;
  for (let i = 0; i < word.length; i++) h = Math.imul(h ^ word.charCodeAt(i), 0x01000193);
  return h;
}

/**
 * A small sample of a large set of pieces, by which two sets can be compared without either: the pieces with the least hashes
 * (a bottom-k sketch, Cohen 1997). What is in a sample of one set and in the other set is in the other's sample, too.
 */
export class Sketch {
  private least: number[] = [];
  private readonly waiting = new Uint32Array(WAITING);
  private count = 0;

  /** Adds a piece: whole numbers or words, as many as say it. */
  add(...parts: readonly (number | string)[]): void {
    let h = 0x9747b28c;
    for (const part of parts) h = spread(h ^ (typeof part === 'string' ? hashOfWord(part) : part)) + 0x9e3779b9;
    // Kept in a column of whole numbers with a sign.
    this.waiting[this.count++] = h & 0x7fffffff;
    if (this.count === WAITING) this.sort();
  }

  private sort(): void {
    const all = Uint32Array.from([...this.least, ...this.waiting.subarray(0, this.count)]).sort();
    this.count = 0;
    this.least = [];
    for (const one of all) {
      if (this.least.length === KEPT) break;
      if (this.least.at(-1) !== one) this.least.push(one);
    }
  }

  /** @returns up to 128 whole numbers below 2^31, the least first */
  sample(): readonly number[] {
    this.sort();
    return this.least;
  }
}

/**
 * How much of two sets is in both, as a share of all that is in either: 0 to 1, with a standard error of at most 0.045.
 * @param a @param b samples of them
 */
export function resemblance(a: readonly number[], b: readonly number[]): number {
  const union = [...new Set([...a, ...b])].sort((x, y) => x - y).slice(0, KEPT);
  if (!union.length) return 0;
  const [inA, inB] = [new Set(a), new Set(b)];
  return union.filter((one) => inA.has(one) && inB.has(one)).length / union.length;
}
