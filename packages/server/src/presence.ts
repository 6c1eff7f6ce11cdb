import { randomUUID } from 'node:crypto';
import type { EventView, PresentView } from '@inkwell-twin/api';

/** A window, and the master that it looks at. */
interface Window {
  readonly tab: string;
  readonly master: string;
}

/** What servers on one database tell each other of their windows; `tabs` absent asks everyone to tell all. */
export type HereWord =
  | { readonly server: string; readonly ask: true }
  | { readonly server: string; readonly master: string; readonly tabs: readonly PresentView[] };

/** Milliseconds between two words of what is here, and after which a server that has said none is taken for gone. */
const SAY_AGAIN = 20_000;
const GONE = 65_000;
/** Windows at one master that are told of, at most: a word between servers has a limited length. */
const MOST = 30;

/**
 * Which windows look at which master, for as long as each browser listens to events: at this server, and at others on the same
 * database. Kept in memory: a browser whose connection ends is gone, and one that comes back says anew where its windows are.
 */
export class Presence {
  private readonly server = randomUUID();
  private readonly streams = new Map<string, { readonly one: Omit<PresentView, 'tab'>; readonly windows: readonly Window[] }>();
  /** By master and server: what others told, and when. */
  private readonly elsewhere = new Map<string, Map<string, { readonly tabs: readonly PresentView[]; readonly at: number }>>();
  private readonly timer: NodeJS.Timeout;

  /**
   * @param tell tells the browsers of this server
   * @param say tells the other servers
   */
  constructor(
    private readonly announce: (event: EventView) => void,
    private readonly say: (word: HereWord) => void,
  ) {
    this.timer = setInterval(() => this.sayAgain(), SAY_AGAIN).unref();
  }

  /** Asks the other servers what is there; after a lost connection, too. */
  ask(): void {
    this.say({ server: this.server, ask: true });
    this.sayAll();
  }

  /** @returns what ends the stream, and with it all its windows */
  enter(stream: string): () => void {
    const empty = { one: { person: '', name: '' }, windows: [] };
    this.streams.set(stream, empty);
    return () => {
      const left = this.streams.get(stream);
      this.streams.delete(stream);
      this.changed(left?.windows ?? []);
    };
  }

  /** Says where the windows of a browser are now. @returns whether its stream is here */
  at(stream: string, one: Omit<PresentView, 'tab'>, windows: readonly Window[]): boolean {
    const before = this.streams.get(stream);
    if (!before) return false;
    this.streams.set(stream, { one, windows });
    this.changed([...before.windows, ...windows]);
    return true;
  }

  hear(word: HereWord): void {
    if (word.server === this.server) return;
    if ('ask' in word) return this.sayAll();
    const known = this.elsewhere.get(word.master) ?? new Map<string, { tabs: readonly PresentView[]; at: number }>();
    if (word.tabs.length) known.set(word.server, { tabs: word.tabs, at: Date.now() });
    else known.delete(word.server);
    if (known.size) this.elsewhere.set(word.master, known);
    else this.elsewhere.delete(word.master);
    this.show(word.master);
  }

  close(): void {
    clearInterval(this.timer);
  }

  private changed(windows: readonly Window[]): void {
    for (const master of new Set(windows.map((one) => one.master))) {
      if (!master) continue;
      this.say({ server: this.server, master, tabs: this.here(master) });
      this.show(master);
    }
  }

  private here(master: string): PresentView[] {
    const found: PresentView[] = [];
    for (const { one, windows } of this.streams.values())
      for (const window of windows) if (window.master === master && found.length < MOST) found.push({ tab: window.tab, ...one });
    return found;
  }

  private show(master: string): void {
    const others = [...(this.elsewhere.get(master)?.values() ?? [])].flatMap(({ tabs }) => tabs);
    this.announce({ kind: 'present', master, tabs: [...this.here(master), ...others] });
  }

  private sayAll(): void {
    const masters = new Set([...this.streams.values()].flatMap(({ windows }) => windows.map((one) => one.master)));
    for (const master of masters) if (master) this.say({ server: this.server, master, tabs: this.here(master) });
  }

  /** Says what is here again, and lets go of servers that say nothing any more. */
  private sayAgain(): void {
    this.sayAll();
    for (const [master, known] of this.elsewhere) {
      const before = known.size;
      for (const [server, { at }] of known) if (Date.now() - at > GONE) known.delete(server);
      if (!known.size) this.elsewhere.delete(master);
      if (known.size < before) this.show(master);
    }
  }
}
