import { DestroyRef, Injectable, computed, inject, signal } from '@angular/core';

/** How the lanes lie: which has the room. */
export type Layout = 'calm' | 'even' | 'keep' | 'match' | 'derive';
/** The lanes whose left edge can be pulled. */
export type Edge = 'copies' | 'side';

/** Which lane somebody gave the room to. */
export type Wide = 'keep' | 'even' | 'match';

const [KEPT, KEPT_WIDE] = ['inkwell-lane-widths', 'inkwell-lanes'];
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
  readonly wide = signal<Wide>((localStorage.getItem(KEPT_WIDE) as Wide | null) ?? 'even');
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

  private readonly widths = computed(
    () =>
      (layout: Layout, edge: Edge): number | null =>
        this.pulled()[`${layout} ${edge}`] ?? null,
  );

  give(wide: Wide): void {
    this.wide.set(wide);
    localStorage.setItem(KEPT_WIDE, wide);
  }

  /** @param beside whether something stands on the right: a copy that is compared, or a part of the history */
  layout(deriving: boolean, history: boolean, beside: boolean): Layout {
    if (deriving) return 'derive';
    const wide = this.wide();
    if (wide === 'keep' && !history) return 'keep';
    if (!beside) return 'calm';
    if (this.narrow()) return 'match';
    return wide === 'keep' ? 'even' : wide;
  }

  /** As CSS: what somebody pulled a lane to, as far as the window has room for it. */
  inCss(layout: Layout, edge: Edge): string | null {
    const width = this.widths()(layout, edge);
    return width === null ? null : `min(${width}px, ${edge === 'side' ? 62 : 30}vw)`;
  }

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
