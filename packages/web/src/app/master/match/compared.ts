import { computed, signal } from '@angular/core';
import type { MatchView, readMatch } from '@inkwell-twin/api';
import type { Mesh } from '@inkwell-twin/core/solids';
import type { Grid } from '@inkwell-twin/core/tables';
import type { ProseBody } from '@inkwell-twin/core/texts';
import { proseOf, shownOf, solidOf, tableOf } from '../../content/kinds';
import type { Shown } from '../../content/shown';
import type { Way } from './overlay';

interface Both<T> {
  readonly master: T;
  readonly copy: T;
}
type Sides = Pick<ReturnType<typeof readMatch>, 'master' | 'copy'>;

/** Both sides as something that is shown; null unless both are. */
function both<T>({ master, copy }: Sides, of: (side: NonNullable<Sides['copy']>) => T | null): Both<T> | null {
  const [one, other] = [master && of(master), copy && of(copy)];
  return one && other && { master: one, copy: other };
}

const WAYS = [
  { label: 'Over', value: 'over' },
  { label: 'Beside', value: 'beside' },
  { label: 'Blink', value: 'blink' },
  { label: 'Map', value: 'map' },
];

/** A comparison that one looks at: what was found, both sides of one sheet, and how they are shown. */
export class Compared {
  readonly match = signal<MatchView | null>(null);
  /** Both sides of the sheet; null where either has no such sheet, or the file could not be read. */
  readonly sides = signal<Both<Shown> | null>(null);
  readonly tables = signal<Both<Grid> | null>(null);
  readonly solids = signal<Both<Mesh> | null>(null);
  readonly texts = signal<Both<ProseBody> | null>(null);
  /** Which sheet one looks at. */
  readonly leaf = signal(0);
  readonly chosen = signal<number | null>(null);
  readonly way = signal<Way>('over');
  /** A map of what differs is for pixels. */
  readonly ways = computed(() => (this.sides()?.master.pixels ? WAYS : WAYS.slice(0, 3)));
  /** The names of the sheets, where there are several. */
  readonly leaves = computed(() => {
    const all = this.match()?.sides?.master ?? [];
    return all.length > 1 ? all.map(({ label }, i) => ({ value: String(i), words: label || `Sheet ${i + 1}` })) : [];
  });
  /** Differences of the sheet that one looks at, for showing; those of others keep their place in the list. */
  readonly here = computed(() => {
    const leaf = this.leaf();
    return (this.match()?.differences ?? []).map((one) =>
      one.leaf === leaf ? one : { ...one, place: null, masterEntries: [], copyEntries: [] },
    );
  });

  clear(): void {
    for (const one of [this.match, this.sides, this.tables, this.solids, this.texts, this.chosen]) one.set(null);
    this.leaf.set(0);
  }

  take({ view, ...sides }: ReturnType<typeof readMatch>): void {
    this.match.set(view);
    this.sides.set(both(sides, shownOf));
    this.tables.set(both(sides, tableOf));
    this.solids.set(both(sides, solidOf));
    this.texts.set(both(sides, proseOf));
    if ((this.chosen() ?? 0) >= view.differences.length) this.chosen.set(null);
  }

  /** Goes to a sheet. @returns whether it is another one that both sides can have; one that only the copy has can't be shown */
  turnTo(leaf: number): boolean {
    if (leaf === this.leaf() || leaf >= (this.match()?.sides?.master.length ?? 0)) return false;
    this.leaf.set(leaf);
    return true;
  }
}
