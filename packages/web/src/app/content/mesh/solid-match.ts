import { ChangeDetectionStrategy, Component, computed, input, signal } from '@angular/core';
import type { Difference } from '@inkwell-twin/api';
import { type Mesh, boxOfMesh, sizesOf } from '@inkwell-twin/core/solids';
import type { ShownSolid, Spot } from './scene';
import { SolidView } from './solid-view';

type Side = 'master' | 'copy' | 'both';

/** A solid now and in a copy, in one space: what differs stands out, and its worst places are marked. */
@Component({
  selector: 'twin-solid-match',
  imports: [SolidView],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="sides" role="group" aria-label="What is shown">
      @for (one of all; track one.value) {
        <button type="button" [attr.aria-pressed]="side() === one.value" [class.on]="side() === one.value" (click)="side.set(one.value)">{{ one.label }}</button>
      }
    </div>
    <twin-solid-view [solids]="solids()" [spots]="spots()" label="The master and the copy" [aims]="spots().length > 0" (picked)="choose($event)" />
  `,
  styles: `
    :host { position: relative; display: block; min-height: 300px; background: var(--sheet); }
    twin-solid-view { position: absolute; inset: 0; }
    .sides { position: absolute; z-index: 1; top: 8px; left: 12px; display: flex; gap: 2px 14px; }
    .sides button { padding: 4px 0; border: 0; border-bottom: 2px solid transparent; background: none; color: var(--ink-two); font: inherit; font-size: 12.5px; cursor: pointer; }
    .sides .on { border-color: var(--ink); color: var(--ink); font-weight: 600; }
  `,
})
export class SolidMatch {
  readonly master = input.required<Mesh>();
  readonly copy = input.required<Mesh>();
  /** Those of this solid; of others there is only the place in the list. */
  readonly differences = input.required<readonly Difference[]>();
  readonly chosen = input<number | null>(null);
  readonly picked = input.required<(index: number) => void>();

  protected readonly side = signal<Side>('both');
  protected readonly all: { value: Side; label: string }[] = [
    { value: 'both', label: 'Both' },
    { value: 'master', label: 'Master' },
    { value: 'copy', label: 'Copy' },
  ];

  private highlighted(side: 'masterEntries' | 'copyEntries'): number[] {
    const chosen = this.chosen();
    const some = this.differences().filter((_, i) => chosen === null || i === chosen);
    return [...new Set((some.some((one) => one[side].length) ? some : this.differences()).flatMap((one) => one[side]))];
  }

  protected readonly solids = computed((): ShownSolid[] => {
    const [side, master, copy] = [this.side(), this.master(), this.copy()];
    const own: ShownSolid = { mesh: master, colour: master.colour, highlighted: this.highlighted('masterEntries') };
    const other: ShownSolid = { mesh: copy, colour: copy.colour, highlighted: this.highlighted('copyEntries') };
    if (side === 'master') return [own];
    if (side === 'copy') return [other];
    return [
      { ...own, ghost: true, highlighted: [] },
      { ...other, colour: copy.colour || master.colour },
    ];
  });
  /** A click on the solid chooses the difference whose place is nearest, if one is near. */
  protected choose(at: Spot): void {
    const box = boxOfMesh(this.master());
    const most = box ? Math.max(...sizesOf(box)) / 6 : 0;
    const found = this.differences()
      .flatMap(({ spot }, i) => (spot ? [{ i, off: Math.hypot(...spot.map((value, k) => value - at[k]!)) }] : []))
      .sort((a, b) => a.off - b.off)[0];
    if (found && found.off <= most) this.picked()(found.i);
  }

  protected readonly spots = computed(() =>
    this.differences().flatMap((one, i) => (one.spot ? [{ at: one.spot as Spot, chosen: i === this.chosen() }] : [])),
  );
}
