interface Waiting {
  readonly large: boolean;
  readonly start: () => Promise<unknown>;
}

/**
 * Lets so many pieces of work run at once, and takes turns between those who asked: the one whose last turn is longest ago
 * comes next, however much the others have waiting. Large work never takes the last free hand, so that small work waits for
 * no large one.
 */
export class FairQueue {
  private readonly waiting = new Map<string, Waiting[]>();
  private running = 0;
  private runningLarge = 0;

  constructor(private readonly hands: number) {}

  /** @param whose for whom it is, for instance a master */
  run<T>(whose: string, large: boolean, work: () => Promise<T>): Promise<T> {
    return new Promise<T>((done, fail) => {
      const list = this.waiting.get(whose) ?? [];
      list.push({ large, start: () => work().then(done, fail) });
      if (list.length === 1) this.waiting.set(whose, list);
      this.next();
    });
  }

  private next(): void {
    while (this.running < this.hands) {
      const found = [...this.waiting].find(
        ([, [first]]) => !first!.large || this.hands === 1 || this.runningLarge < this.hands - 1,
      );
      if (!found) return;
      const [whose, list] = found;
      const { large, start } = list.shift()!;
      // Who had a turn goes to the end of the line.
      this.waiting.delete(whose);
      if (list.length) this.waiting.set(whose, list);
      this.running++;
      if (large) this.runningLarge++;
      void start().finally(() => {
        this.running--;
        if (large) this.runningLarge--;
        this.next();
      });
    }
  }
}
