import { DestroyRef, Injectable, computed, inject, signal } from '@angular/core';

/** How the lanes lie: which has the room. */
export type Layout = 'calm' | 'even' | 'keep' | 'match' | 'derive';
/** The lanes whose left edge can be pulled. */
export type Edge = 'copies' | 'side';

const KEPT = 'inkwell-lane-widths';
/** Below this many pixels of the window the copies beside a match are a strip. */
const NARROW = 900;
/** Pixels below which no lane goes. */
const LEAST: Readonly<Record<Edge | 'keep', number>> = { copies: 180, side: 260, keep: 280 };
/** Which edges there are to pull in a layout. */
const EDGES: Readonly<Record<Layout, readonly Edge[]>> = {
  calm: ['copies'],
  even: ['copies', 'side'],
  keep: [],
  match: ['side'],
  derive: ['side'],
};

type Widths = Readonly<Record<string, number>>;

function kept(): Widths {
  try {
    return JSON.parse(localStorage.getItem(KEPT) ?? '{}') as Widths;
  } catch {
    return {};
  }
}

/** How wide somebody made the lanes, by layout, in this browser; nothing where the usual width stands. */
@Injectable()
export class LaneWidths {
  private readonly pulled = signal(kept());
  /** Whether the window is too narrow for three lanes. */
  readonly narrow = signal(false);
  readonly edges = (layout: Layout): readonly Edge[] => EDGES[layout];

  constructor() {
    const query = matchMedia(`(max-width: ${NARROW}px)`);
    const look = (): void => this.narrow.set(query.matches);
    look();
    query.addEventListener('change', look);
    inject(DestroyRef).onDestroy(() => query.removeEventListener('change', look));
  }

  readonly widths = computed(
    () =>
      (layout: Layout, edge: Edge): number | null =>
        this.pulled()[`${layout} ${edge}`] ?? null,
  );

  /**
   * Gives a lane a width, as far as the others keep their least.
   * @param room pixels that all lanes have together
   * @param other pixels of the other lane beside the board
   */
  pull(layout: Layout, edge: Edge, width: number, room: number, other: number): void {
    const most = Math.max(LEAST[edge], room - other - LEAST.keep);
    const next = Math.round(Math.min(most, Math.max(LEAST[edge], width)));
    this.keep({ ...this.pulled(), [`${layout} ${edge}`]: next });
  }

  /** The usual width again. */
  forget(layout: Layout, edge: Edge): void {
    const { [`${layout} ${edge}`]: _gone, ...rest } = this.pulled();
    this.keep(rest);
  }

  private keep(widths: Widths): void {
    this.pulled.set(widths);
    localStorage.setItem(KEPT, JSON.stringify(widths));
  }
}
