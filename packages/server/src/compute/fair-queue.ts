interface Waiting {
  readonly large: boolean;
  readonly start: () => Promise<unknown>;
}

/** So many who had a turn are remembered; who is forgotten counts as one who never had one. */
const REMEMBERED = 1_000;

/**
 * Lets so many pieces of work run at once, and takes turns between those who asked: the one whose last turn is longest ago
 * comes next, however much the others have waiting. Large work never takes the last free hand, so that small work waits for
 * no large one.
 */
export class FairQueue {
  private readonly waiting = new Map<string, Waiting[]>();
  /** When each had a turn last, as a running number; the longest ago first. */
  private readonly turns = new Map<string, number>();
  private turn = 0;
  private running = 0;
  private runningLarge = 0;

  constructor(private readonly concurrency: number) {}

  /** @param whose for whom it is, for instance a master */
  run<T>(queueKey: string, large: boolean, work: () => Promise<T>): Promise<T> {
    return new Promise<T>((done, fail) => {
      const list = this.waiting.get(queueKey) ?? [];
      list.push({ large, start: () => work().then(done, fail) });
      if (list.length === 1) this.waiting.set(queueKey, list);
      this.next();
    });
  }

  private next(): void {
    while (this.running < this.concurrency) {
      const queueKey = this.whoIsNext();
      if (queueKey === undefined) return;
      const list = this.waiting.get(queueKey)!;
      const { large, start } = list.shift()!;
      if (!list.length) this.waiting.delete(queueKey);
      this.turns.delete(queueKey);
      this.turns.set(queueKey, ++this.turn);
      if (this.turns.size > REMEMBERED) this.turns.delete(this.turns.keys().next().value!);
      this.running++;
      if (large) this.runningLarge++;
      void start().finally(() => {
        this.running--;
        if (large) this.runningLarge--;
        this.next();
      });
    }
  }

  private whoIsNext(): string | undefined {
    let found: string | undefined;
    let longest = Infinity;
    for (const [queueKey, [first]] of this.waiting) {
      if (first!.large && this.concurrency > 1 && this.runningLarge >= this.concurrency - 1) continue;
      const last = this.turns.get(queueKey) ?? 0;
      if (last < longest) [found, longest] = [queueKey, last];
    }
    return found;
  }
}
