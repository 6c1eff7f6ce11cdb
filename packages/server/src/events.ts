import type { EventView } from '@inkwell-twin/api';
import { Listener } from './database/listener';
import { CHANNELS } from './jobs/jobs';
import type { HereWord } from './presence';

/** What any process tells, passed on to whoever listens here: the browsers, over server-sent events. */
export class Events {
  private readonly listeners = new Set<(event: EventView) => void>();
  private readonly listener: Listener;

  /**
   * @param heard hears everything first, before any browser does
   * @param hearHere hears what other servers say of their windows
   */
  constructor(
    database: string,
    private readonly heard: (event: EventView) => void = () => undefined,
    hearHere: (word: HereWord) => void = () => undefined,
  ) {
    this.listener = new Listener(
      database,
      {
        [CHANNELS.event]: (text) => this.pass(JSON.parse(text) as EventView),
        [CHANNELS.here]: (text) => hearHere(JSON.parse(text) as HereWord),
      },
      // What was told while the connection was away is lost: everyone asks again.
      () => this.pass({ kind: 'again', master: '' }),
    );
  }

  open(): Promise<void> {
    return this.listener.open();
  }

  listen(listener: (event: EventView) => void): () => void {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  }

  get count(): number {
    return this.listeners.size;
  }

  /** Passes something on to the browsers of this server that changed nothing on record. */
  announce(event: EventView): void {
    for (const listener of this.listeners) listener(event);
  }

  private pass(event: EventView): void {
    this.heard(event);
    this.announce(event);
  }

  close(): Promise<void> {
    return this.listener.close();
  }
}
