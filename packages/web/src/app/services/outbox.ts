import type { IDBPDatabase } from 'idb';
import { STRICT, type Store, browserStore } from './browser-store';
import type { DraftAct, Outbox } from './draft-acts';

const lockOf = (window: string): string => `inkwell-window-${window}`;

/**
 * What the server has not acknowledged yet, in the browser's own store: it survives a closed tab and a killed browser. Each
 * window holds a lock as long as it lives, so that another does not take up what it is just sending.
 */
export class BrowserOutbox implements Outbox {
  private readonly window = crypto.randomUUID();
  private store: IDBPDatabase<Store> | undefined;

  constructor(
    private readonly person: string,
    private readonly master: string,
  ) {}

  /** @throws where the browser gives no store or no locks: acts are then kept by the server alone */
  async open(): Promise<void> {
    void navigator.locks.request(lockOf(this.window), () => new Promise(() => undefined));
    this.store = await browserStore();
  }

  /** Keeps an act before it is sent. @returns what forgets it, once it is acknowledged */
  async keep(act: DraftAct): Promise<() => Promise<void>> {
    const { store } = this;
    if (!store) return () => Promise.resolve();
    // Committed at once, because the tab may close in the next moment.
    const writing = store.transaction('unsent', 'readwrite', STRICT);
    const adding = writing.store.add({ person: this.person, master: this.master, window: this.window, act });
    writing.commit();
    const [key] = await Promise.all([adding, writing.done]);
    return () => store.delete('unsent', key);
  }

  /** Acts of windows that are gone, oldest first, and what forgets them. */
  async left(): Promise<{ acts: DraftAct[]; forget: () => Promise<void> }> {
    const { store } = this;
    if (!store) return { acts: [], forget: () => Promise.resolve() };
    const held = new Set(((await navigator.locks.query()).held ?? []).map(({ name }) => name));
    const acts: DraftAct[] = [];
    const keys: number[] = [];
    const reading = store.transaction('unsent');
    for (let at = await reading.store.index('of').openCursor([this.person, this.master]); at; at = await at.continue())
      if (!held.has(lockOf(at.value.window))) {
        acts.push(at.value.act);
        keys.push(at.primaryKey);
      }
    return {
      acts,
      forget: async () => {
        for (const key of keys) await store.delete('unsent', key);
      },
    };
  }
}
