import { Injectable, signal } from '@angular/core';

/** Something that can be gone to or done, by its name. */
export interface Findable {
  readonly group: 'Do' | 'On this master' | 'Open now' | 'Masters' | 'Copies' | 'Revisions' | 'Objects and symbols';
  readonly name: string;
  /** What it belongs to, or says. */
  readonly beside?: string;
  readonly act: () => void;
}

interface OpenMaster {
  readonly id: string;
  readonly title: string;
}

const KEY = 'inkwell-open';
const MOST_OPEN = 8;

const remembered = (): OpenMaster[] => {
  try {
    const known: unknown = JSON.parse(sessionStorage.getItem(KEY) ?? '[]');
    return Array.isArray(known)
      ? known.filter((one): one is OpenMaster => typeof one?.id === 'string' && typeof one?.title === 'string')
      : [];
  } catch {
    return [];
  }
};

/** What the view that one is in offers to the search, and which masters are open in this window. */
@Injectable({ providedIn: 'root' })
export class FindableThings {
  /** What this view offers; asked for when one searches. */
  readonly offered = signal<() => readonly Findable[]>(() => []);
  /** The masters that were opened in this window, the last one first. */
  readonly open = signal<readonly OpenMaster[]>(remembered());

  opened(master: OpenMaster): void {
    this.keep([master, ...this.open().filter(({ id }) => id !== master.id)].slice(0, MOST_OPEN));
  }
  closed(id: string): void {
    this.keep(this.open().filter((one) => one.id !== id));
  }
  private keep(open: readonly OpenMaster[]): void {
    this.open.set(open);
    sessionStorage.setItem(KEY, JSON.stringify(open));
  }
}
