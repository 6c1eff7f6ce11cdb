import { blockKey } from './digest';
import type { ProseBlock } from './prose';
import { tokensOf, wordsOfBlock } from './words';

/** Which block of the copy each block of the master is; -1 where there is none. */
type Partners = Int32Array;

/** So much the same must two paragraphs say for one to be the other, changed. */
const LIKE = 0.5;
/** Paragraphs that are looked at for the partner of one that changed, where nothing else tells where it is. */
const WINDOW = 40;
/** The same elsewhere: what is short says too little to be known again there. */
const LIKE_ELSEWHERE = 0.7;
const KNOWN_WORDS = 5;

/** Places of the longest run that rises, of those that are not -1. */
export function rising(of: ArrayLike<number>): Set<number> {
  const [tails, before] = [[] as number[], new Int32Array(of.length).fill(-1)];
  for (let i = 0; i < of.length; i++) {
    if (of[i]! < 0) continue;
    let [low, high] = [0, tails.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (of[tails[middle]!]! < of[i]!) low = middle + 1;
      else high = middle;
    }
    before[i] = low ? tails[low - 1]! : -1;
    tails[low] = i;
  }
  const found = new Set<number>();
  for (let i = tails.at(-1) ?? -1; i >= 0; i = before[i]!) found.add(i);
  return found;
}

class Side {
  readonly words: string[];
  /** All that is said, and the words alone. */
  readonly exact: string[];
  private readonly bags = new Map<number, Map<string, number>>();

  constructor(readonly blocks: readonly ProseBlock[]) {
    this.words = blocks.map((block) => `${block.block}|${wordsOfBlock(block)}`);
    this.exact = blocks.map((block, i) => `${this.words[i]!}|${JSON.stringify(blockKey(block))}`);
  }

  /** Its words, with how often each is there. */
  bag(at: number): Map<string, number> {
    let bag = this.bags.get(at);
    if (!bag) {
      bag = new Map();
      for (const token of tokensOf(this.words[at]!.slice(this.words[at]!.indexOf('|') + 1)))
        if (/[\p{L}\p{N}]/u.test(token)) bag.set(token, (bag.get(token) ?? 0) + 1);
      this.bags.set(at, bag);
    }
    return bag;
  }
}

const total = (bag: ReadonlyMap<string, number>): number => [...bag.values()].reduce((sum, one) => sum + one, 0);
/** The share of words that two blocks have in common. */
function likeness(a: ReadonlyMap<string, number>, b: ReadonlyMap<string, number>): number {
  let common = 0;
  for (const [word, count] of a) common += Math.min(count, b.get(word) ?? 0);
  const all = total(a) + total(b);
  return all ? (2 * common) / all : 0;
}

class Aligning {
  readonly partner: Partners;
  readonly taken: Uint8Array;

  constructor(
    readonly a: Side,
    readonly b: Side,
  ) {
    this.partner = new Int32Array(a.blocks.length).fill(-1);
    this.taken = new Uint8Array(b.blocks.length);
  }

  private pair(i: number, j: number): void {
    this.partner[i] = j;
    this.taken[j] = 1;
  }

  /** From both ends inwards what is the same. */
  ends(): void {
    const { a, b } = this;
    let first = 0;
    const most = Math.min(a.exact.length, b.exact.length);
    while (first < most && a.exact[first] === b.exact[first]) this.pair(first, first++);
    for (let k = 1; k <= most - first && a.exact.at(-k) === b.exact.at(-k); k++)
      this.pair(a.exact.length - k, b.exact.length - k);
  }

  /** What says the same and is alone in that on either side; of several, in order. */
  same(of: 'exact' | 'words'): void {
    const waiting = new Map<string, number[]>();
    const keys = this.b[of];
    for (let j = keys.length - 1; j >= 0; j--)
      if (!this.taken[j]) {
        const queue = waiting.get(keys[j]!);
        if (queue) queue.push(j);
        else waiting.set(keys[j]!, [j]);
      }
    this.a[of].forEach((key, i) => {
      if (this.partner[i]! >= 0) return;
      const j = waiting.get(key)?.pop();
      if (j !== undefined) this.pair(i, j);
    });
  }

  /** Between what is found already: paragraphs that changed, in order. */
  between(): void {
    const { partner, b } = this;
    const steady = rising(partner);
    let [i, low] = [0, 0];
    while (i < partner.length) {
      if (partner[i]! >= 0) {
        if (steady.has(i)) low = partner[i]! + 1;
        i++;
        continue;
      }
      let end = i;
      while (end < partner.length && !steady.has(end)) end++;
      const high = end < partner.length ? partner[end]! : b.blocks.length;
      const mine: number[] = [];
      for (let k = i; k < end; k++) if (partner[k]! < 0) mine.push(k);
      const theirs: number[] = [];
      for (let j = low; j < high; j++) if (!this.taken[j]) theirs.push(j);
      this.gap(mine, theirs);
      i = end;
    }
  }

  private gap(mine: readonly number[], theirs: readonly number[]): void {
    let from = 0;
    mine.forEach((i, at) => {
      let [best, most] = [-1, LIKE];
      for (let k = from; k < theirs.length && k < from + WINDOW; k++) {
        const like = this.likeness(i, theirs[k]!);
        if (like > most) [best, most] = [k, like];
        if (like > 0.95) break;
      }
      // As many on both sides: what stands in its place is the same thing, however much of it was changed.
      if (best < 0 && mine.length - at === theirs.length - from && this.sameKind(i, theirs[from]!)) best = from;
      if (best < 0) return;
      this.pair(i, theirs[best]!);
      from = best + 1;
    });
  }

  private sameKind(i: number, j: number): boolean {
    return this.a.blocks[i]!.block === this.b.blocks[j]!.block;
  }

  private likeness(i: number, j: number): number {
    if (!this.sameKind(i, j)) return 0;
    const kind = this.a.blocks[i]!.block;
    if (kind === 'break') return 1;
    const like = likeness(this.a.bag(i), this.b.bag(j));
    if (kind === 'picture') {
      const [one, other] = [this.a.blocks[i]!, this.b.blocks[j]!] as { picture?: string }[];
      return one!.picture === other!.picture ? 1 : Math.max(like, 0.51);
    }
    return like;
  }

  /** What stands elsewhere and was changed, too. */
  elsewhere(): void {
    const byWord = new Map<string, number[]>();
    this.b.blocks.forEach((_, j) => {
      if (!this.taken[j])
        for (const word of this.b.bag(j).keys())
          if (word.length > 3) byWord.set(word, [...(byWord.get(word) ?? []).slice(0, WINDOW), j]);
    });
    if (!byWord.size) return;
    this.partner.forEach((at, i) => {
      if (at >= 0 || total(this.a.bag(i)) < KNOWN_WORDS) return;
      const candidates = new Set([...this.a.bag(i).keys()].flatMap((word) => byWord.get(word) ?? []));
      let [best, most] = [-1, LIKE_ELSEWHERE];
      for (const j of candidates) {
        if (this.taken[j]) continue;
        const like = this.likeness(i, j);
        if (like > most) [best, most] = [j, like];
      }
      if (best >= 0) this.pair(i, best);
    });
  }
}

/** Pairs the blocks of two texts: what says the same first, then what changed between those, then what stands elsewhere. */
export function alignBlocks(master: readonly ProseBlock[], copy: readonly ProseBlock[]): Partners {
  const aligning = new Aligning(new Side(master), new Side(copy));
  aligning.ends();
  aligning.same('exact');
  aligning.same('words');
  aligning.between();
  aligning.elsewhere();
  return aligning.partner;
}
