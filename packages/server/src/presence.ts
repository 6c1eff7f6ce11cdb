import type { EventView, PresentView } from '@inkwell-twin/api';

/**
 * Which windows look at which master, for as long as each listens to events. Kept in memory: a window whose connection ends is
 * gone, and one that comes back says anew where it is.
 */
export class Presence {
  private readonly tabs = new Map<string, { readonly master: string; readonly one: PresentView }>();

  constructor(private readonly tell: (event: EventView) => void) {}

  /** @returns what ends it; a later window of the same name is not ended by an earlier one's end */
  enter(master: string, one: PresentView): () => void {
    const entry = { master, one };
    this.tabs.set(one.tab, entry);
    this.say(master);
    return () => {
      if (this.tabs.get(one.tab) !== entry) return;
      this.tabs.delete(one.tab);
      this.say(master);
    };
  }

  at(master: string): PresentView[] {
    return [...this.tabs.values()].filter((entry) => entry.master === master).map(({ one }) => one);
  }

  /** Passes on that a draft moved, where somebody besides the window that moved it looks on. */
  moved(master: string, person: { readonly id: string; readonly name: string }, tab: string, position: number): void {
    if (!this.at(master).some((one) => one.tab !== tab)) return;
    this.tell({ kind: 'draft', master, person: person.id, name: person.name, tab, position });
  }

  private say(master: string): void {
    this.tell({ kind: 'present', master, tabs: this.at(master) });
  }
}
