/** A picture as a canvas draws it. */
export interface Held {
  readonly width: number;
  readonly height: number;
  close(): void;
}

interface Settings<T extends Held> {
  /** Pixels that are held at most; what was not asked for longest goes first. */
  readonly budget: number;
  /** Makes a picture from its source, or fails. */
  readonly make: (word: string, store: PictureStore<T>) => Promise<T>;
  /** Told when a picture has come, or one that failed may be asked for again: who paints paints again. */
  readonly came: () => void;
  /** Calls back after a while. */
  readonly later: (work: () => void) => void;
}

/** Pictures by the words that drawings have for them: each is made once, and again when it is asked for after it had to go. */
export class PictureStore<T extends Held> {
  private readonly held = new Map<string, T>();
  private readonly underWay = new Map<string, Promise<T>>();
  private readonly failed = new Set<string>();
  private pixels = 0;

  constructor(private readonly settings: Settings<T>) {}

  /** A picture, or undefined while it is being made. */
  get(word: string): T | undefined {
    const found = this.held.get(word);
    if (found) {
      this.held.delete(word);
      this.held.set(word, found);
    } else if (!this.failed.has(word)) this.ready(word).catch(() => undefined);
    return found;
  }

  /** A picture, when it is there. @throws what making it failed with */
  ready(word: string): Promise<T> {
    const found = this.held.get(word);
    if (found) return Promise.resolve(found);
    let making = this.underWay.get(word);
    if (!making) {
      making = this.settings
        .make(word, this)
        .then((made) => this.keep(word, made))
        .catch((error: unknown) => {
          this.failed.add(word);
          // The server may only be away for a moment.
          this.settings.later(() => {
            this.failed.delete(word);
            this.settings.came();
          });
          throw error;
        })
        .finally(() => this.underWay.delete(word));
      this.underWay.set(word, making);
    }
    return making;
  }

  private keep(word: string, made: T): T {
    this.held.set(word, made);
    this.pixels += made.width * made.height;
    for (const [oldest, old] of this.held) {
      if (this.pixels <= this.settings.budget || old === made) break;
      this.held.delete(oldest);
      this.pixels -= old.width * old.height;
      old.close();
    }
    this.settings.came();
    return made;
  }
}

/** Pixels each way of a picture that is shown alone, or with a few more. */
const MOST = 2048;
const LEAST = 128;
/** So many pictures may be shown at that size; of four times as many each has half of it. */
const FEW = 24;

/** Pixels each way that a picture is shown with at most, where a master has so many: together they fit in the budget. */
export function mostFor(count: number): number {
  let most = MOST;
  for (let few = FEW; count > few && most > LEAST; few *= 4) most /= 2;
  return most;
}

/** Room for the plain pictures of a master, and for each as it is corrected. */
export const BUDGET = 2 * FEW * MOST * MOST;
