import type { EventView } from '@inkwell-twin/api';

/** Passes events on to whoever listens: the browsers, over server-sent events. */
export class Events {
  private readonly listeners = new Set<(event: EventView) => void>();

  listen(listener: (event: EventView) => void): () => void {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  }

  send(event: EventView): void {
    for (const listener of this.listeners) listener(event);
  }
}
