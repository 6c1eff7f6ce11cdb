import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { JobRun, MachineProfile, Needle } from '@inkwell-twin/core/web';
import { Stock } from '@inkwell-twin/core/solids';
import type { ShownSolid } from '../../content/mesh/scene';
import { SolidView } from '../../content/mesh/solid-view';

/** What cedar looks like. */
const WOOD = '#d9b98a';

/** What is left of the stock when the needle is somewhere along its job, in space. */
@Component({
  selector: 'twin-stock-look',
  imports: [SolidView],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<twin-solid-view [solids]="solids()" label="What is left of the stock" />`,
  styles: `
    :host { display: block; }
    twin-solid-view { height: 100%; }
  `,
})
export class StockLook {
  readonly run = input.required<JobRun>();
  readonly machine = input.required<MachineProfile>();
  readonly needle = input.required<Needle | null>();
  private readonly stock = computed(() => new Stock(this.run(), this.machine()));
  protected readonly solids = computed((): readonly ShownSolid[] => {
    const [stock, needle] = [this.stock(), this.needle()];
    if (needle) stock.to(needle);
    return [{ mesh: stock.mesh(WOOD), colour: WOOD, stepped: true }];
  });
}
